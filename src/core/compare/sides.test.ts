import { isFailure, must } from '../failure';
import type { RunDoc } from '../documents/run';
import { dynoRun, SWEEP_SAMPLES_KEPT, type DynoRun, type RunChannel } from '../runs/dyno-run';
import { confounders, type ComparedRun, type Confounder } from './confounders';
import { runNoise } from './noise';
import { compareSides } from './sides';

const rpm = Array.from({ length: 220 }, (_, i) => 2000 + 22 * i);
const curve = (scale: number, top = 0) => ({ rpm, power_W: rpm.map((n) => 20 * n * scale * (1 + (top * Math.max(0, n - 5000)) / 1800)) });
const options = { fwhm_rpm: 100, assumedSd_pct: 0.8 };

describe('compareSides', () => {
  it('with one run a side claims nothing that noise could do', () => {
    const c = must(compareSides([curve(1)], [curve(1, 0.03)], options));
    expect(c.noiseAssumed).toBe(true);
    expect(c.noise_pct).toBeCloseTo(1.959964 * Math.SQRT2 * 0.8, 5);
    expect(c.answer.kind).toBe('inside the noise');
    expect(c.answer.bestThird).toBe(2);
  });

  it('a difference beyond the noise is a gain or a loss, from where it stays clear', () => {
    const gain = must(compareSides([curve(1)], [curve(1, 0.08)], options));
    expect(gain.answer.kind).toBe('gain');
    expect(gain.answer.clearFrom_rpm).toBeGreaterThan(5000);
    expect(must(compareSides([curve(1)], [curve(0.95)], options)).answer.kind).toBe('loss');
    expect(must(compareSides([curve(1)], [{ rpm, power_W: rpm.map((n) => 20 * n * (n < 4400 ? 0.95 : 1.05)) }], options)).answer.kind).toBe(
      'mixed',
    );
  });

  it('measures the scatter where runs are repeated, and narrows with more of them', () => {
    const few = must(compareSides([curve(1), curve(1.004)], [curve(1.03), curve(1.034)], options));
    const more = must(
      compareSides([curve(1), curve(1.004), curve(1), curve(1.004)], [curve(1.03), curve(1.034), curve(1.03), curve(1.034)], options),
    );
    expect(few.noiseAssumed).toBe(false);
    expect(more.noise_pct).toBeLessThan(few.noise_pct);
    expect(more.answer.kind).toBe('gain');
    expect(few.peakA.smoothed_W).toBeGreaterThan(0);
  });

  it('refuses a side without runs and runs without a common range', () => {
    expect(compareSides([], [curve(1)], options)).toMatchObject({ error: 'too_few_runs' });
    expect(compareSides([{ rpm: [1000, 1100], power_W: [1, 2] }], [curve(1)], options)).toMatchObject({ error: 'no_common_range' });
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
  const record: RunDoc = {
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
  };
  const run: DynoRun = {
    rpm: new Float64Array(),
    power_W: new Float64Array(),
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
  const codes = (a: ComparedRun[], b: ComparedRun[]): Confounder['code'][] => confounders(a, b).map((c) => c.code);

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
    expect(codes(pair, [of({ otherChanges: 'smaller pulley' })])).toContain('more_changed');
    expect(codes([of()], [of()])).toEqual(['one_run_a_side', 'stock_once']);
  });

  it('says warmer inlet air takes power away, and what density is worth uncorrected', () => {
    const warm = confounders([of(), of()], [of({}, { inletAirStart_K: 305 })]).find((c) => c.code === 'inlet_air');
    expect(warm).toMatchObject({ apart_K: 10, worth_pct: expect.closeTo(-1.69, 1) });
    const raw = { correction: 'none' as const };
    const thin = confounders([of({}, raw), of({}, raw)], [of({ weather: { p_Pa: 98_000, T_K: 293, rh: 0.4 } }, raw)]).find(
      (c) => c.code === 'air_density',
    );
    expect(thin).toMatchObject({ worth_pct: expect.closeTo(-2, 0) });
  });
});
