import fc from 'fast-check';
import { engineOf, intake, solveOf } from '../../../test/engines';
import { must } from '../failure';
import { compilePath } from '../flow/compile';
import { isBoosted, referenceOf, solveChanged } from './induction';
import { driveRatio, equivalentPulley, pulleyForBoost, pulleyRatio, smallestPulleyForLimit } from './pulley';

const length = fc.double({ min: 0.04, max: 0.3, noNaN: true });

it('an overdriven lower is the same as a smaller upper on the stock lower', () => {
  fc.assert(
    fc.property(length, length, fc.double({ min: -0.3, max: 0.6, noNaN: true }), (crankPulley_m, blowerPulley_m, overdrive) => {
      const over = driveRatio({ crankPulley_m, blowerPulley_m, overdrive });
      const same = driveRatio({ crankPulley_m, blowerPulley_m: equivalentPulley(blowerPulley_m, overdrive) });
      expect(same / over).toBeCloseTo(1, 12);
    }),
  );
});

it('the smallest pulley just meets the limit', () => {
  const blowerPulley_m = smallestPulleyForLimit({ crankPulley_m: 0.18, overdrive: 0.1, step: 1.2, redline_rpm: 6500, limit_rpm: 16_000 });
  const at = must(pulleyRatio({ crankPulley_m: 0.18, blowerPulley_m, overdrive: 0.1, step: 1.2, rpm: 6500, limit_rpm: 16_000 }));
  expect(at.blower_rpm).toBeCloseTo(16_000, 6);
  const smaller = must(
    pulleyRatio({ crankPulley_m: 0.18, blowerPulley_m: blowerPulley_m * 0.99, overdrive: 0.1, step: 1.2, rpm: 6500, limit_rpm: 16_000 }),
  );
  expect(smaller.withinLimit).toBe(false);
});

it('gives the ratio alone where no speed is asked for', () => {
  expect(pulleyRatio({ crankPulley_m: 0.18, blowerPulley_m: 0.09 })).toEqual({ ratio: 2 });
  expect(pulleyRatio({ crankPulley_m: 0.18, blowerPulley_m: 0.09, rpm: 6000, blowerDisplacement_m3: 0.001 })).toEqual({
    ratio: 2,
    blower_rpm: 12_000,
    idealFlow_m3ps: 0.2,
  });
});

it.each([
  [{ crankPulley_m: 0, blowerPulley_m: 0.09 }],
  [{ crankPulley_m: 0.18, blowerPulley_m: -0.09 }],
  [{ crankPulley_m: 0.18, blowerPulley_m: 0.09, step: 0 }],
  [{ crankPulley_m: 0.18, blowerPulley_m: 0.09, overdrive: -1 }],
])('refuses %j', (drive) => {
  expect(pulleyRatio(drive)).toMatchObject({ error: 'bad_input', reason: 'pulley' });
});

const problem = engineOf('drawThrough');
const solve = solveOf(problem, intake(0.07), intake(0.07)) as never;

it('the pulley for a boost makes that boost', () => {
  const found = must(pulleyForBoost({ solve, at_rpm: 5000, boost_Pa: 55_000, crankPulley_m: 0.18 }));
  if (problem.kind !== 'drawThrough') throw new Error('kind');
  const input = { ...problem.input, blower: { ...problem.input.blower, ratio: found.ratio } };
  const ref = must(referenceOf('drawThrough', solve));
  const spun = must(solveChanged(ref, { kind: 'drawThrough', input }, must(compilePath(intake(0.07)))));
  if (!isBoosted(spun)) throw new Error('not boosted');
  expect(spun.boost_Pa[2]! / 55_000).toBeCloseTo(1, 8);
  expect(found.blowerPulley_m).toBeCloseTo(0.18 / found.ratio, 12);
});

it('more boost takes a smaller pulley', () => {
  const at = (boost_Pa: number): number => must(pulleyForBoost({ solve, at_rpm: 5000, boost_Pa, crankPulley_m: 0.18 })).blowerPulley_m;
  expect(at(60_000)).toBeLessThan(at(45_000));
});

it.each([
  ['beyond every pulley', 900_000, 'no_pulley'],
  ['at a speed that is not solved', 50_000, 'bad_input'],
])('%s: %d Pa is %s', (_name, boost_Pa, error) => {
  const at_rpm = error === 'bad_input' ? 5100 : 5000;
  expect(pulleyForBoost({ solve, at_rpm, boost_Pa, crankPulley_m: 0.18 })).toMatchObject({ error });
});
