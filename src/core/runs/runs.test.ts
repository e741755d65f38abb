import fc from 'fast-check';
import { isFailure, must } from '../failure';
import { compareRuns } from '../compare/compare';
import { CORRECTION_METHODS } from '../documents/kinds';
import { convertCorrection, correctionFactor } from './correction';
import { gridRun } from './grid';
import { smoothOverRpm } from './smooth';
import { runSweep } from './sweep';

const weather = { p_Pa: 99_000, T_K: 298.15, rh: 0.4 };

describe('correction', () => {
  it('undoes and redoes any method', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...CORRECTION_METHODS),
        fc.constantFrom(...CORRECTION_METHODS),
        fc.double({ min: 1, max: 5e5, noNaN: true }),
        (from, to, power_W) => {
          const there = must(convertCorrection({ power_W, from, to, weather }));
          const back = must(convertCorrection({ power_W: there.power_W, from: to, to: from, weather }));
          expect(back.power_W / power_W).toBeCloseTo(1, 12);
          expect(there.uncorrected_W * must(correctionFactor(from, weather)).factor).toBeCloseTo(power_W, 6);
        },
      ),
    );
  });

  it('STD reads about four percent above J1349 on one day, and extremes are out of range', () => {
    const ratio = must(correctionFactor('STD', weather)).factor / must(correctionFactor('SAE J1349', weather)).factor;
    expect(ratio).toBeGreaterThan(1.03);
    expect(ratio).toBeLessThan(1.06);
    expect(must(correctionFactor('SAE J1349', { p_Pa: 80_000, T_K: 310, rh: 0.2 })).inRange).toBe(false);
    expect(correctionFactor('STD', { p_Pa: 1, T_K: 300, rh: 0 })).toMatchObject({ error: 'pressure_out_of_range' });
  });
});

describe('sweep', () => {
  it('takes the longest rise and forgives a small fall-back', () => {
    expect(must(runSweep([1000, 2000, 1990, 3000, 1500, 1800]))).toEqual({ first: 0, last: 3 });
    expect(must(runSweep([3000, 3200, 1500, 2500, 4500, 2000]))).toEqual({ first: 2, last: 4 });
  });

  it('waits for the throttle, and says when it never opens', () => {
    expect(must(runSweep([1000, 2000, 3000, 4000], [20, 80, 96, 99]))).toEqual({ first: 2, last: 3 });
    expect(runSweep([1000, 2000], [20, 30])).toMatchObject({ error: 'no_sweep', reason: 'throttle_never_open' });
    expect(runSweep([])).toMatchObject({ error: 'no_sweep' });
    expect(runSweep([3000, 2000])).toMatchObject({ error: 'no_sweep' });
  });
});

/** The definition, without the window that makes the real one fast. */
function slowSmooth(rpm: number[], value: number[], fwhm: number): number[] {
  const sigma = fwhm / (2 * Math.sqrt(2 * Math.LN2));
  return rpm.map((at) => {
    let [s0, s1, s2, t0, t1] = [0, 0, 0, 0, 0];
    rpm.forEach((x, i) => {
      const w = Math.exp(-0.5 * ((x - at) / sigma) ** 2);
      s0 += w;
      s1 += w * (x - at);
      s2 += w * (x - at) ** 2;
      t0 += w * value[i]!;
      t1 += w * (x - at) * value[i]!;
    });
    const det = s0 * s2 - s1 * s1;
    return det <= 1e-9 * s0 * s0 * sigma * sigma ? t0 / s0 : (s2 * t0 - s1 * t1) / det;
  });
}

describe('smoothing', () => {
  const samples = fc.array(fc.record({ rpm: fc.integer({ min: 1000, max: 7000 }), value: fc.double({ min: 0, max: 1000, noNaN: true }) }), {
    minLength: 2,
    maxLength: 60,
  });

  it('is the slow definition, only faster', () => {
    fc.assert(
      fc.property(samples, fc.constantFrom(50, 100, 200, 400), (list, fwhm) => {
        const rpm = list.map((s) => s.rpm);
        const value = list.map((s) => s.value);
        const slow = slowSmooth(rpm, value, fwhm);
        smoothOverRpm(rpm, value, fwhm).forEach((v, i) => expect(Math.abs(v - slow[i]!)).toBeLessThan(1e-6 * (1 + Math.abs(slow[i]!))));
      }),
    );
  });

  it('leaves a straight line straight, to its very ends', () => {
    const rpm = Array.from({ length: 80 }, (_, i) => 2000 + 50 * i + (i % 3) * 7);
    const line = rpm.map((n) => 10 + 0.02 * n);
    smoothOverRpm(rpm, line, 400).forEach((v, i) => expect(v).toBeCloseTo(line[i]!, 6));
    expect(Array.from(smoothOverRpm(rpm, line, 0))).toEqual(line);
  });
});

describe('grid', () => {
  it('stays within the run and on multiples of the step; equal speeds are averaged', () => {
    const g = must(gridRun([1010, 1060, 1060, 1130], [1, 2, 4, 6]));
    expect(g.rpm).toEqual([1025, 1050, 1075, 1100, 1125]);
    expect(g.value[2]).toBeCloseTo(3 + (15 / 70) * 3, 9);
    expect(isFailure(gridRun([1001, 1020], [1, 2]))).toBe(true);
    expect(isFailure(gridRun([], []))).toBe(true);
    expect(must(gridRun([1025], [7]))).toEqual({ rpm: [1025], value: [7] });
  });
});

describe('compareRuns', () => {
  const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 25 * i);
  const a = { rpm, power_W: rpm.map((n) => 20 * n) };

  it('finds a uniform gain in every third, and none between equals', () => {
    const b = { rpm, power_W: a.power_W.map((p) => p * 1.03) };
    const c = must(compareRuns(a, b, { fwhm_rpm: 100 }));
    c.bandMean_pct.forEach((p) => expect(p).toBeCloseTo(3, 6));
    expect(must(compareRuns(a, a)).difference_W.every((d) => d === 0)).toBe(true);
  });

  it('never compares beyond a run’s own ends', () => {
    const short = { rpm: rpm.slice(50, 120), power_W: a.power_W.slice(50, 120) };
    const c = must(compareRuns(a, short, { bands_rpm: [[4000, 4500]], shift: { rpm: 4800, gearStep: 0.8 } }));
    expect(c.grid_rpm[0]).toBe(rpm[50]);
    expect(c.grid_rpm.at(-1)).toBe(rpm[119]);
    expect(c.ownBands[0]!.mean_W).toBeCloseTo(0, 9);
    expect(c.used!.difference_W).toBeCloseTo(0, 9);
  });

  it('refuses runs that share nothing', () => {
    expect(compareRuns({ rpm: [1000, 1100], power_W: [1, 2] }, { rpm: [5000, 5100], power_W: [1, 2] })).toMatchObject({
      error: 'no_common_range',
    });
  });
});
