import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { DayField, TimeField } from './when';

const said: (string | null)[] = [];
function Both() {
  const [day, setDay] = useState<string | null>('2026-04-18');
  const [time, setTime] = useState<string | null>(null);
  return (
    <>
      <DayField label="Date" value={day} onChange={(v) => (setDay(v), said.push(v))} />
      <TimeField label="Time of day" value={time} onChange={(v) => (setTime(v), said.push(v))} />
    </>
  );
}
beforeEach(() => (said.length = 0));
const typeIn = async (field: HTMLElement, text: string): Promise<void> => {
  await userEvent.click(field);
  await userEvent.clear(field);
  await userEvent.type(field, text);
  fireEvent.keyDown(field, { key: 'Enter', keyCode: 13 });
};

it.each(['3 May 2026', '2026-05-03', '3.5.2026'])('a day typed as %s is that day, shown with its month in words', async (text) => {
  render(<Both />);
  const field = screen.getByLabelText('Date');
  expect(field).toHaveValue('18 Apr 2026');
  await typeIn(field, text);
  expect(said.at(-1)).toBe('2026-05-03');
  expect(field).toHaveValue('3 May 2026');
});

it.each([
  ['9:05', '09:05'],
  ['1405', '14:05'],
])('a time typed as %s is %s', async (text, time) => {
  render(<Both />);
  await typeIn(screen.getByLabelText('Time of day'), text);
  expect(said.at(-1)).toBe(time);
});
