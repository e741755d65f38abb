import fc from 'fast-check';
import { aJob, aRecord, aUnit, BLOWN, CENTRIFUGAL, INDIVIDUAL, SIX, TURBO } from '../../../test/units';
import type { JobDoc } from '../documents/job';
import { isBoosted } from '../engine/induction';
import { isFailure, must } from '../failure';
import { endPressure, ladderOf } from '../flow/ladder';
import { jobBounds, jobLimits, windowRemedies, type JobBounds } from './bounds';
import { withInduction } from './induction';
import { idealPeakAt, jobKnee, kneeBores, peakAtBore, powerBound, throttleAtBore } from './knee';
import { jobModel, sideLadder, sideStart, sizingUse, throttleLoss, throttleRows, type JobModel } from './model';
import { openingFor } from '../documents/openings';
import { jobIntake, jobPulsation, stockFitted, wholeFlow } from './path';
import { jobProblem, jobVe, veFromPower } from './problem';
import { rankUnits } from './ranking';
import { chainOf, nextRestrictions } from './restriction';
import { jobSchools } from './schools';
import { jobWhatIf } from './what-if';

const ALL = [SIX, BLOWN, CENTRIFUGAL, TURBO, INDIVIDUAL];
const units = [aUnit(62), aUnit(66), aUnit(74)];
const modelOf = (doc: JobDoc, shelf = units): JobModel =>
  must(
    jobModel(
      doc,
      shelf.map((unit) => ({ unit, opening: 'matched' as const })),
    ),
  );
const peak = (m: JobModel): number => Math.max(...m.reference.result.power_W);
const withSizing = (doc: JobDoc, sizing: Partial<JobDoc['sizing']>): JobDoc => ({ ...doc, sizing: { ...doc.sizing, ...sizing } });

