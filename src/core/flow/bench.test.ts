import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { benchCeiling, benchFlow, benchLossCoefficient, benchMoveToDepression } from './bench';
import { bendK, entryK, frictionFactor, haalandRoughness, junctionK, lensArea } from './losses';

const D28 = 28 * 249.08891;

it('a loss coefficient gives a bench figure that gives the coefficient back', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.01, max: 3, noNaN: true }),
      fc.double({ min: 0.001, max: 0.01, noNaN: true }),
      fc.double({ min: 0.75, max: 1, noNaN: true }),
      (K, gross, share) => {
        const { flow_m3ps } = must(benchFlow(K, 0.04, gross * share, gross, D28));
        const back = must(
          benchLossCoefficient({ flow_m3ps, depression_Pa: D28, netArea_m2: gross * share, grossArea_m2: gross, entryK: 0.04 }),
        );
        expect(back.rawK).toBeCloseTo(K, 6);
        expect(back.aboveBore).toBe(false);
      },
    ),
  );
});

it('moving a flow to a depression and back changes nothing, and the hand rule is near', () => {
  const there = must(benchMoveToDepression(0.3, D28, D28 / 2));
  const back = must(benchMoveToDepression(there.flow_m3ps, D28 / 2, D28));
  expect(back.flow_m3ps).toBeCloseTo(0.3, 12);
  expect(there.handRule_m3ps / there.flow_m3ps).toBeCloseTo(1, 1);
  expect(isFailure(benchMoveToDepression(0.3, 0, D28))).toBe(true);
});

it('refuses a figure above the ideal nozzle with the bore it would need, and doubts one just below', () => {
  const ok = benchCeiling(0.28, D28, 0.066);
  expect(ok).toMatchObject({ rating: 'ok' });
  const ceiling = must(ok as never) as { ceiling_m3ps: number };
  expect(benchCeiling(ceiling.ceiling_m3ps * 0.98, D28, 0.066)).toMatchObject({ rating: 'doubtful' });
  const over = benchCeiling(ceiling.ceiling_m3ps * 1.21, D28, 0.066) as { error: string; boreNeeded_m: number };
  expect(over.error).toBe('bench_above_ceiling');
  expect(over.boreNeeded_m).toBeCloseTo(0.066 * 1.1, 9);
});

it('marks a figure above what the bore allows instead of making a negative loss', () => {
  const figure = { flow_m3ps: 0.42, depression_Pa: D28, netArea_m2: 0.0034, grossArea_m2: 0.0036, entryK: 0.04 };
  const loss = must(benchLossCoefficient(figure));
  expect(loss).toMatchObject({ K: 0, aboveBore: true });
  expect(loss.rawK).toBeLessThan(0);
});

describe('tables of losses', () => {
  it('a sharp step costs most, a taper little, a radius helps, equal areas nothing', () => {
    expect(junctionK(0.004, 0.004)).toBe(0);
    const step = junctionK(0.006, 0.004);
    expect(junctionK(0.006, 0.004, 0.15)).toBeLessThan(step);
    expect(junctionK(0.006, 0.004, Math.PI / 2, 0.01)).toBeLessThan(step);
    expect(junctionK(0.004, 0.006)).toBeCloseTo((1 - 4 / 6) ** 2, 12);
    expect(junctionK(0.004, 0.006, 0.39)).toBeLessThanOrEqual((1 - 4 / 6) ** 2);
  });

  it('a bell mouth costs less the rounder it is; a bend less the wider', () => {
    expect(entryK(0.08, 0)).toBe(0.5);
    expect(entryK(0.08, 0.02)).toBe(0.04);
    expect(bendK({ angle_rad: Math.PI / 2, mitred: true })).toBeCloseTo(0.9, 12);
    expect(bendK({ angle_rad: Math.PI / 4, radiusRatio: 2 })).toBeCloseTo(0.09, 12);
  });

  it('friction falls with speed and rises with roughness; laminar below 2300', () => {
    const smooth = haalandRoughness(1.5e-6, 0.07);
    expect(frictionFactor(1000, smooth)).toBe(0.064);
    expect(frictionFactor(2e5, smooth)).toBeLessThan(frictionFactor(2e4, smooth));
    expect(frictionFactor(1e5, haalandRoughness(2e-3, 0.07))).toBeGreaterThan(frictionFactor(1e5, smooth));
    expect(frictionFactor(0, smooth)).toBe(0);
  });

  it('the lens of two circles is the smaller one when inside, nothing when apart', () => {
    expect(lensArea(0.06, 0.08, 0.005)).toBeCloseTo((Math.PI / 4) * 0.06 ** 2, 12);
    expect(lensArea(0.06, 0.06, 0.06)).toBe(0);
    expect(lensArea(0.06, 0.06, 0.03)).toBeGreaterThan(0);
  });
});
