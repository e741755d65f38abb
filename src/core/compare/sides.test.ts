import { isFailure, must } from '../failure';
import { NO_GEARBOX } from '../documents/job';
import { NO_PLAN, type PlanDoc } from '../documents/plan';
import { runDoc, type RunDoc } from '../documents/run';
import { dynoRun, SWEEP_SAMPLES_KEPT, type DynoRun, type RunChannel } from '../runs/dyno-run';
import { breaking, confounders, type ComparedRun, type Confounder } from './confounders';
import { runNoise } from './noise';
import { compareSides } from './sides';

const rpm = Array.from({ length: 220 }, (_, i) => 2000 + 22 * i);
const curve = (scale: number, top = 0) => ({ rpm, power_W: rpm.map((n) => 20 * n * scale * (1 + (top * Math.max(0, n - 5000)) / 1800)) });
const options = { fwhm_rpm: 100, assumedSd_pct: 0.8 };

describe('compareSides', () => {
  it('with one run a side gives no interval and says what noise could do', () => {
    const c = must(compareSides([curve(1)], [curve(1, 0.03)], options));
    expect(c).toMatchObject({ noiseDf: null, band: null, word: "can't tell yet", clear: [], baseline: null });
    expect(c.noise_pct).toBeCloseTo(1.959964 * Math.SQRT2 * 0.8, 5);
    expect(c.deciding).toMatchObject({ id: 'top', estimate: null });
    expect(c.thirds.map((t) => t.id)).toEqual(['bottom', 'middle', 'top']);
    expect(c.thirds[2].mean_pct).toBeGreaterThan(c.thirds[1].mean_pct);
  });

  const several = (scale: number, top = 0) => [0, 0.002, -0.001].map((d) => curve(scale * (1 + d), top));

  it('a difference beyond the scatter is a gain or a loss, and the band says from where', () => {
    const gain = must(compareSides(several(1), several(1, 0.08), options));
    expect(gain.word).toBe('gain');
    expect(gain.clear).toHaveLength(1);
    expect(gain.clear[0]).toMatchObject({ sign: 1, to_rpm: gain.grid_rpm.at(-1) });
    expect(gain.clear[0]!.from_rpm).toBeGreaterThan(5000);
    expect(gain.thirds[0].estimate!.answer).toBe('no difference that matters');
    expect(must(compareSides(several(1), several(0.95), options)).word).toBe('loss');
    const both = several(1).map((r) => ({ rpm, power_W: r.power_W.map((w, i) => w * (rpm[i]! < 4400 ? 0.95 : 1.05)) }));
    expect(must(compareSides(several(1), both, options)).clear.map((r) => r.sign)).toEqual([-1, 1]);
  });

  it('what decides is what was agreed on', () => {
    const of = (decidesOn: 'whole' | 'bottom' | 'own') =>
      must(compareSides(several(1), several(1, 0.08), { ...options, decidesOn, bands_rpm: [[5600, 6200]] }));
    expect(of('bottom').word).toBe('no difference that matters');
    expect(of('whole').deciding.id).toBe('whole');
    expect(of('own').deciding).toMatchObject({ id: 'own-0', from_rpm: 5600, to_rpm: 6200 });
  });

  it('measures the scatter where runs are repeated, the baseline’s apart', () => {
    const few = must(compareSides([curve(1), curve(1.004)], [curve(1.03), curve(1.034)], options));
    expect(few.noiseDf).toBe(2);
    expect(few.baseline!.df).toBe(1);
    expect(few.baseline!.sd_pct).toBeCloseTo(0.2826, 2);
    expect(few.peakA.smoothed_W).toBeGreaterThan(0);
  });

  it('fits a drift where the old part was run again, and each day with itself', () => {
    const drifting = (i: number, scale: number) => ({ ...curve(scale * (1 - 0.004 * i)), order: i, visit: 'day' });
    const aba = must(
      compareSides(
        [0, 1, 5, 6].map((i) => drifting(i, i === 1 ? 1.0004 : 1)),
        [2, 3, 4].map((i) => drifting(i, i === 3 ? 1.0203 : 1.02)),
        options,
      ),
    );
    expect(aba.deciding.estimate).toMatchObject({ method: 'drift', answer: 'gain' });
    expect(aba.deciding.estimate!.driftPerRun).toBeCloseTo(-0.4, 1);
    expect(aba.deciding.mean_pct).toBeCloseTo(2, 0);
    const day = (visit: string, scale: number) => ({ ...curve(scale), visit });
    const two = must(
      compareSides(
        [day('1', 1), day('1', 1.001), day('2', 1.05), day('2', 1.051)],
        [day('1', 1.02), day('1', 1.0205), day('2', 1.071), day('2', 1.0715)],
        options,
      ),
    );
    expect(two.deciding.estimate).toMatchObject({ method: 'visits', answer: 'gain' });
    expect(two.deciding.mean_pct).toBeCloseTo(2, 0);
  });

  it('a file that came smoothed makes every run as smooth, and is not smoothed twice', () => {
    const c = must(compareSides([{ ...curve(1), carriedSmoothing_rpm: 200 }], [curve(1)], options));
    expect(c).toMatchObject({ fwhm_rpm: 200, widened: true });
    expect(must(compareSides([{ ...curve(1), carriedSmoothing_rpm: 50 }], [curve(1)], options)).widened).toBe(false);
  });

  it('compares no further than it is told to', () => {
    const c = must(compareSides([curve(1)], [curve(1)], { ...options, range_rpm: [3010, 5990] }));
    expect([c.grid_rpm[0], c.grid_rpm.at(-1)]).toEqual([3025, 5975]);
  });

  it('refuses a side without runs and runs without a common range', () => {
    expect(compareSides([], [curve(1)], options)).toMatchObject({ error: 'too_few_runs' });
    expect(compareSides([{ rpm: [1000, 1100], power_W: [1, 2] }], [curve(1)], options)).toMatchObject({ error: 'no_common_range' });
    expect(compareSides([curve(1)], [curve(1)], { ...options, range_rpm: [9000, 9500] })).toMatchObject({ error: 'no_common_range' });
  });
});