describe.each(ALL)('%s', (preset) => {
  const doc = aJob(preset);
  let model: JobModel;
  let bounds: JobBounds;
  beforeAll(() => {
    model = modelOf(doc, []);
    bounds = jobBounds(doc, model);
  });

  it('has a window whose ends come from its own bounds', () => {
    const { window } = bounds;
    const lower = [bounds.loss_m, bounds.gasSpeed_m, bounds.bench_m, bounds.power_m].filter((x): x is number => x !== null);
    const upper = [bounds.idle_m, bounds.tipIn_m, bounds.fit_m].filter((x): x is number => x !== null);
    expect(window.lower_m).toBeCloseTo(Math.max(...lower), 12);
    expect(window.upper_m).toBeCloseTo(Math.min(...upper), 12);
    expect(window.empty).toBe(window.lower_m! > window.upper_m!);
  });

  it('is sized where the throttle works hardest, in the air that stands before it there', () => {
    const rows = throttleRows(model.stock.compiled);
    const at = model.rpm.map((_, i) => {
      const start = sideStart(model, model.stock, i);
      const ladder = must(sideLadder(model, model.stock, i));
      const before_Pa = ladder.dp_Pa.slice(0, rows.first).reduce((p, d) => p - d, start.p0_Pa);
      return { lost_Pa: throttleLoss(model.stock.compiled, ladder), before_Pa, T0_K: start.T0_K };
    });
    const { worst } = bounds;
    const i = model.rpm.indexOf(worst.rpm);
    // Where it loses most, or as good as: the loss of a path grows a little faster than its flow's square.
    expect(at[i]!.lost_Pa / Math.max(...at.map((p) => p.lost_Pa))).toBeGreaterThan(0.98);
    expect(worst.p0_Pa / at[i]!.before_Pa).toBeCloseTo(1, 3);
    expect(worst.T0_K).toBe(at[i]!.T0_K);
    expect(worst.massFlow_kgps).toBe(model.demand_kgps[i]);
  });

  it('its throttle’s path leads from the air before it to what the engine or its blower draws from', () => {
    const solved = must(model.stock.solved);
    model.rpm.forEach((_, i) => {
      const { p0_Pa, T0_K } = sideStart(model, model.stock, i);
      const end = model.problem.kind === 'drawThrough' && isBoosted(solved) ? solved.inlet_Pa[i]! : solved.plenum_Pa[i]!;
      expect(endPressure(model.stock.compiled, solved.massFlow_kgps[i]!, p0_Pa, T0_K) / end).toBeCloseTo(1, 6);
    });
  });

  it('passes at every engine speed what its throttle loses just the allowed at, in the air that stands before it', () => {
    const passes = model.stock.passes_kgps!;
    expect(passes).toHaveLength(model.rpm.length);
    model.rpm.forEach((_, i) => {
      const { p0_Pa, T0_K } = sideStart(model, model.stock, i);
      const lost_Pa = throttleLoss(model.stock.compiled, must(ladderOf(model.stock.compiled, passes[i]!, p0_Pa, T0_K)));
      // Between the engine speeds that are looked at it is as smooth as a hundredth.
      expect(Math.abs(lost_Pa / bounds.limits.loss_Pa - 1)).toBeLessThan(model.problem.kind === 'turbo' ? 0.015 : 0.002);
    });
  });

  it('asks for more bore the less it may lose', () => {
    const strict = jobBounds({ ...doc, air: { ...doc.air, allowedLoss_Pa: bounds.limits.loss_Pa / 2 } }, model);
    expect(strict.loss_m!).toBeGreaterThan(bounds.loss_m!);
    expect(strict.bench_m!).toBeGreaterThan(bounds.bench_m!);
    expect(strict.power_m).toBe(bounds.power_m);
  });

  it('its power bound leaves just its share, and a hair less leaves more', () => {
    const bore = powerBound(doc, model, 'matched', 0.005)!;
    expect(bore).toBeCloseTo(bounds.power_m!, 9);
    const loose = powerBound(doc, model, 'matched', 0.02)!;
    expect(loose).toBeLessThan(bore);
  });

  it('the knee curve rises with bore as far as one and a half times the pipe, and its knee is near its top', () => {
    const bores = kneeBores(doc, [], 24);
    const knee = jobKnee(doc, model, bores);
    const found = knee.matched_W.filter((p): p is number => p !== null);
    const top = Math.max(...found);
    expect(knee.knee_m).not.toBeNull();
    expect(knee.matched_W[bores.indexOf(knee.knee_m!)]!).toBeGreaterThanOrEqual(top * 0.995);
    knee.asItIs_W.forEach((p, i) => {
      if (p !== null && bores[i]! > doc.car.stock.manifoldOpening_m) expect(p).toBeLessThanOrEqual(knee.matched_W[i]! * (1 + 1e-9));
    });
  });

  it('stock’s own size on the knee curve is stock', () => {
    const { throttle } = doc.car.stock;
    const bore = throttle.bore_m;
    expect(peakAtBore(doc, model, bore, 'as it is')! / peak(model)).toBeCloseTo(1, 9);
  });

  it('an ideal throttle, in an opening as wide as the part ahead, is no worse than any bore up to that', () => {
    const ideal = idealPeakAt(doc, model, 'matched')!;
    for (const bore of kneeBores(doc, [], 8)) {
      const own = peakAtBore(doc, model, bore, 'matched');
      if (own !== null && bore <= 1.02 * doc.car.stock.throttle.bore_m) expect(ideal).toBeGreaterThan(own * (1 - 1e-4));
    }
  });

  it('lists every part but the throttle and its opening as what is in the way next, worst first', () => {
    const list = nextRestrictions(model, model.stock);
    const skipped = doc.air.parts.filter((p) => ['throttle', 'opening', 'compressor'].includes(p.type)).length;
    expect(list).toHaveLength(doc.air.parts.length - skipped);
    expect(list.map((r) => r.gain_pct)).toEqual([...list.map((r) => r.gain_pct)].sort((a, b) => b - a));
    for (const r of list) expect(r.gain_pct).toBeGreaterThan(-1e-6);
  });

  it('the schools speak of one engine and each says what it cannot', () => {
    const schools = jobSchools(doc, model, bounds);
    expect(schools.map((s) => s.key)).toEqual(['displacement', 'power', 'meter', 'bench rating', 'gas speed', 'loss', 'power left']);
    const of = (key: string) => schools.find((s) => s.key === key)!;
    expect(of('meter')).toMatchObject({ massFlow_kgps: null, bore_m: null });
    // The habit of taking a catalogue figure for the demand comes out far too small.
    expect(of('bench rating').bore_m!).toBeLessThan(of('displacement').bore_m!);
    expect(of('loss').bore_m).toBe(bounds.loss_m);
    expect(of('power').massFlow_kgps! / of('displacement').massFlow_kgps!).toBeGreaterThan(0.7);
    expect(of('power').massFlow_kgps! / of('displacement').massFlow_kgps!).toBeLessThan(1.4);
  });

  it('the parts before and in the path are all the job’s parts', () => {
    const intake = jobIntake(doc, stockFitted(doc));
    const compressor = doc.air.parts.some((p) => p.type === 'compressor') ? 1 : 0;
    expect((intake.before?.parts.length ?? 0) + intake.path.parts.length + compressor).toBe(doc.air.parts.length);
    expect(intake.offset).toBe(compressor ? intake.before!.parts.length + 1 : 0);
  });
});

