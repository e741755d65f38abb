import { render } from '@testing-library/react';
import fc from 'fast-check';
import { unbroken, Unbroken } from './unbroken';

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

it('in a long text by its spaces alone', () => {
  expect(unbroken('Gain: +2.7 % from 2,175 to 2,500 rpm, in 4.')).toBe('Gain: +2.7\u00a0% from 2,175\u00a0to 2,500\u00a0rpm, in 4.');
  fc.assert(fc.property(fc.string(), (text) => expect(unbroken(text).replaceAll('\u00a0', ' ')).toBe(text.replaceAll('\u00a0', ' '))));
});

it('changes no letter of what is said', () => {
  fc.assert(
    fc.property(fc.string(), (text) => {
      expect(spans(text).text).toBe(text);
    }),
  );
});
