import fc from 'fast-check';
import { compareSides } from '../compare/sides';
import { NO_PLAN } from '../documents/blank';
import { must } from '../failure';
import { TableReader } from '../read/reader';
import { columnValues } from '../read/result';
import { preambleFacts } from '../read/preamble';
import { runSweep } from '../runs/sweep';
import { dynoFileText, dynoReadings, heatSoak, type DynoCurve, type DynoReading } from './dyno';
import type { PracticeRun } from '../documents/practice';
import {
  practiceCurve,
  practiceMinutes,
  practicePass,
  practiceScore,
  practiceTruth,
  pullLuck,
  trueEffect,
  type PracticeStep,
} from './practice';

const rpm = Array.from({ length: 21 }, (_, i) => 2000 + 225 * i);
const curve: DynoCurve = { rpm, power_W: rpm.map((n) => 18 * n) };
const pull = (rests_min: number[], more: object = {}): DynoReading[] => [
  ...dynoReadings({ curve, seed: 5, rests_min, air_K: 293, ...more }),
];
const mean = (list: readonly DynoReading[], f: (r: DynoReading) => number): number => list.reduce((s, r) => s + f(r), 0) / list.length;
const ratio = (list: readonly DynoReading[]): number => {
  const up = list.filter((r) => r.throttle_pct > 95 && r.rpm > 3000 && r.rpm < 6000);
  return mean(up, (r) => r.power_W / (18 * r.rpm));
};

describe('the dyno stand-in', () => {
  it('is the same pull for the same seed, another for another', () => {
    expect(pull([8])).toEqual(pull([8]));
    expect(pull([8], { seed: 6 })).not.toEqual(pull([8]));
    expect(pull([8, 8])).not.toEqual(pull([8]));
  });

  it('sweeps the whole range at full throttle and falls back after it', () => {
    const readings = pull([8]);
    const sweep = must(
      runSweep(
        readings.map((r) => r.rpm),
        readings.map((r) => r.throttle_pct),
      ),
    );
    expect(readings[sweep.first]!.rpm).toBeLessThan(2040);
    expect(readings[sweep.last]!.rpm).toBeGreaterThan(6480);
    expect(readings.at(-1)).toMatchObject({ throttle_pct: 0, plenum_Pa: null });
    expect(readings.at(-1)!.rpm).toBeLessThan(6000);
    expect(readings[50]!.t_s).toBeCloseTo(1, 9);
    expect(ratio(readings)).toBeCloseTo(1, 1);
  });

  it('a hurried second pull starts hotter and makes less; rest takes the heat out', () => {
    expect(heatSoak([5])).toBe(0);
    expect(heatSoak([5, 1])).toBeGreaterThan(heatSoak([5, 20]));
    const many = (rest: number): DynoReading[] => pull([8, rest, rest, rest, rest]);
    expect(many(0.5)[0]!.inlet_K - many(30)[0]!.inlet_K).toBeGreaterThan(8);
    const level = (rest: number, seed: number): number =>
      ratio(pull([8, rest, rest, rest, rest], { seed: 100 + seed, driftPerPull_pct: 0 }));
    const mean2 = (list: number[]): number => list.reduce((a, b) => a + b, 0) / list.length;
    const hot = mean2(Array.from({ length: 12 }, (_, k) => level(0.5, k)));
    const cool = mean2(Array.from({ length: 12 }, (_, k) => level(30, k)));
    expect(cool - hot).toBeGreaterThan(0.01);
  });

  it('writes a file that reads back as it was, weather, place and key-on reading included', () => {
    const readings = pull([8], { plenum_Pa: rpm.map(() => 97_000) });
    const text = dynoFileText(readings, 'stock', { p_Pa: 100_300, T_K: 290.15, rh: 0.5 }, { date: '2026-05-01', time: '10:05' });
    const reader = new TableReader();
    reader.push(new TextEncoder().encode(text));
    const read = reader.finish();
    if (read.refused !== null) throw new Error(read.refused);
    expect(read.report).toMatchObject({ rows: readings.length, skippedTotal: 0, textCells: 0 });
    expect(columnValues(read.columns[1]!)[10]).toBeCloseTo(readings[10]!.rpm, 1);
    expect(preambleFacts(read.report.layout.preamble)).toMatchObject({
      carried: 'none',
      measuredAt: 'wheels',
      takenOn: '2026-05-01',
      takenAt: '10:05',
      keyOn_Pa: expect.closeTo(100_300, 0),
      weather: { p_Pa: expect.closeTo(100_300, 0), T_K: expect.closeTo(290.15, 6), rh: 0.5 },
    });
    expect(dynoFileText(pull([8]), 'x', { p_Pa: 1e5, T_K: 290, rh: 0 }, { date: 'd', time: 't' })).not.toContain('MAP');
  });
});

