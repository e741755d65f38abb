import fc from 'fast-check';
import { sortedQuantile } from './quantile';
import { gaussian, seededRandom } from './random';
import { secantRoot } from './root';

describe('seeded numbers', () => {
  it('are the same for a seed and others for another', () => {
    const take = (seed: number): number[] => {
      const random = seededRandom(seed);
      return Array.from({ length: 8 }, random);
    };
    expect(take(7)).toEqual(take(7));
    expect(take(7)).not.toEqual(take(8));
    expect(take(2 ** 33)).not.toEqual(take(0));
  });

  it('are even over their range', () => {
    const random = seededRandom(11);
    const bins = new Array<number>(16).fill(0);
    const n = 64_000;
    for (let i = 0; i < n; i += 1) bins[Math.floor(16 * random())]! += 1;
    // Chi-square with 15 degrees: 37.7 is the 99.9 % point.
    const expected = n / 16;
    expect(bins.reduce((sum, b) => sum + (b - expected) ** 2 / expected, 0)).toBeLessThan(37.7);
  });

  it('make a normal distribution of mean 0 and spread 1', () => {
    const random = seededRandom(3);
    const list = Array.from({ length: 40_000 }, () => gaussian(random));
    const mean = list.reduce((a, b) => a + b, 0) / list.length;
    const variance = list.reduce((a, b) => a + (b - mean) ** 2, 0) / list.length;
    expect(Math.abs(mean)).toBeLessThan(0.02);
    expect(Math.abs(variance - 1)).toBeLessThan(0.03);
    expect(list.filter((x) => Math.abs(x) < 1).length / list.length).toBeCloseTo(0.6827, 2);
  });
});

describe('quantiles', () => {
  it('go from the lowest to the highest and never back', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 30 }), (list) => {
        const sorted = [...list].sort((a, b) => a - b);
        // Compared as numbers: a nought may have either sign.
        expect(sortedQuantile(sorted, 0) === sorted[0]).toBe(true);
        expect(sortedQuantile(sorted, 1) === sorted.at(-1)).toBe(true);
        let last = -Infinity;
        for (let q = 0; q <= 1; q += 0.05) {
          const x = sortedQuantile(sorted, q);
          expect(x).toBeGreaterThanOrEqual(last - 1e-9 * Math.max(1, Math.abs(last)));
          last = x;
        }
      }),
    );
  });

  it('are linear between members, and none of nothing', () => {
    expect(sortedQuantile([1, 2, 3, 4, 5], 0.1)).toBeCloseTo(1.4, 12);
    expect(sortedQuantile([], 0.5)).toBeNaN();
  });
});

describe('the quick root', () => {
  it('finds the root of falling functions from near by', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 5, noNaN: true }), fc.double({ min: 0.9, max: 1.1, noNaN: true }), (root, off) => {
        const found = secantRoot((x) => root ** 3 - x ** 3, root * off, 0, 1e-10);
        expect(found!.x / root).toBeCloseTo(1, 8);
        expect(found!.slope).toBeLessThan(0);
      }),
    );
  });

  it('gives up where there is no value, no fall, or only the other side of zero', () => {
    expect(secantRoot(() => NaN, 1, 0, 1e-9)).toBeNull();
    expect(secantRoot((x) => x, 1, 0, 1e-9)).toBeNull();
    expect(secantRoot((x) => -5 - x, 1, -1, 1e-9)).toBeNull();
    expect(secantRoot((x) => (x > 1.05 ? NaN : 2 - x), 1, -1, 1e-9)).toBeNull();
  });
});
