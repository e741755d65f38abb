import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { leastSquares } from '../numbers/least-squares';
import { medianOf, varianceOf } from '../numbers/moments';
import { noncentralTCdf } from '../numbers/noncentral';
import { normalCdf } from '../numbers/normal';
import { gaussian, seededRandom } from '../numbers/random';
import { studentCdf } from '../numbers/student';
import { answerFrom, fourAnswers } from './answer';
import { differenceBand } from './band';
import { driftEffect, returnsToA } from './drift';
import { sideEstimate, type RunValue } from './estimate';
import { permutationTest } from './permutation';
import { powerWith, runsPerSide } from './planning';
import { compareSides } from './sides';
import { welch } from './welch';

const figures = fc.array(fc.double({ min: 90, max: 110, noNaN: true }), { minLength: 2, maxLength: 8 });

describe('distributions', () => {
  it('the normal one is what tables say', () => {
    expect(normalCdf(0)).toBe(0.5);
    expect(normalCdf(1.959963984540054)).toBeCloseTo(0.975, 12);
    expect(normalCdf(-3)).toBeCloseTo(0.0013498980316, 12);
    expect([normalCdf(-40), normalCdf(40)]).toEqual([0, 1]);
  });

  it('the noncentral t without noncentrality is Student’s', () => {
    fc.assert(
      fc.property(fc.double({ min: -4, max: 4, noNaN: true }), fc.integer({ min: 2, max: 60 }), (t, df) => {
        expect(noncentralTCdf(t, df, 0)).toBeCloseTo(studentCdf(t, df), 7);
      }),
    );
  });
});

describe('least squares', () => {
  it('leaves residuals that are square to every column', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 6, maxLength: 20 }), (y) => {
        const columns = [y.map(() => 1), y.map((_, i) => i), y.map((_, i) => i % 2)];
        const found = leastSquares(columns, y)!;
        for (const c of columns) expect(c.reduce((s, v, i) => s + v * found.residuals[i]!, 0)).toBeCloseTo(0, 8);
        expect(found.df).toBe(y.length - 3);
      }),
    );
  });

  it('refuses columns that depend on one another, or outnumber the rows', () => {
    expect(
      leastSquares(
        [
          [1, 1, 1],
          [2, 2, 2],
        ],
        [1, 2, 3],
      ),
    ).toBeNull();
    expect(leastSquares([[1], [2]], [1])).toBeNull();
  });
});

it('moments of little or nothing', () => {
  expect(varianceOf([3])).toBeNaN();
  expect(medianOf([])).toBeNaN();
  expect(medianOf([3, NaN, 1, 2])).toBe(2);
  expect(medianOf([4, 1])).toBe(2.5);
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

describe('the four answers', () => {
  it('are a gain exactly where the interval is above nothing, and never two at once', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.integer({ min: 1, max: 20 }),
        (difference, standardError, df) => {
          const found = answerFrom({ difference, standardError, df }, 0.5);
          expect(found.answer === 'gain').toBe(found.low > 0);
          expect(found.answer === 'loss').toBe(found.high < 0);
          if (found.answer === 'no difference that matters') expect(Math.abs(difference)).toBeLessThan(0.5);
          const lower = answerFrom({ difference, standardError, df }, 0.5, 'lower');
          if (found.answer === 'gain') expect(lower.answer).toBe('loss');
        },
      ),
    );
  });

  it('pass a refusal on', () => {
    expect(fourAnswers({ a: [1], b: [1, 2], threshold: 1 })).toMatchObject({ error: 'too_few_runs' });
  });
});

describe('planning', () => {
  it('more runs see more, and the number asked for is the smallest that does', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.3, max: 4, noNaN: true }), fc.double({ min: 0.2, max: 1.5, noNaN: true }), (effect, sd) => {
        const found = runsPerSide({ effect, sd });
        if (isFailure(found)) return;
        expect(found.powerAtN).toBeGreaterThanOrEqual(0.8);
        if (found.runsPerSide > 2) expect(powerWith(found.runsPerSide - 1, effect, sd)).toBeLessThan(0.8);
      }),
      { numRuns: 40, endOnFailure: true },
    );
  });

  it('refuses what no number of runs would tell', () => {
    expect(runsPerSide({ effect: 0, sd: 1 })).toMatchObject({ error: 'bad_input' });
    expect(runsPerSide({ effect: 1e-4, sd: 1 })).toMatchObject({ reason: 'effect_too_small' });
  });
});