describe('limits', () => {
  it('come from the use until a job says otherwise', () => {
    expect(jobLimits(aJob())).toMatchObject({ loss_Pa: 1500, speed_mps: 90, tipIn: 1.35 });
    expect(jobLimits({ ...aJob(), car: { ...aJob().car, use: 'race' } }).loss_Pa).toBe(1000);
    expect(jobLimits(aJob(BLOWN)).loss_Pa).toBe(2000);
    expect(jobLimits(aJob(TURBO)).speed_mps).toBeNull();
    const own = withSizing(aJob(), { speed_mps: 70, benchRatio: 0.9, powerShare: 0.01, idleShare: 0.5, tipIn: 1.5 });
    expect(jobLimits(own)).toEqual({ loss_Pa: 1500, speed_mps: 70, benchRatio: 0.9, powerShare: 0.01, idleShare: 0.5, tipIn: 1.5 });
  });

  it('each kind of engine has its use', () => {
    expect(ALL.map((p) => sizingUse(aJob(p)))).toEqual(['na-street', 'draw-through', 'blow-through', 'blow-through', 'na-street']);
  });

  it('a flange that takes little can empty the window, and a larger one opens it', () => {
    const doc = withSizing(aJob(), { fit_m: 0.05 });
    const model = modelOf(doc, []);
    const bounds = jobBounds(doc, model);
    expect(bounds.window).toMatchObject({ empty: true, upperBy: 'fit' });
    expect(windowRemedies(doc, model, bounds).map((r) => r.kind)).toContain('larger flange');
  });

  it('a wide blade gap can empty it too, and sealing the blade opens it', () => {
    const base = aJob();
    const throttle = { ...base.car.stock.throttle, clearance_m: 1.2e-4, leak: 'measured' as const };
    const doc: JobDoc = { ...base, car: { ...base.car, stock: { ...base.car.stock, throttle } } };
    const model = modelOf(doc, []);
    const bounds = jobBounds(doc, model);
    expect(bounds.window.upperBy).toBe('idle');
    if (bounds.window.empty) expect(windowRemedies(doc, model, bounds).map((r) => r.kind)).toContain('sealed blade');
  });

  it('a cable that snatches is cured by electronic control', () => {
    const doc = withSizing(aJob(), { tipIn: 1.02 });
    const model = modelOf(doc, []);
    const bounds = jobBounds(doc, model);
    expect(bounds.window).toMatchObject({ empty: true, upperBy: 'tipIn' });
    const electronic = windowRemedies(doc, model, bounds).find((r) => r.kind === 'electronic control');
    expect(electronic!.bound_m!).toBeGreaterThan(bounds.tipIn_m!);
  });

  it('a window that is open needs no remedy', () => {
    const doc = aJob();
    const model = modelOf(doc, []);
    const open = jobBounds(withSizing(doc, { tipIn: 2.2 }), model);
    expect(open.window.empty).toBe(false);
    expect(windowRemedies(doc, model, open)).toEqual([]);
  });
});

