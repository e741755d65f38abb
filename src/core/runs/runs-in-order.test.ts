import fc from 'fast-check';
import { csvText } from '../export/csv';
import { comparisonCsv, runCsv } from '../export/comparison';
import { compareExtras } from '../compare/extras';
import { heldThings } from '../compare/holds';
import { costsOf, dayOrder, isAsWritten, lookOf, planRuns, runOrder, writtenNow } from '../compare/look';
import { compareSides } from '../compare/sides';
import { usedBands } from '../compare/used-bands';
import type { PlanDoc } from '../documents/plan';
import { NO_PLAN } from '../documents/blank';
import { runDoc, type RunDoc, type StoredRun } from '../documents/run';
import { isFailure, must } from '../failure';
import { jobModel } from '../job/model';
import { predictedOver } from '../job/predicted';
import { presetJob } from '../job/presets';
import { baselineCurve, lossRefit, refitted } from '../job/refit';
import type { DynoRun } from './dyno-run';
import { sortedByTime, visitOf, type ReadyRun } from './order';
import { MOST_PULLS, splitPulls } from './split';
import { TableReader } from '../read/reader';

const record = (more: Partial<RunDoc> = {}): RunDoc =>
  runDoc.parse({
    schema: 1,
    name: 'run',
    side: { kind: 'stock' },
    channels: [],
    measuredAt: 'wheels',
    carried: 'none',
    carriedSmoothing_rpm: 0,
    weather: { p_Pa: 100_000, T_K: 293, rh: 0.4 },
    takenOn: '2026-04-18',
    gear: '4th',
    fuel: 'petrol 98',
    tune: '',
    otherChanges: '',
    coolantStart_K: 355,
    leftOut: null,
    ...more,
  });
const stored = (id: string, more: Partial<RunDoc> = {}): StoredRun => ({ id, doc: record(more) }) as StoredRun;

describe('splitting a file into its pulls', () => {
  const pull = (from: number, to: number): number[] => Array.from({ length: 40 }, (_, i) => from + ((to - from) * i) / 39);

  it('cuts midway between rises, or where the header stands again', () => {
    const rpm = [...pull(2000, 6000), ...pull(5900, 2100), ...pull(2100, 6100)];
    expect(splitPulls(rpm)).toEqual([
      { first: 0, last: 59 },
      { first: 60, last: 119 },
    ]);
    expect(splitPulls([...pull(2000, 6000), ...pull(2000, 6000)], [40])).toEqual([
      { first: 0, last: 39 },
      { first: 40, last: 79 },
    ]);
  });

  it('leaves one pull whole, and a blip beside it is none', () => {
    const one = [...pull(2000, 6000), ...pull(5900, 3000), ...pull(3000, 3600)];
    expect(splitPulls(one)).toEqual([{ first: 0, last: one.length - 1 }]);
    expect(splitPulls([])).toEqual([]);
    expect(splitPulls([NaN, NaN])).toEqual([{ first: 0, last: 1 }]);
  });

  it('takes a day of rises for one log', () => {
    const day = Array.from({ length: MOST_PULLS + 1 }, () => [...pull(2000, 6000), ...pull(5900, 2100)]).flat();
    expect(splitPulls(day)).toEqual([{ first: 0, last: day.length - 1 }]);
  });

  it('never loses a row, whatever the file', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.integer({ min: 0, max: 8000 }), fc.constant(NaN)), { minLength: 1, maxLength: 300 }), (rpm) => {
        const spans = splitPulls(rpm);
        expect(spans[0]!.first).toBe(0);
        expect(spans.at(-1)!.last).toBe(rpm.length - 1);
        spans.slice(1).forEach((s, i) => expect(s.first).toBe(spans[i]!.last + 1));
        spans.forEach((s) => expect(s.last).toBeGreaterThanOrEqual(s.first));
      }),
    );
  });
});

describe('the order of runs', () => {
  it('is by day and time where every run of the day says it, else as they came', () => {
    const at = (id: string, takenAt: string | null, takenOn = '2026-04-18') => stored(id, { takenAt, takenOn });
    const ids = (list: StoredRun[]): string =>
      sortedByTime(list)
        .map((r) => r.id)
        .join('');
    expect(ids([at('b', '10:00'), at('a', '09:00')])).toBe('ab');
    expect(ids([at('b', '10:00'), at('a', null)])).toBe('ba');
    expect(ids([at('c', '08:00', '2026-04-19'), at('b', null), at('a', '07:00')])).toBe('bac');
  });

  it('belongs to a visit by its name, else by its day', () => {
    expect(visitOf(record({ visit: ' evening ' }))).toBe('evening');
    expect(visitOf(record())).toBe('2026-04-18');
    expect(visitOf(record({ takenOn: null }))).toBe('');
  });
});