describe('practice', () => {
  it('hides every kind of truth sooner or later, none larger than a part could bring', () => {
    const truths = Array.from({ length: 200 }, (_, seed) => practiceTruth(seed));
    const words = new Set(
      truths.map((t) => {
        const e = trueEffect(curve, t, NO_PLAN);
        return e > 0.5 ? 'gain' : e < -0.5 ? 'loss' : 'nothing';
      }),
    );
    expect(words).toEqual(new Set(['gain', 'loss', 'nothing']));
    for (const t of truths) expect(Math.max(Math.abs(t.top_pct), Math.abs(t.bottom_pct))).toBeLessThan(5);
  });

  it('the true effect is that of the stretch that decides', () => {
    const truth = { bottom_pct: -1, top_pct: 3, driftPerPull_pct: 0 };
    expect(practiceCurve(curve, truth, 'A')).toBe(curve);
    const over = (decidesOn: 'bottom' | 'top' | 'whole'): number => trueEffect(curve, truth, { ...NO_PLAN, decidesOn });
    expect(over('bottom')).toBeLessThan(over('whole'));
    expect(over('top')).toBeGreaterThan(over('whole'));
    expect(over('top')).toBeCloseTo(2.4, 0);
  });

  it('scores what was said against what was true, and counts what it took', () => {
    const truth = { bottom_pct: 2, top_pct: 2, driftPerPull_pct: 0 };
    const plan = { ...NO_PLAN, costPerRun: 10, costPerVisit: 100, minutesPerRun: 5, minutesPerSwap: 30 };
    const run = (side: 'A' | 'B', rest_min: number, more: Partial<PracticeRun> = {}): PracticeRun => ({
      side,
      rest_min,
      newStay: false,
      day: 1,
      pass: null,
      at_min: 0,
      rpm: [1, 2],
      power_W: [1, 2],
      inletStart_K: 290,
      inletPeak_K: 295,
      coolantStart_K: 360,
      leftOut: null,
      ...more,
    });
    const runs = [run('A', 8), run('B', 8), run('B', 10)];
    expect(practiceMinutes(runs, plan)).toBe(3 * 5 + 8 + 30 + 10);
    // Strapped down anew is a refit, another day a visit.
    expect(practiceMinutes([run('A', 8), run('A', 8, { newStay: true })], plan)).toBe(2 * 5 + 8 + 30);
    expect(practiceMinutes([run('A', 8), run('A', 8, { day: 2 })], plan)).toBe(2 * 5 + 16 + plan.minutesPerVisit);
    const setup = { rig: 'dyno' as const, unitId: 'u', plan, guess_pct: null };
    const score = practiceScore(curve, truth, setup, { word: 'gain', estimate_pct: 1.5 }, runs, 'gain');
    expect(score).toMatchObject({
      trueWord: 'gain',
      right: true,
      honest: true,
      stays: 2,
      error_pct: expect.closeTo(-0.5, 9),
      runs: 3,
      cost: 130,
    });
    expect(score.lesson!.pRight).toBeGreaterThanOrEqual(0.8);
    expect(practiceScore(curve, truth, setup, { word: 'loss', estimate_pct: 0 }, runs, 'gain').right).toBe(false);
    const open = practiceScore(curve, truth, setup, { word: "can't tell yet", estimate_pct: 0 }, runs, "can't tell yet");
    expect(open).toMatchObject({ right: null, honest: true });
  });

  it('hides refits, days and runs gone wrong as large as a usual shop’s', () => {
    const step = (side: 'A' | 'B', more: Partial<PracticeStep> = {}): PracticeStep => ({ side, newStay: false, day: 1, ...more });
    const offsets = (steps: PracticeStep[]): number[] => steps.map((_, i) => pullLuck(7, steps.slice(0, i + 1)).offset_pct);
    const [a, b, c] = offsets([step('A'), step('A'), step('A', { newStay: true })]);
    expect(b).toBeCloseTo(a!, 9);
    expect(c).not.toBeCloseTo(a!, 3);
    const sizes = Array.from({ length: 3000 }, (_, seed) => pullLuck(seed + 1, [step('A')]).offset_pct);
    const inside = sizes.filter((v) => Math.abs(v) < 1.96 * Math.hypot(0.36, 0.9)).length / sizes.length;
    expect(inside).toBeGreaterThan(0.92);
    expect(inside).toBeLessThan(0.97);
  });

  it('a night at the strip sinks, and a gain shows in speed and time alike', () => {
    const truth = { bottom_pct: 0, top_pct: 6, driftPerPull_pct: 0 };
    const mean = (side: 'A' | 'B', of: 'trap_mps' | 'et_s'): number => {
      let sum = 0;
      for (let seed = 1; seed <= 400; seed += 1) sum += practicePass(seed, truth, [{ side, newStay: false, day: 1 }])[of];
      return sum / 400;
    };
    expect(mean('B', 'trap_mps') - mean('A', 'trap_mps')).toBeCloseTo(0.91, 1);
    expect(mean('B', 'et_s') - mean('A', 'et_s')).toBeLessThan(-0.2);
    const night = Array.from({ length: 8 }, (_, i) =>
      practicePass(
        3,
        truth,
        Array.from({ length: i + 1 }, () => ({ side: 'A' as const, newStay: false, day: 1 })),
      ),
    );
    expect(night.at(-1)!.densityAltitude_m).toBeLessThan(night[0]!.densityAltitude_m - 100);
  });

  it('can be found out by whoever rests, repeats and goes back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), (seed) => {
        const truth = practiceTruth(seed);
        const order = ['A', 'A', 'B', 'B', 'B', 'A', 'A', 'B'] as const;
        const runs = order.map((side, i) => {
          const readings = [
            ...dynoReadings({
              curve: practiceCurve(curve, truth, side),
              seed,
              rests_min: order.slice(0, i + 1).map(() => 40),
              air_K: 293,
              driftPerPull_pct: truth.driftPerPull_pct,
            }),
          ].filter((r) => r.throttle_pct > 95);
          return { side, run: { rpm: readings.map((r) => r.rpm), power_W: readings.map((r) => r.power_W), order: i, visit: 'day' } };
        });
        const of = (s: 'A' | 'B') => runs.filter((r) => r.side === s).map((r) => r.run);
        const found = must(compareSides(of('A'), of('B'), { fwhm_rpm: 100, decidesOn: 'whole' }));
        expect(Math.abs(found.deciding.mean_pct - trueEffect(curve, truth, { ...NO_PLAN, decidesOn: 'whole' }))).toBeLessThan(1.5);
      }),
      { numRuns: 15, endOnFailure: true },
    );
  });
});
