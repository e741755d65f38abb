import { render } from '@testing-library/react';
import fc from 'fast-check';
import { Unbroken } from './unbroken';

const spans = (text: string) => {
  const { container, unmount } = render(<Unbroken>{text}</Unbroken>);
  const out = { whole: [...container.querySelectorAll('span')].map((s) => s.textContent), text: container.textContent };
  unmount();
  return out;
};

it('keeps a figure with its unit and leaves the rest free to break', () => {
  expect(spans('Ask for up to 674 kg/h of air, −0.7 % less.').whole).toEqual(['674 kg/h', '−0.7 %']);
  expect(spans('Fenwick 66').whole).toEqual([]);
});

it('changes no letter of what is said', () => {
  fc.assert(
    fc.property(fc.string(), (text) => {
      expect(spans(text).text).toBe(text);
    }),
  );
});