it('a return to the old part is one after the new one', () => {
  expect([returnsToA(['A', 'B', 'A']), returnsToA(['A', 'B']), returnsToA(['B', 'A']), returnsToA(['A', 'A'])]).toEqual([
    true,
    false,
    false,
    false,
  ]);
  expect(driftEffect({ values: [1, 2, 3], side: ['A', 'B', 'A'] })).toMatchObject({ error: 'too_few_runs' });
});

describe('by simulation, with no effect at all', () => {
  const TRIALS = 1000;
  const DRIFT = 0.25;
  const SD = 0.4;
  /** Three standard errors of a share of 5 %. */
  const most = 0.05 + 3 * Math.sqrt((0.05 * 0.95) / TRIALS);

  const trial = (random: () => number, order: readonly ('A' | 'B')[], effect: number, visits = 1): RunValue[] =>
    Array.from({ length: visits }, (_, v) => {
      const level = 2 * gaussian(random);
      return order.map((side, i) => ({
        side,
        visit: `v${v}`,
        value: 100 + level + DRIFT * i + (side === 'B' ? effect : 0) + SD * gaussian(random),
      }));
    }).flat();

  it.each([
    ['stock, new, stock again', ['A', 'A', 'B', 'B', 'B', 'A'], 1, 'drift'],
    ['turn and turn about', ['A', 'B', 'A', 'B', 'A', 'B'], 1, 'drift'],
    ['two visits', ['A', 'A', 'B', 'B', 'A'], 2, 'visits and drift'],
  ] as const)(
    '%s: a gain or a loss is claimed in at most 5 %% of trials, and the interval covers the truth in 95 %%',
    (_name, order, visits, method) => {
      const random = seededRandom(7_001);
      let claimed = 0;
      let covered = 0;
      for (let t = 0; t < TRIALS; t += 1) {
        const none = sideEstimate(trial(random, order, 0, visits), 0.5)!;
        expect(none.method).toBe(method);
        if (none.answer === 'gain' || none.answer === 'loss') claimed += 1;
        const some = sideEstimate(trial(random, order, 1.2, visits), 0.5)!;
        if (some.low <= 1.2 && some.high >= 1.2) covered += 1;
      }
      expect(claimed / TRIALS).toBeLessThanOrEqual(most);
      expect(covered / TRIALS).toBeGreaterThanOrEqual(1 - most);
      expect(covered / TRIALS).toBeLessThanOrEqual(1 - (0.05 - 3 * Math.sqrt((0.05 * 0.95) / TRIALS)));
    },
  );

  it('the whole comparison of noisy curves claims a gain no more often, and its band holds the whole curve', () => {
    const random = seededRandom(99);
    const rpm = Array.from({ length: 120 }, (_, i) => 2000 + 40 * i);
    const trials = 200;
    const curve = (): { rpm: number[]; power_W: number[] } => {
      const level = 1 + 0.004 * gaussian(random);
      const tilt = 0.003 * gaussian(random);
      return { rpm, power_W: rpm.map((n, i) => 20 * n * level * (1 + tilt * (i / 60 - 1)) * (1 + 0.002 * gaussian(random))) };
    };
    let gains = 0;
    let outside = 0;
    for (let t = 0; t < trials; t += 1) {
      const sides = [0, 1].map(() => Array.from({ length: 4 }, curve)) as [ReturnType<typeof curve>[], ReturnType<typeof curve>[]];
      const found = must(compareSides(sides[0], sides[1], { fwhm_rpm: 100, assumedSd_pct: 0.8, seed: t }));
      if (found.word === 'gain') gains += 1;
      if (found.difference_pct.some((d) => Math.abs(d) > found.band!.halfWidth_pct)) outside += 1;
    }
    const slack = 3 * Math.sqrt((0.05 * 0.95) / trials);
    expect(gains / trials).toBeLessThanOrEqual(0.05 + slack);
    expect(outside / trials).toBeLessThanOrEqual(0.05 + slack + 0.02);
    expect(outside / trials).toBeGreaterThan(0.005);
  });
});

it('the band widens with the scatter and is the same for the same seed', () => {
  const runs = (k: number) => [1, 1 + k, 1 - k].map((s) => Array.from({ length: 30 }, (_, i) => (100 + i) * s));
  const band = (k: number) => must(differenceBand({ a: runs(k), b: runs(k), seed: 4 }));
  expect(band(0.01)).toEqual(band(0.01));
  expect(band(0.02).halfWidth_pct).toBeCloseTo(2 * band(0.01).halfWidth_pct, 6);
});
