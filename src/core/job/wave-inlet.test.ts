import { inletDoc } from '../documents/inlet';
import { jobDoc, type JobDoc } from '../documents/job';
import { isFailure, must } from '../failure';
import { waveModel } from '../waves/engine';
import { jobModel, type JobModel } from './model';
import { presetJob } from './presets';
import { coarseFirst, waveScore, waveStretches } from './wave-answer';
import { assumedFigures, FIGURE_MARK, resolvedInlet, tried, waveSetup, type WaveSetup } from './wave-inlet';

const DEGREE = Math.PI / 180;
const FOUR = 'four, 2.0 L four-valve';
const OWN = 'straight six, 2.4 L, individual throttles';
const TURBO = 'four, 1.8 L turbo';

const job = (preset: string, inlet: object = {}): JobDoc => {
  const base = presetJob('car', preset);
  return jobDoc.parse({ ...base, car: { ...base.car, inlet: inletDoc.parse(inlet) } });
};
const setupOf = (doc: JobDoc): { model: JobModel; setup: WaveSetup } => {
  const model = must(jobModel(doc, []));
  return { model, setup: must(waveSetup(doc, model)) };
};

describe('a job’s inlet', () => {
  it('takes usual figures for what nobody gave, and lists them', () => {
    const { figures, assumed } = resolvedInlet(job(FOUR));
    expect(figures.length_m).toBe(0.35);
    expect(figures.inletCount).toBe(2);
    expect(figures.inletDuration_rad).toBeCloseTo(250 * DEGREE, 9);
    expect(assumed).toEqual(expect.arrayContaining(['length_m', 'plenum_m3', 'inletDuration_rad', 'rod_m']));
    expect(assumed).not.toContain('throttleAt_m');
  });

  it('counts a figure that somebody gave and marked as assumed among them', () => {
    const doc = job(FOUR, { length_m: 0.42, rod_m: 0.15 });
    const inlet = resolvedInlet(doc);
    const marks = { 'inlet.length_m': 'assumed', 'inlet.rod_m': 'measured', 'engine.plenum_m3': 'assumed' } as const;
    expect(assumedFigures(inlet, marks)).toEqual(expect.arrayContaining(['length_m', 'plenum_m3', 'inletDuration_rad']));
    expect(assumedFigures(inlet, marks)).not.toContain('rod_m');
    // A blade in each runner has no plenum figure, whatever is marked.
    expect(assumedFigures(resolvedInlet(job(OWN)), marks)).not.toContain('plenum_m3');
    // Every figure has a place of its own in the job.
    expect(new Set(Object.values(FIGURE_MARK)).size).toBe(Object.keys(inlet.figures).length);
  });

  it('keeps what is given, and brings a duration told at a lift to the seat', () => {
    const { figures, assumed } = resolvedInlet(
      job(FOUR, { length_m: 0.42, inlet: { duration_rad: 228 * DEGREE, toldAt_m: 0.00127, lift_m: 0.0105 } }),
    );
    expect(figures.length_m).toBe(0.42);
    expect(figures.inletDuration_rad / DEGREE).toBeGreaterThan(270);
    expect(assumed).not.toContain('length_m');
    expect(assumed).not.toContain('inletDuration_rad');
  });

  it('what is tried moves what it names and nothing else; a blade stays where it is from the valve', () => {
    const { figures } = resolvedInlet(job(OWN, { length_m: 0.3, throttleAt_m: 0.12 }));
    const trial = tried(figures, { length_m: 0.25, mouthBore_m: null, plenum_m3: null });
    expect(trial).toEqual({ ...figures, length_m: 0.25, throttleAt_m: trial.throttleAt_m });
    expect(trial.throttleAt_m).toBeCloseTo(0.07, 12);
    expect(tried(figures, { length_m: null, mouthBore_m: null, plenum_m3: null })).toEqual(figures);
  });
});