describe('what is ahead of the throttle', () => {
  it('a small meter is named as short, and its cure is worth the most', () => {
    const base = aJob();
    const parts = base.air.parts.map((p) => (p.type === 'meter' ? { ...p, bore_m: 0.046 } : p));
    const doc: JobDoc = { ...base, air: { ...base.air, parts } };
    const model = modelOf(doc, [aUnit(66)]);
    const chain = chainOf(model.candidates[0]!.path.parts);
    expect(chain.filter((l) => l.short).map((l) => l.type)).toContain('meter');
    expect(nextRestrictions(model, model.candidates[0]!)[0]!.name).toMatch(/MAF/);
  });

  it('a stock path stands wide of its throttle', () => {
    const model = modelOf(aJob(), []);
    expect(chainOf(model.stock.path.parts).filter((l) => l.short)).toEqual([]);
  });

  it('a bench record takes the place of a shape', () => {
    const [, , bench] = [aUnit(62), aUnit(66), aUnit(66, { bench: [aRecord(0.3)] })];
    const doc = aJob();
    const measured = modelOf(doc, [bench!]).candidates[0]!;
    const link = chainOf(measured.path.parts).find((l) => l.type === 'throttle')!;
    expect(link.basis).toMatchObject({ from: 'reading', flow_m3ps: 0.3 });
    expect(link.flow_m3ps!).toBeCloseTo(0.3, 4);
  });

  it('a record of one bore of three counts three times', () => {
    const set = aUnit(45, { throttle: { ...aUnit(45).doc.throttle, shape: 'individual', count: 3 } }).doc;
    expect(wholeFlow(set, aRecord(0.12, { bores: 1 }))).toBeCloseTo(0.36, 12);
    expect(wholeFlow(set, aRecord(0.36))).toBeCloseTo(0.36, 12);
  });
});

describe('what if there were more boost', () => {
  it('is no question for an engine without a compressor', () => {
    expect(jobWhatIf(aJob(), modelOf(aJob()), { boost_Pa: 80_000 })).toBeNull();
  });

  it('the same pulley is the same engine; a smaller one loses more in the throttle', () => {
    const doc = aJob(BLOWN);
    const { induction } = doc.car;
    if (induction.kind !== 'drawThrough') throw new Error('kind');
    const model = modelOf(doc, [aUnit(82, { controls: doc.car.controls.kind })]);
    const { blowerPulley_m } = induction.blower;
    const same = jobWhatIf(doc, model, { pulley_m: blowerPulley_m });
    const small = jobWhatIf(doc, model, { pulley_m: blowerPulley_m * 0.9 });
    if (!same || isFailure(same) || !small || isFailure(small)) throw new Error('not solved');
    expect(same.boostThen_Pa / same.boostNow_Pa).toBeCloseTo(1, 6);
    expect(small.boostThen_Pa).toBeGreaterThan(small.boostNow_Pa);
    expect(small.sides[0]!.loss_Pa!).toBeGreaterThan(small.stockNow.loss_Pa!);
    expect(small.leftThen_pct!).toBeGreaterThan(small.leftNow_pct!);
    expect(small.sides[1]!.gain_pct!).toBeGreaterThan(same.sides[1]!.gain_pct!);
  });

  it.each([
    [CENTRIFUGAL, { pressureRatio: 1.9 }],
    [TURBO, { boost_Pa: 150_000 }],
  ])('%s answers to its own lever', (preset, change) => {
    const doc = aJob(preset);
    const found = jobWhatIf(doc, modelOf(doc), change);
    if (!found || isFailure(found)) throw new Error('not solved');
    expect(found.boostThen_Pa).toBeGreaterThan(found.boostNow_Pa);
    expect(found.sides[0]!.peak_W!).toBeGreaterThan(found.stockNow.peak_W);
  });

  it('a change the engine cannot follow says so', () => {
    const doc = aJob(BLOWN);
    const found = jobWhatIf(doc, modelOf(doc), { pulley_m: 0.5 });
    expect(found).toMatchObject({ error: 'no_blower_solution' });
  });
});