it('noise refuses baselines that were never repeated, and an impossible scatter', () => {
  expect(runNoise({ baselines: [[1], [2]] })).toMatchObject({ error: 'too_few_runs' });
  expect(runNoise({ assumedSd: 0 })).toMatchObject({ error: 'bad_input' });
  expect(must(runNoise({ baselines: [[1, 3], []] })).sd).toBeCloseTo(Math.SQRT2, 12);
});

describe('dynoRun', () => {
  const channel = (quantity: RunChannel['map']['quantity'], unit: string | null, values: number[]): RunChannel => ({
    map: { column: 0, quantity, unit },
    values: Float64Array.from(values),
  });
  const doc = { carried: 'none' as const, weather: { p_Pa: 98_000, T_K: 300, rh: 0.4 }, coolantStart_K: null };
  const up = [1000, 2000, 3000, 4000, 3500];

  it('takes the sweep, works power from torque and applies the correction', () => {
    const run = must(dynoRun([channel('rpm', 'rpm', up), channel('torque', 'Nm', [100, 100, 100, 100, 5])], doc, 'SAE J1349'));
    expect(run.swept).toBe(4);
    expect(run.samples).toBe(5);
    expect(run.correction).toBe('SAE J1349');
    expect(run.power_W[0]).toBeCloseTo(((100 * 2 * Math.PI * 1000) / 60) * run.factor, 6);
    expect(run.factor).toBeGreaterThan(1);
  });

  it('leaves figures alone whose correction is not known, and says so', () => {
    const run = must(
      dynoRun([channel('rpm', 'rpm', up), channel('power', 'hp', [1, 2, 3, 4, 0])], { ...doc, carried: 'unknown' }, 'SAE J1349'),
    );
    expect(run).toMatchObject({ factor: 1, correction: 'unknown' });
    const same = must(
      dynoRun(
        [channel('rpm', 'rpm', up), channel('power', 'hp', [1, 2, 3, 4, 0])],
        { carried: 'STD', weather: null, coolantStart_K: null },
        'STD',
      ),
    );
    expect(same).toMatchObject({ factor: 1, correction: 'STD' });
  });

  it('drops samples without both figures and reads the temperatures of the pull', () => {
    const run = must(
      dynoRun(
        [
          channel('rpm', 'rpm', [NaN, 1000, 2000, 3000]),
          channel('power', 'kW', [1, 1, NaN, 3]),
          channel('inlet air', 'C', [9, 20, 25, 30]),
          channel('coolant', 'C', [80, 85, 86, 87]),
        ],
        doc,
        'none',
      ),
    );
    expect(run.swept).toBe(2);
    expect(run.inletAirStart_K).toBeCloseTo(293.15, 6);
    expect(run.inletAirPeak_K).toBeCloseTo(303.15, 6);
    expect(run.coolantStart_K).toBeCloseTo(358.15, 6);
  });

  it('averages blocks of a very long sweep and says how many', () => {
    const n = SWEEP_SAMPLES_KEPT * 3;
    const run = must(
      dynoRun(
        [
          channel(
            'rpm',
            'rpm',
            Array.from({ length: n }, (_, i) => 1000 + i * 0.3),
          ),
          channel('power', 'kW', new Array<number>(n).fill(50)),
        ],
        doc,
        'none',
      ),
    );
    expect(run.block).toBe(3);
    expect(run.rpm).toHaveLength(SWEEP_SAMPLES_KEPT);
    expect(run.power_W[7]).toBeCloseTo(50_000, 6);
  });

  it('says which channel is missing', () => {
    expect(dynoRun([channel('power', 'kW', [1])], doc, 'none')).toMatchObject({ reason: 'no_rpm_channel' });
    expect(dynoRun([channel('rpm', 'rpm', up)], doc, 'none')).toMatchObject({ reason: 'no_power_channel' });
    expect(
      isFailure(dynoRun([channel('rpm', 'rpm', up), channel('power', 'kW', up), channel('throttle', 'pct', [1, 1, 1, 1, 1])], doc, 'none')),
    ).toBe(true);
  });
});