describe('the plan of a day', () => {
  it('is a row of stays, as written or as usual, on each of its days', () => {
    const sides = (more: Partial<PlanDoc>) =>
      planRuns({ ...NO_PLAN, ...more })
        .map((r) => (r.newStay ? ` ${r.side}` : r.side))
        .join('')
        .trim();
    expect(sides({ order: 'A-B-A', runsPerStay: 2 })).toBe('AA BB AA');
    expect(sides({ order: 'A-B-B-A', runsPerStay: 1 })).toBe('A B B A');
    expect(sides({ order: 'alternating', runsPerStay: 2, visits: 2 })).toBe('A B A B A B A B');
    expect(sides({ order: 'A-B' })).toBe('AAA BBB');
    expect(planRuns({ ...NO_PLAN, visits: 2 }).map((r) => r.visit)).toEqual([
      ...Array(12).fill('planned 1'),
      ...Array(12).fill('planned 2'),
    ]);
  });

  it('asks for more before its end and after it than at it; unwritten or changed it has no end', () => {
    const plan: PlanDoc = { ...NO_PLAN, order: 'A-B-A', runsPerStay: 2 };
    const written: PlanDoc = { ...plan, written: { predicted: null, ...writtenNow(plan, '2026-04-18T07:30:00.000Z') } };
    const runs = (text: string) => [...text].map((side) => ({ side: side as 'A' | 'B', value: 0 }));
    expect(lookOf(plan, runs('AABBAA'))).toBe('after');
    expect(lookOf(written, runs('AABB'))).toBe('before');
    expect(lookOf(written, runs('AABBA'))).toBe('before');
    expect(lookOf(written, runs('AABBAA'))).toBe('at');
    expect(lookOf(written, runs('AABBAAB'))).toBe('after');
    expect(lookOf({ ...written, threshold_pct: 2 }, runs('AABBAA'))).toBe('after');
    expect(isAsWritten({ ...written, visits: 2 })).toBe(false);
    expect(costsOf({ ...plan, costPerVisit: 90 })).toMatchObject({ run_min: 6, refit_min: 30, visit_min: 45, perVisit: 90 });
    expect(runOrder(dayOrder('alternating'))).toBe('alternating');
  });

  it('what is held is kept, broken, or not recorded', () => {
    const run = (doc: Partial<RunDoc>, inletAirStart_K: number | null = 295) => ({
      id: 'x',
      doc: record(doc),
      run: { inletAirStart_K, coolantStart_K: 355 } as DynoRun,
    });
    const states = (runs: ReturnType<typeof run>[]) => Object.fromEntries(heldThings(NO_PLAN.holds, runs).map((h) => [h.key, h.state]));
    expect(states([run({})])).toMatchObject({ inletAir_K: 'waits', gear: 'waits' });
    expect(states([run({}), run({ takenOn: '2026-04-20', pulley: '78 mm' }, 299)])).toEqual({
      inletAir_K: 'broken',
      coolant_K: 'kept',
      density: 'kept',
      gear: 'kept',
      tune: 'not recorded',
      fuel: 'kept',
      pulley: 'not recorded',
      sameDay: 'broken',
    });
    expect(states([run({ pulley: '84 mm' }), run({ pulley: '78 mm' }, null)])).toMatchObject({
      pulley: 'broken',
      inletAir_K: 'not recorded',
    });
    // Warm air and cold, with its vapour (1.34 and 0.93 kPa): (100 − 0.378 · 0.93) / 293 over (100 − 0.378 · 1.34) / 299.
    const air = (T_K: number) => run({ weather: { p_Pa: 100_000, T_K, rh: 0.4 } });
    const density = (...runs: ReturnType<typeof run>[]) => heldThings(NO_PLAN.holds, runs).find((h) => h.key === 'density');
    expect(density(air(299), air(293))).toMatchObject({ state: 'broken', spread: expect.closeTo(0.0221, 3) as number });
    expect(density(air(293.5), air(293))).toMatchObject({ state: 'kept', spread: expect.closeTo(0.002, 3) as number });
    // One record without it is not known to have kept it; one that broke it broke it.
    const unknown = run({ weather: null });
    expect(density(air(293.5), air(293), unknown)).toMatchObject({ state: 'not recorded' });
    expect(density(air(299), air(293), unknown)).toMatchObject({ state: 'broken' });
    expect(density(air(293), unknown)).toMatchObject({ state: 'not recorded', spread: null });
    expect(heldThings({ ...NO_PLAN.holds, inletAir_K: null, gear: false }, []).map((h) => h.key)).not.toContain('gear');
  });

  it('the engine speeds used between changes follow from the gearbox', () => {
    expect(usedBands({ ratios: [3, 2, 1.5] }, 6000)).toEqual([
      [4000, 6000],
      [4500, 6000],
    ]);
    expect(usedBands({ ratios: [] }, 6000)).toEqual([]);
  });
});

