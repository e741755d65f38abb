import fc from 'fast-check';
import { isFailure } from '../failure';
import { gaussian, seededRandom } from '../numbers/random';
import { leastSquares } from '../numbers/least-squares';
import { bestStrip, chanceOf, halfWidth, nextPass, plannedStrips, sharpness, type StripDay } from './design';
import { effectColumns, sideEffect, type Pass } from './passes';

const DAY: StripDay = { hours_min: 300, perPass_min: 10, coolDown_min: 20, swap_min: 35 };
const FEES = { entryFee: 60, perPassFee: 2 };

it('the worth of a design is the standard error that least squares find', () => {
  fc.assert(
    fc.property(fc.array(fc.boolean(), { minLength: 5, maxLength: 14 }), fc.integer({ min: 1, max: 500 }), (sides, seed) => {
      fc.pre(sides.some(Boolean) && !sides.every(Boolean));
      const random = seededRandom(seed);
      const columns = [sides.map(() => 1), sides.map(Number), sides.map(() => gaussian(random))];
      const y = sides.map(() => gaussian(random));
      const fit = leastSquares(columns, y);
      const s = sharpness(columns);
      fc.pre(fit !== null && s !== null && fit.df > 0);
      expect(s!.df).toBe(fit!.df);
      expect(s!.perSd * Math.sqrt(fit!.variance)).toBeCloseTo(fit!.standardErrors[1]!, 8);
    }),
  );
});

it('a side that goes with the hour cannot be told from it', () => {
  expect(
    sharpness([
      [1, 1, 1, 1],
      [0, 0, 1, 1],
      [0, 0, 1, 1],
    ]),
  ).toBeNull();
});

describe('the day’s plan', () => {
  it('alternating costs swaps and time; blocks drive more passes and tell less while the day drifts', () => {
    const [turn, back, blocks] = plannedStrips(DAY, FEES, 0.3, 0.2);
    expect(turn!.order).toBe('alternating');
    expect(blocks!.sequence.length).toBeGreaterThan(turn!.sequence.length);
    for (const p of [turn!, back!, blocks!]) expect(p.cost).toBe(60 + 2 * p.sequence.length);
    for (const p of [turn!, back!, blocks!]) expect(p.minutes).toBeLessThanOrEqual(DAY.hours_min);
    // Per pass, turn and turn about is far sharper than two blocks with a drift fitted.
    expect(turn!.half! * Math.sqrt(turn!.sequence.length)).toBeLessThan(blocks!.half! * Math.sqrt(blocks!.sequence.length));
  });

  it('a swap that takes the morning speaks for going back once', () => {
    const best = bestStrip(plannedStrips({ ...DAY, swap_min: 90 }, FEES, 0.3, 0.2));
    expect(best!.order).not.toBe('alternating');
  });

  it('a day too short for four passes tells nothing, and says so', () => {
    const plans = plannedStrips({ ...DAY, hours_min: 40 }, FEES, 0.3, 0.2);
    expect(plans.every((p) => p.chance === null)).toBe(true);
    expect(bestStrip(plans)).toBeNull();
  });

  it('chances lie between one in twenty and one, and grow with the effect', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 1, noNaN: true }), fc.double({ min: 1.1, max: 3, noNaN: true }), (effect, times) => {
        const s = { perSd: 0.7, df: 7 };
        expect(chanceOf(s, effect, 0.3)).toBeGreaterThanOrEqual(0.05 - 1e-9);
        expect(chanceOf(s, effect * times, 0.3)).toBeGreaterThanOrEqual(chanceOf(s, effect, 0.3) - 1e-9);
        expect(halfWidth(s, 0.6)).toBeCloseTo(2 * halfWidth(s, 0.3), 10);
      }),
    );
  });
});

describe('the next pass', () => {
  const random = seededRandom(5);
  const passes: (Pass & { value: number })[] = ['A', 'A', 'A', 'A', 'B', 'B'].map((side) => ({
    side: side as 'A' | 'B',
    visit: 'v',
    value: 40 + (side === 'B' ? 0.4 : 0) + 0.1 * gaussian(random),
  }));

  it('is worth most on the side with fewer passes, and never widens the interval', () => {
    const now = sideEffect(passes);
    if (isFailure(now)) throw new Error(now.error);
    const next = nextPass(passes, now.terms, now.residualSd);
    expect(next[0]!.side).toBe('B');
    expect(next[0]!.half).toBeLessThan((now.high - now.low) / 2);
    const s = sharpness(effectColumns(passes, now.terms))!;
    expect(halfWidth(s, now.residualSd)).toBeCloseTo((now.high - now.low) / 2, 9);
  });

  it('says nothing before there is anything to go by', () => {
    expect(nextPass([], [], 1)).toEqual([]);
    expect(nextPass(passes, [], 0)).toEqual([]);
  });
});