describe('confounders', () => {
  const record = runDoc.parse({
    schema: 1,
    name: 'run',
    side: null,
    channels: [],
    measuredAt: 'wheels',
    carried: 'none',
    carriedSmoothing_rpm: 0,
    weather: { p_Pa: 100_000, T_K: 293, rh: 0.4 },
    takenOn: '2026-04-18',
    gear: '4',
    fuel: '98',
    tune: 'stock',
    otherChanges: '',
    coolantStart_K: 355,
    leftOut: null,
  });
  const run: DynoRun = {
    rpm: Float64Array.from(rpm),
    power_W: Float64Array.from(curve(1).power_W),
    extra: {},
    correction: 'SAE J1349',
    factor: 1,
    samples: 0,
    swept: 0,
    block: 1,
    inletAirStart_K: 295,
    inletAirPeak_K: 300,
    coolantStart_K: 355,
  };
  const of = (doc: Partial<RunDoc> = {}, more: Partial<DynoRun> = {}): ComparedRun => ({
    id: 'x',
    doc: { ...record, ...doc },
    run: { ...run, ...more },
  });
  const found = (
    a: ComparedRun[],
    b: ComparedRun[],
    plan: Partial<PlanDoc> = {},
    gearbox = NO_GEARBOX,
    uncorrected_pct: number | null = null,
  ) =>
    confounders(a, b, {
      plan: { ...NO_PLAN, order: 'A-B', ...plan },
      gearbox,
      comparison: must(
        compareSides(
          a.map((r) => r.run),
          b.map((r) => r.run),
          { fwhm_rpm: 0, assumedSd_pct: 0.8 },
        ),
      ),
      uncorrected_pct,
    });
  const codes = (...input: Parameters<typeof found>): Confounder['code'][] => found(...input).map((c) => c.code);

  it('finds nothing between repeated runs of equal conditions', () => {
    expect(codes([of(), of()], [of(), of()])).toEqual([]);
  });

  it('finds each thing that differs', () => {
    const pair = [of(), of()];
    expect(codes(pair, [of({}, { correction: 'STD' })])).toContain('mixed_correction');
    expect(codes([of({}, { correction: 'unknown' })], [of({}, { correction: 'unknown' })])).toContain('unknown_correction');
    expect(codes(pair, [of({ carriedSmoothing_rpm: 200 })])).toContain('smoothing');
    expect(codes(pair, [of({}, { inletAirStart_K: 299 })])).toContain('inlet_air');
    expect(codes(pair, [of({}, { inletAirStart_K: 297 })])).not.toContain('inlet_air');
    expect(codes(pair, [of({}, { coolantStart_K: 362 })])).toContain('coolant');
    expect(codes(pair, [of({ weather: { p_Pa: 98_000, T_K: 293, rh: 0.4 } })])).toContain('air_density');
    expect(codes(pair, [of({ takenOn: '2026-04-20' })])).toContain('days_apart');
    expect(codes(pair, [of({ gear: '3' })])).toContain('other_record');
    expect(codes(pair, [of({ gear: '4th gear' })])).not.toContain('other_record');
    expect(codes(pair, [of({ otherChanges: 'smaller pulley' })])).toContain('more_changed');
    expect(codes(pair, [of({ pulley: '78 mm' })])).not.toContain('other_record');
    expect(codes([of({ pulley: '84 mm' })], [of({ pulley: '78 mm' })])).toContain('other_record');
    // Where some were measured and nobody knows of the others, it is no comparison.
    const unsaid = found([of({ measuredAt: 'unknown' })], [of({ measuredAt: 'wheels' })]);
    expect(breaking(unsaid).map((c) => c.code)).toEqual(['unknown_place']);
    expect(codes([of({ measuredAt: 'unknown' })], [of({ measuredAt: 'unknown' })])).not.toContain('unknown_place');
    expect(codes(pair, [of({ oilStart_K: 380 })])).not.toContain('oil');
    expect(codes([of({ oilStart_K: 360 })], [of({ oilStart_K: 380 })])).toContain('oil');
    expect(codes(pair, [of({ carriedSmoothing_rpm: null })])).toContain('smoothing_unknown');
    expect(codes([of()], [of()])).toEqual(['one_run_a_side']);
    expect(codes(pair, pair, { order: 'A-B-A' })).toEqual(['no_return']);
    expect(codes(pair, pair, { runsPerSide: 3 })).toEqual(['fewer_than_planned']);
    expect(codes(pair, pair, {}, NO_GEARBOX, 1.4)).toEqual(['overcorrected']);
    const box = { ratios: [3.4, 2, 1.4, 1.02, 0.8], final: null, tyre_m: null };
    expect(codes([of({ gear: '2nd' })], [of({ gear: '2nd' })], {}, box)).toContain('gear_far');
    expect(codes([of({ gear: '4th' })], [of({ gear: '4th' })], {}, box)).not.toContain('gear_far');
  });

  it('holds against the plan, and breaks on what is no longer the same car', () => {
    const warm = [of({}, { inletAirStart_K: 296.5 })];
    expect(codes([of()], warm)).not.toContain('inlet_air');
    expect(codes([of()], warm, { holds: { ...NO_PLAN.holds, inletAir_K: 1 } })).toContain('inlet_air');
    expect(breaking(found([of()], [of({ otherChanges: 'headers' }, { inletAirStart_K: 320 })])).map((c) => c.code)).toEqual([
      'more_changed',
    ]);
    const short = [of({}, { rpm: Float64Array.from(rpm.slice(0, 90)), power_W: Float64Array.from(curve(1).power_W.slice(0, 90)) })];
    expect(codes([of()], short)).toContain('short_range');
  });

  it('says warmer inlet air takes power away, and what density is worth uncorrected', () => {
    const warm = found([of(), of()], [of({}, { inletAirStart_K: 305 })]).find((c) => c.code === 'inlet_air');
    expect(warm).toMatchObject({ apart_K: 10, worth_pct: expect.closeTo(-1.69, 1) });
    const raw = { correction: 'none' as const };
    const thin = found([of({}, raw), of({}, raw)], [of({ weather: { p_Pa: 98_000, T_K: 293, rh: 0.4 } }, raw)]).find(
      (c) => c.code === 'air_density',
    );
    expect(thin).toMatchObject({ worth_pct: expect.closeTo(-2, 0) });
  });
});

