import { fireEvent, render, screen } from '@testing-library/react';
import { RpmScrubber } from './scrubber';

const at = (rpm: number, seen: number[]) => render(<RpmScrubber rpm={rpm} range={[1500, 6800]} onChange={(n) => seen.push(n)} />);

it('moves by fifty with the arrow keys, by five hundred with Shift, and stays in range', () => {
  const seen: number[] = [];
  at(6400, seen);
  const handle = screen.getByRole('slider', { hidden: true });
  expect(handle).toHaveAttribute('aria-valuetext', '6,400 rpm');
  fireEvent.keyDown(handle, { key: 'ArrowLeft' });
  fireEvent.keyDown(handle, { key: 'ArrowRight', shiftKey: true });
  fireEvent.keyDown(handle, { key: 'a' });
  expect(seen).toEqual([6350, 6800]);
});