describe('what goes out as a table', () => {
  const rpm = Array.from({ length: 100 }, (_, i) => 2000 + 40 * i);
  const side = (k: number) => ({ rpm, power_W: rpm.map((n) => 20 * n * k) });
  const c = must(compareSides([side(1), side(1.002)], [side(1.02), side(1.021)], { fwhm_rpm: 0 }));

  it('reads back with its units as what it was', () => {
    const reader = new TableReader();
    reader.push(new TextEncoder().encode(comparisonCsv(c)));
    const read = reader.finish();
    if (read.refused !== null) throw new Error(read.refused);
    expect(read.columns.map((x) => `${x.name} [${x.unit}]`).slice(0, 5)).toEqual([
      'engine speed [rpm]',
      'power, stock [W]',
      'power, new [W]',
      'difference in power [W]',
      'relative difference [%]',
    ]);
    expect(read.report.rows).toBe(c.grid_rpm.length);
    expect(read.columns[1]!.blocks[0]![3]).toBeCloseTo(c.a_W[3]!, 3);
  });

  it('of a run leaves nothing where there was nothing, and quotes what needs it', () => {
    expect(runCsv([{ name: 'a, b', unit: 's', values: [1, NaN] }])).toBe('"a, b"\ns\n1\n\n');
    expect(csvText([['x"y', 'z']])).toBe('"x""y",z\n');
  });

  it('other channels stand beside power on the same engine speeds, depression against the same sensor', () => {
    const ready = (keyOn_Pa: number | null, map: number): ReadyRun => ({
      stored: stored('r', { keyOn_Pa }),
      run: {
        extra: { 'manifold pressure': { rpm: Float64Array.from(rpm), value: Float64Array.from(rpm, () => map) } },
      } as unknown as DynoRun,
    });
    const extras = compareExtras([ready(100_000, 96_000)], [ready(100_000, 97_500)], c);
    expect(extras.map((e) => e.kind)).toEqual(['manifold pressure', 'depression']);
    expect(extras[1]!.mean).toMatchObject({ a: expect.closeTo(4000, 6), b: expect.closeTo(2500, 6), difference: expect.closeTo(-1500, 6) });
    expect(compareExtras([ready(null, 96_000)], [ready(100_000, 97_500)], c).find((e) => e.kind === 'depression')).toMatchObject({
      a: null,
      mean: { difference: null },
    });
  });
});

describe('what the baseline teaches', () => {
  const doc = presetJob('x', 'straight six, 2.9 L');

  it('a model refitted to its stock runs gives those runs back at the crank', () => {
    const rpm = Array.from({ length: 201 }, (_, i) => 1500 + 25 * i);
    const power_W = rpm.map((n) => 18 * n * (1 - ((n - 5000) / 9000) ** 2));
    const curve = must(baselineCurve({ rpm, power_W, runs: 3, day: '2026-04-18', weather: doc.car.weather }, doc.car, 0.15));
    expect(curve.source).toBe('mean of 3 baseline runs of 2026-04-18, 15 % driveline loss added');
    const fitted = refitted(doc, curve);
    const model = must(jobModel(fitted, [], [3000, 4000, 5000, 6000]));
    model.reference.result.power_W.forEach((w, i) =>
      expect(w).toBeCloseTo((18 * model.rpm[i]! * (1 - ((model.rpm[i]! - 5000) / 9000) ** 2)) / 0.85, -2),
    );
    expect(isFailure(baselineCurve({ rpm: [1510], power_W: [1], runs: 1, day: null, weather: doc.car.weather }, doc.car, 0))).toBe(true);
  });

  it('a depression that is more than the parts add up to scales the path, and then the model loses it', () => {
    const model = must(jobModel(doc, []));
    const top = model.rpm.at(-1)!;
    const loss = doc.car.weather.p_Pa - model.reference.result.plenum_Pa.at(-1)!;
    const found = lossRefit(model, 1, [top], [1.3 * loss])!;
    expect(found.factor).toBeCloseTo(1.3, 6);
    const scaled = must(jobModel({ ...doc, air: { ...doc.air, lossFactor: found.factor } }, []));
    expect(doc.car.weather.p_Pa - scaled.reference.result.plenum_Pa.at(-1)!).toBeGreaterThan(1.2 * loss);
    expect(lossRefit(model, 1, [], [])).toBeNull();
    expect(lossRefit(model, 1, [top], [-5])).toBeNull();
  });

  it('the predicted gain over a stretch is the ratio of the means there', () => {
    const over = predictedOver([1000, 2000, 3000, 4000], [10, 20, 30, 40], [10, 20, 30, 44]);
    expect(over).toMatchObject({ whole: expect.closeTo(4, 9), bottom: expect.closeTo(0, 9), top: expect.closeTo((100 * 4) / 70, 9) });
    expect(predictedOver([1000], [10], [11], [2000, 3000]).whole).toBeNaN();
  });
});
