import fc from 'fast-check';
import { logGamma, regularisedBeta, studentCdf, studentQuantile } from './student';

// Reference values to 10 digits from published tables of Student's t.
it.each([
  [0.975, 1, 12.7062047364],
  [0.975, 2, 4.3026527297],
  [0.975, 4, 2.7764451052],
  [0.975, 10, 2.228138852],
  [0.95, 7, 1.8945786051],
  [0.995, 30, 2.7499956536],
])('t quantile %d at %d degrees of freedom', (p, df, want) => {
  expect(studentQuantile(p, df)).toBeCloseTo(want, 8);
});

it('quantile and distribution undo one another, and are symmetric', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.51, max: 0.999, noNaN: true }), fc.double({ min: 1, max: 200, noNaN: true }), (p, df) => {
      const t = studentQuantile(p, df);
      expect(studentCdf(t, df)).toBeCloseTo(p, 10);
      expect(studentCdf(-t, df)).toBeCloseTo(1 - p, 10);
      expect(studentQuantile(1 - p, df)).toBeCloseTo(-t, 6);
    }),
  );
});

it('log gamma of whole numbers is the log of a factorial', () => {
  expect(logGamma(1)).toBeCloseTo(0, 12);
  expect(logGamma(6)).toBeCloseTo(Math.log(120), 12);
  expect(logGamma(0.5)).toBeCloseTo(Math.log(Math.sqrt(Math.PI)), 12);
});

it('the beta function runs from 0 to 1 and mirrors', () => {
  expect(regularisedBeta(0, 2, 3)).toBe(0);
  expect(regularisedBeta(1, 2, 3)).toBe(1);
  expect(regularisedBeta(0.3, 2, 5)).toBeCloseTo(1 - regularisedBeta(0.7, 5, 2), 12);
});

it('refuses what is not a probability', () => {
  expect(() => studentQuantile(1, 4)).toThrow(RangeError);
  expect(() => studentQuantile(0.9, 0)).toThrow(RangeError);
});