describe('measured curves', () => {
  const base = aJob();
  const rpm = [2000, 4000, 6000];
  const measured = (kind: 'power' | 'air' | 'boost', value: readonly number[]): JobDoc => ({
    ...base,
    car: {
      ...base.car,
      measured: { ...base.car.measured, [kind]: { rpm, value, source: 'pasted' } },
      from: { efficiency: kind === 'boost' ? 'boost' : kind, power: kind === 'power' ? 'measured' : 'estimate' },
    },
  });

  it('a power curve becomes the reference power, and an efficiency', () => {
    const doc = measured('power', [45_000, 100_000, 140_000]);
    const model = modelOf(doc, []);
    const at = model.rpm.findIndex((n) => n >= 4000);
    const [below, above] = [45_000, 140_000];
    expect(model.reference.result.power_W[at]!).toBeGreaterThan(below);
    expect(model.reference.result.power_W[at]!).toBeLessThan(above);
    // Beyond its ends it is the torque that stays.
    const beyond = model.rpm.map((n, i) => ({ n, power_W: model.reference.result.power_W[i]! })).filter(({ n }) => n < 2000 || n > 6000);
    expect(beyond.length).toBeGreaterThan(10);
    for (const { n, power_W } of beyond) expect(power_W).toBeCloseTo(n < 2000 ? (45_000 * n) / 2000 : (140_000 * n) / 6000, 3);
    const ve = jobVe(doc.car);
    if (isFailure(ve) || typeof ve === 'number') throw new Error('no curve');
    expect(ve.rpm).toEqual(rpm);
  });

  it('an air meter’s curve is undone by the displacement school', () => {
    const doc = measured('air', [0.05, 0.1, 0.15]);
    const model = modelOf(doc, []);
    const at = model.rpm.indexOf(4000);
    if (at >= 0) expect(model.demand_kgps[at]!).toBeCloseTo(0.1, 6);
    expect(jobSchools(doc, model, jobBounds(doc, model)).find((s) => s.key === 'meter')!.massFlow_kgps).toBeCloseTo(0.15, 12);
  });

  it('power and the efficiency worked back from it undo one another', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.3, max: 1.6, noNaN: true }), fc.integer({ min: 900, max: 9000 }), (ve, n) => {
        const flow = (ve * 0.002 * n * 1.2) / 120;
        expect(must(veFromPower(flow / (8.3e-8 * 12.8), 8.3e-8, 12.8, 0.002, n, 1.2) as number)).toBeCloseTo(ve, 9);
      }),
    );
  });

  it('a curve of nothing is refused with the rpm', () => {
    expect(jobVe(measured('air', [0.05, 0, 0.15]).car)).toMatchObject({ error: 'bad_input', at_rpm: 4000, reason: 'worked_back' });
  });

  it('a measured boost curve calibrates a blown engine', () => {
    const blown = aJob(BLOWN);
    const boost = { rpm: [1500, 3500, 6500], value: [25_000, 40_000, 48_000], source: 'log', driveRatio: null };
    const doc: JobDoc = {
      ...blown,
      car: { ...blown.car, measured: { ...blown.car.measured, boost }, from: { efficiency: 'boost', power: 'estimate' } },
    };
    const model = modelOf(doc, []);
    const { result } = model.reference;
    if (!('boost_Pa' in result)) throw new Error('not boosted');
    expect(Math.max(...result.boost_Pa)).toBeGreaterThan(45_000);
    expect(Math.max(...result.boost_Pa)).toBeLessThan(50_000);
    expect(jobProblem(doc.car, [3000], { pulley_m: 0.07 })).not.toHaveProperty('input.boost_Pa');
  });
});

