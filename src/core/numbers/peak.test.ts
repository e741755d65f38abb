import fc from 'fast-check';
import { peakGain, peakIndex, peakOf } from './peak';

const list = fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 40 });

it('finds the largest, the first of equals', () => {
  fc.assert(
    fc.property(list, (xs) => {
      expect(peakOf(xs) === Math.max(...xs)).toBe(true);
      expect(xs.findIndex((x) => x === xs[peakIndex(xs)])).toBe(peakIndex(xs));
    }),
  );
  expect(peakOf([])).toBe(-Infinity);
  expect(peakIndex([])).toBe(0);
});

it('compares peaks wherever they stand', () => {
  expect(peakGain([1, 5, 2], [4, 1, 1])).toBeCloseTo(25, 12);
  expect(peakGain([3], [3])).toBe(0);
});