describe('curves read off pictures', () => {
  const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
  const run = (k: number, readingError_pct = 0) => ({ rpm, power_W: rpm.map((n) => 20 * n * k), readingError_pct });
  const options = { fwhm_rpm: 0, assumedSd_pct: 0.8 };

  it('widen the interval by their reading error, which no repeat takes away', () => {
    const from = (reading: number) =>
      must(
        compareSides(
          [1, 1.001, 0.999].map((k) => run(k, reading)),
          [1.01, 1.011, 1.009].map((k) => run(k)),
          options,
        ),
      ).deciding.estimate!;
    const [files, pictures] = [from(0), from(0.9)];
    expect(files.answer).toBe('gain');
    expect(pictures.standardError).toBeCloseTo(Math.hypot(files.standardError, 0.9 / Math.sqrt(3)), 9);
    expect(pictures.answer).toBe("can't tell yet");
  });
});

describe('an order that is only a guess', () => {
  const rpm = Array.from({ length: 200 }, (_, i) => 2000 + 24 * i);
  const drifting = (k: number, order: number) => ({ rpm, power_W: rpm.map((n) => 20 * n * k * (1 - 0.004 * order)), order });
  const a = [0, 1, 4, 5].map((o, i) => drifting(1 + 0.0003 * (i % 2), o));
  const b = [2, 3].map((o, i) => drifting(1.01 + 0.0003 * (i % 2), o));
  const options = { fwhm_rpm: 0, assumedSd_pct: 0.8 };

  it('has no drift fitted to it', () => {
    expect(must(compareSides(a, b, options)).deciding.estimate!.method).toBe('drift');
    expect(must(compareSides(a, b, { ...options, orderKnown: false })).deciding.estimate!).toMatchObject({
      method: 'means',
      driftPerRun: null,
    });
  });
});