describe('individual throttles', () => {
  const doc = aJob(INDIVIDUAL);

  it('see a pulsating flow, the airbox a nearly steady one', () => {
    const p = jobPulsation(doc)!;
    expect(p.own).toBeGreaterThan(2);
    expect(p.shared).toBeLessThan(1.1);
    expect(p.ownPeakToMean).toBeGreaterThan(p.own);
    expect(jobPulsation(aJob())!.own).toBeCloseTo(1.006, 3);
    expect(jobPulsation(aJob(BLOWN))).toBeNull();
  });

  it('need more area than a shared throttle for the same engine', () => {
    const n = doc.car.stock.throttle.count;
    const model = modelOf(doc, []);
    const single = withInduction(doc, 'na');
    const one = jobBounds(single, modelOf(single, [])).loss_m!;
    const each = jobBounds(doc, model).loss_m!;
    expect(n * each ** 2).toBeGreaterThan(one ** 2);
  });
});

describe('the way of breathing', () => {
  const kinds = ['na', 'individual', 'drawThrough', 'centrifugal', 'turbo'] as const;

  it.each(kinds)('any engine can be made %s, and solves', (kind) => {
    for (const preset of ALL) {
      const doc = withInduction(aJob(preset), kind);
      expect(doc.car.induction.kind).toBe(kind);
      expect(isFailure(jobModel(doc, []))).toBe(false);
      expect(doc.air.parts.filter((p) => p.type === 'throttle')).toHaveLength(1);
      expect(doc.air.parts.filter((p) => p.type === 'compressor')).toHaveLength(kind === 'turbo' || kind === 'centrifugal' ? 1 : 0);
      expect(new Set(doc.air.parts.map((p) => p.id)).size).toBe(doc.air.parts.length);
    }
  });

  it('there and back again leaves one throttle in its place', () => {
    const doc = aJob();
    const back = withInduction(withInduction(doc, 'turbo'), 'na');
    expect(back.air.parts.map((p) => p.type)).toEqual(doc.air.parts.map((p) => p.type));
  });
});

describe('sizes', () => {
  it('another size of an oval or a twin keeps its make', () => {
    const t = aJob().car.stock.throttle;
    const oval = throttleAtBore({ ...t, shape: 'oval', width_m: 0.08, height_m: 0.05 }, 0.07);
    expect(oval.width_m! / oval.height_m!).toBeCloseTo(1.6, 9);
    const twin = throttleAtBore({ ...t, shape: 'twin', count: 2, bore_m: 0.045 }, 0.07);
    expect(twin.bore_m * Math.SQRT2).toBeCloseTo(0.07, 9);
  });

  it('a manifold can only be opened as far as its metal lets it', () => {
    const base = aJob();
    const doc = { ...base, car: { ...base.car, stock: { ...base.car.stock, openingLimit_m: 0.062 } } };
    expect(openingFor(doc, 0.07, 'matched')).toBe(0.062);
    expect(openingFor(doc, 0.06, 'matched')).toBeCloseTo(0.06, 12);
    expect(openingFor(doc, 0.07, 'as it is')).toBe(0.058);
  });

  it('ranking goes by verdict first and says what a leak class does to the idle', () => {
    const doc = aJob();
    const ranked = rankUnits(doc, modelOf(doc), units);
    expect(ranked).toHaveLength(3);
    for (const r of ranked) {
      const [sealed, turned] = r.idleFloorRange_rpm;
      expect(sealed!).toBeLessThanOrEqual(r.idleFloor_rpm!);
      expect(turned!).toBeGreaterThan(r.idleFloor_rpm!);
    }
  });
});