describe('what the waves are reckoned from', () => {
  it('a loss that stands in the pipe is the part’s own, whatever the air: what it costs falls with the air’s density', () => {
    const lossesAt = (T_K: number): number[] => {
      const doc = job(FOUR);
      const { setup } = setupOf({ ...doc, car: { ...doc.car, weather: { ...doc.car.weather, T_K } } });
      return setup.engineAt(setup.inlet.figures, 5000).pipe!.losses!.map((l) => l.K);
    };
    const [cold, hot] = [lossesAt(263), lossesAt(313)];
    expect(cold.length).toBeGreaterThan(0);
    cold.forEach((K, i) => expect(hot[i]! / K).toBeCloseTo(1, 1));
  });

  it('behind a plenum: runners, plenum, a throttle that loses what the ladder says, the pipe from its parts', () => {
    const { setup, model } = setupOf(job(FOUR));
    const engine = setup.engineAt(setup.inlet.figures, 5000);
    expect(engine.plenum).not.toBeNull();
    expect(engine.pipe!.segments.length).toBeGreaterThan(0);
    const bore = model.stock.fitted.throttle.bore_m;
    const area = engine.throttle!.effectiveArea_m2;
    expect(area).toBeGreaterThan(0.3 * (Math.PI / 4) * bore ** 2);
    expect(area).toBeLessThan((Math.PI / 4) * bore ** 2);
    // The steady model and the waves agree on what gets in to a few percent where nothing is tuned to the engine.
    const result = waveModel(engine).run(3000);
    expect(result.settled).toBe(true);
    expect(result.W / setup.known[model.rpm.findIndex((n) => n >= 3000)]!).toBeGreaterThan(0.75);
  });

  it('on individual throttles: a small airbox is their plenum, a large one is open air; the blade stands in the runner', () => {
    const small = job(OWN);
    const boxed = setupOf(small).setup;
    expect(boxed.engineAt(boxed.inlet.figures, 5000).plenum).toEqual({ volume_m3: 0.006 });
    const parts = small.air.parts.map((p) => (p.type === 'airbox' ? { ...p, volume_m3: 0.02 } : p));
    const { setup } = setupOf({ ...small, air: { ...small.air, parts } });
    const engine = setup.engineAt(setup.inlet.figures, 5000);
    expect(setup.leftOut).toContain('airboxAsOpenAir');
    expect(engine.plenum).toBeNull();
    expect(engine.pipe).toBeNull();
    expect(engine.runner.losses).toHaveLength(1);
    expect(engine.runner.losses![0]!.K).toBeGreaterThan(0.05);
  });

  it('behind a compressor: from the plenum on, at the boost’s pressure and temperature, and says that it is held', () => {
    const { setup, model } = setupOf(job(TURBO));
    const engine = setup.engineAt(setup.inlet.figures, 4500);
    expect(engine.ambient!.p_Pa!).toBeGreaterThan(model.problem.input.ambient.p_Pa * 1.1);
    expect(engine.ambient!.T_K!).toBeGreaterThan(model.problem.input.ambient.T_K);
    expect(engine.pipe).toBeNull();
    expect(setup.leftOut).toContain('boostHeld');
  });

  it('an intake that cannot be solved gives its failure and no waves', () => {
    const base = job(FOUR);
    const doc = { ...base, car: { ...base.car, stock: { ...base.car.stock, throttle: { ...base.car.stock.throttle, shaft_m: 0.2 } } } };
    const model = must(jobModel(base, []));
    expect(
      isFailure(
        waveSetup(doc, { ...model, stock: { ...model.stock, fitted: { ...model.stock.fitted, throttle: doc.car.stock.throttle } } }),
      ),
    ).toBe(true);
  });
});

describe('what a ratio says', () => {
  const rpm = [1000, 2000, 3000, 4000, 5000, 6000];
  it('stretches over what counts as no difference, the strongest first', () => {
    expect(waveStretches(rpm, [1.001, 1.02, 1.03, 0.999, 0.99, 0.98])).toEqual([
      { from_rpm: 2000, to_rpm: 3000, share: expect.closeTo(0.025, 9) as number },
      { from_rpm: 5000, to_rpm: 6000, share: expect.closeTo(-0.015, 9) as number },
    ]);
    expect(waveStretches(rpm, [1.001, 0.999, 1, 1.004, 0.997, 1])).toEqual([]);
  });
  it('a hole is no stretch and parts none', () => {
    expect(waveStretches(rpm, [null, 1.02, null, 1.02, NaN, 1])).toEqual([
      { from_rpm: 2000, to_rpm: 4000, share: expect.closeTo(0.02, 9) as number },
    ]);
  });
  it('a purpose is worth the peak of power, the mean of its band, or of what lies below it', () => {
    const rising = rpm.map((n) => 0.5 + n / 20_000);
    expect(waveScore(rpm, rising, 'peak', [4000, 6000])).toBeCloseTo(0.8, 12);
    expect(waveScore(rpm, rising, 'band', [4000, 6000])).toBeCloseTo(0.75, 6);
    expect(waveScore(rpm, rising, 'low', [4000, 6000])).toBeCloseTo(0.625, 6);
    expect(waveScore(rpm, rising, 'band', [7000, 8000])).toBeNull();
    expect(waveScore(rpm, [...rising.slice(1), NaN], 'peak', [4000, 6000])).toBeNull();
  });
  it('coarse first: both ends, then always the middle of the widest gap, each once', () => {
    expect(coarseFirst(5)).toEqual([0, 4, 2, 1, 3]);
    for (const n of [0, 1, 2, 7, 24]) expect([...coarseFirst(n)].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
  });
});
