import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { normalCdf, normalQuantile } from '../numbers/normal';
import { permutationTest } from './permutation';
import { welch } from './welch';

const figures = fc.array(fc.double({ min: 90, max: 110, noNaN: true }), { minLength: 2, maxLength: 8 });

describe('distributions', () => {
  it('the normal one is what tables say', () => {
    expect(normalCdf(0)).toBe(0.5);
    expect(normalCdf(1.959963984540054)).toBeCloseTo(0.975, 12);
    expect(normalCdf(-3)).toBeCloseTo(0.0013498980316, 12);
    expect([normalCdf(-40), normalCdf(40)]).toEqual([0, 1]);
  });

  it('its quantile turns its distribution about', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-9, max: 1 - 1e-9, noNaN: true }), (p) => {
        expect(Math.abs(normalCdf(normalQuantile(p)) - p)).toBeLessThan(1e-13);
      }),
    );
    expect(normalQuantile(0.975)).toBeCloseTo(1.959963984540054, 12);
    expect([normalQuantile(0), normalQuantile(1)]).toEqual([-Infinity, Infinity]);
  });
});

describe('Welch', () => {
  it('turns over with its sides, and does not care for a shift or a scale', () => {
    fc.assert(
      fc.property(figures, figures, (a, b) => {
        const one = welch(a, b);
        if (isFailure(one)) return;
        const other = must(welch(b, a));
        expect(other.difference).toBeCloseTo(-one.difference, 9);
        expect([other.low, other.high]).toEqual([expect.closeTo(-one.high, 9), expect.closeTo(-one.low, 9)]);
        const moved = must(
          welch(
            a.map((v) => 3 * v + 7),
            b.map((v) => 3 * v + 7),
          ),
        );
        expect(moved.difference).toBeCloseTo(3 * one.difference, 6);
      }),
    );
  });

  it('refuses sides without any scatter', () => {
    expect(welch([1, 1], [2, 2])).toMatchObject({ error: 'no_spread' });
  });
});

describe('permutation', () => {
  it('the observed split counts, and the drawn answer is near the exact one', () => {
    const values = [1, 2, 3, 4, 11, 12, 13, 14];
    const side = ['A', 'A', 'A', 'A', 'B', 'B', 'B', 'B'] as const;
    expect(must(permutationTest({ values, side }))).toMatchObject({ splits: 70, exact: true, p: 2 / 70 });
    const many = Array.from({ length: 20 }, (_, i) => Math.sin(i * 7));
    const long = many.map((_, i) => (i < 10 ? 'A' : 'B') as 'A' | 'B');
    const drawn = must(permutationTest({ values: many, side: long }));
    expect(drawn).toMatchObject({ exact: false, splits: 184_756 });
    expect(drawn.p).toBeCloseTo(must(permutationTest({ values: many, side: long, seed: 3 })).p, 1);
    expect(permutationTest({ values: [1, 2], side: ['A', 'A'] })).toMatchObject({ error: 'one_side_only' });
  });
});
