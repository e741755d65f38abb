import { aJob, aRecord, aUnit, BLOWN, INDIVIDUAL, TURBO } from '../../../test/units';
import type { JobDoc } from '../documents/job';
import type { PartDoc } from '../documents/part';
import { driveRatio } from '../engine/pulley';
import { isFailure, must } from '../failure';
import { peakOf } from '../numbers/peak';
import { compressorLimits, edgeAt } from './compressor-limits';
import { assumptionsOf, decides } from './deciding';
import { followed } from './follow';
import { withInduction } from './induction';
import { chokingOf, jobModel, sideLadder, throttleLoss, type JobModel } from './model';
import { jobPulsation, oneBench, recordOf, stockFitted } from './path';
import { rangeProblem } from './ranges';
import { leaderOf, rankUnits } from './ranking';
import { peakAtBore } from './knee';
import { refitted } from './refit';
import { nextRestrictions } from './restriction';

const solved = (doc: JobDoc, bores: readonly number[] = [62, 66, 74]): JobModel =>
  must(
    jobModel(
      doc,
      bores.map((b) => ({ unit: aUnit(b), opening: 'matched' as const })),
    ),
  );
const withCar = (doc: JobDoc, car: Partial<JobDoc['car']>): JobDoc => ({ ...doc, car: { ...doc.car, ...car } });
const RESTRICTOR: PartDoc = {
  id: 'r',
  type: 'restrictor',
  name: 'restrictor',
  bore_m: 0.034,
  kind: 'venturi',
  count: 1,
  Cd: null,
  recovery: null,
};
const withPart = (doc: JobDoc, part: PartDoc, at = 2): JobDoc => ({
  ...doc,
  air: { ...doc.air, parts: [...doc.air.parts.slice(0, at), part, ...doc.air.parts.slice(at)] },
});

describe('few cylinders on one throttle', () => {
  const of = (cylinders: number): JobDoc => withCar(aJob(), { engine: { ...aJob().car.engine, cylinders } });

  it.each([
    [1, 2.76, true],
    [2, 1.55, true],
    [3, 1.15, true],
    [4, 1.0096, false],
    [6, 1.006, false],
  ])('%i cylinders lose %f times the steady loss', (n, factor, atLeast) => {
    const p = jobPulsation(of(n))!;
    expect(p.own).toBeCloseTo(factor, 2);
    expect(p.atLeast).toBe(atLeast);
  });

  it('a larger plenum smooths it', () => {
    const doc = of(2);
    const large = withCar(doc, { engine: { ...doc.car.engine, plenum_m3: 4 * doc.car.engine.displacement_m3 } });
    expect(jobPulsation(large)!.own).toBeLessThan(jobPulsation(doc)!.own);
  });

  it('two cylinders lose more at the throttle than six of the same demand', () => {
    const loss = (n: number): number => must(sideLadder(solved(of(n), []), solved(of(n), []).stock, 40)).total_Pa;
    expect(loss(2) / loss(6)).toBeGreaterThan(1.4);
  });
});

describe('a restrictor', () => {
  const race = withPart(aJob(TURBO), { ...RESTRICTOR, bore_m: 0.027 });
  const model = solved(race);

  it('holds a turbo from an rpm on: the flow stays, the boost falls, and the part is named', () => {
    const choking = chokingOf(model, model.stock)!;
    expect(choking.part).toBe('restrictor');
    const at = model.rpm.indexOf(choking.from_rpm);
    const { massFlow_kgps } = model.reference.result;
    expect(peakOf(massFlow_kgps.slice(at)) / Math.min(...massFlow_kgps.slice(at)) - 1).toBeLessThan(1e-9);
    const boost = 'boost_Pa' in model.reference.result ? model.reference.result.boost_Pa : [];
    expect(boost.at(-1)!).toBeLessThan(boost[at]!);
    // No air made so hot that it fills the plenum: the compressor does less as the boost falls, and the throttle loses little.
    const ratio = 'pressureRatio' in model.reference.result ? model.reference.result.pressureRatio : [];
    expect(Math.max(...ratio)).toBeLessThan(2.6);
    const top = must(sideLadder(model, model.stock, model.rpm.length - 1));
    expect(throttleLoss(model.stock.compiled, top)).toBeLessThan(3000);
    const open = solved(aJob(TURBO));
    expect(peakOf(model.reference.result.power_W)).toBeLessThan(peakOf(open.reference.result.power_W));
  });

  it('gives no larger throttle a worse word than a smaller one', () => {
    const units = [62, 66, 74, 90].map((b) => aUnit(b, { controls: race.car.controls.kind }));
    const m = must(
      jobModel(
        race,
        units.map((unit) => ({ unit, opening: 'matched' as const })),
      ),
    );
    const ranked = rankUnits(race, m, units);
    expect(ranked.some((r) => r.verdict === 'chokes')).toBe(false);
    const gains = units.map((u) => ranked.find((r) => r.unit.id === u.id)!.peakGain_pct!);
    gains.forEach((g, i) => i > 0 && expect(g).toBeGreaterThan(gains[i - 1]! - 1e-6));
  });

  it('a plate holds more back than a venturi of the same throat, and a wider throat less', () => {
    const worth = (r: Partial<Extract<PartDoc, { type: 'restrictor' }>>): number => {
      const m = solved(withPart(aJob(), { ...RESTRICTOR, ...r } as PartDoc), []);
      return nextRestrictions(m, m.stock).find((x) => x.name === 'restrictor')!.gain_pct;
    };
    expect(worth({ kind: 'plate' })).toBeGreaterThan(worth({}));
    expect(worth({ bore_m: 0.04 })).toBeLessThan(worth({}));
    expect(worth({ bore_m: 0.04 })).toBeGreaterThan(0);
  });
});

describe('individual throttles', () => {
  it('choke by their pulse, at a third of the even flow', () => {
    const doc = aJob(INDIVIDUAL);
    const { throttle } = doc.car.stock;
    const tight = withCar(doc, {
      stock: { ...doc.car.stock, throttle: { ...throttle, bore_m: 0.02 }, manifoldOpening_m: 0.02, gasketOpening_m: 0.02 },
    });
    const m = solved(tight, []);
    expect(chokingOf(m, m.stock)).not.toBeNull();
    const top = m.reference.result.massFlow_kgps.at(-1)!;
    const area = (throttle.count * Math.PI * 0.02 ** 2) / 4;
    const even = (0.684731 * area * doc.car.weather.p_Pa) / Math.sqrt(287.058 * doc.car.weather.T_K);
    expect(top / even).toBeLessThan(0.34);
    expect(top / even).toBeGreaterThan(0.1);
  });
});

describe('a blower', () => {
  const blown = aJob(BLOWN);
  const boostAt = (doc: JobDoc, rpm: number): number => {
    const m = must(jobModel(doc, [], [rpm, doc.car.engine.redline_rpm]));
    return 'boost_Pa' in m.reference.result ? m.reference.result.boost_Pa[0]! : NaN;
  };

  it('makes the same boost at 3,000 rpm whatever the redline', () => {
    const lower = withCar(blown, { engine: { ...blown.car.engine, redline_rpm: 5000 } });
    expect(boostAt(lower, 3000) / boostAt(blown, 3000)).toBeCloseTo(1, 3);
  });

  it('moves moist air: a damp day makes less power', () => {
    const peak = (rh: number): number =>
      peakOf(solved(withCar(blown, { weather: { p_Pa: 101_325, T_K: 308, rh } }), []).reference.result.power_W);
    expect(peak(1) / peak(0)).toBeLessThan(0.99);
  });

  const boost = { rpm: [2000, 4000, 6000], value: [30_000, 42_000, 47_000], source: 'log', driveRatio: null };
  const measured = withCar(blown, { measured: { ...blown.car.measured, boost }, from: { efficiency: 'boost', power: 'estimate' } });

  it('measured boost stays when the power is taught', () => {
    const taught = refitted(measured, { rpm: [2000, 6000], value: [90_000, 240_000], source: 'runs', driveRatio: null });
    expect(taught.car.from).toEqual({ efficiency: 'boost', power: 'measured' });
    expect(boostAt(taught, 4000)).toBeCloseTo(42_000, 6);
  });

  it('with another pulley the measured boost stays that of the old one, and the new one makes more', () => {
    const { induction } = measured.car;
    if (induction.kind !== 'drawThrough') throw new Error('not blown');
    const spun = withCar(measured, { induction: { ...induction, blower: { ...induction.blower, blowerPulley_m: 0.076 } } });
    const told = followed(measured, spun);
    expect(told.car.measured.boost!.driveRatio).toBeCloseTo(driveRatio(induction.blower), 9);
    expect(boostAt(told, 4000)).toBeGreaterThan(46_000);
    const back = followed(told, withCar(told, { induction }));
    expect(boostAt(back, 4000)).toBeCloseTo(42_000, 6);
  });

  it('one known point of boost is enough, and is reproduced', () => {
    const one = withCar(measured, { measured: { ...measured.car.measured, boost: { ...boost, rpm: [4000], value: [42_000] } } });
    expect(boostAt(one, 4000)).toBeCloseTo(42_000, 0);
    expect(boostAt(one, 2500)).not.toBeCloseTo(42_000, -3);
  });

  it('a blower spun past its limit is told, with the engine speed it begins at', () => {
    const [limit] = compressorLimits(blown, [], null, 0.06);
    expect(limit).toMatchObject({ kind: 'blower speed', limit_rpm: 15_000 });
    expect(limit!.from_rpm).toBeLessThan(blown.car.engine.redline_rpm);
    expect(compressorLimits(blown, [], null, 0.12)).toEqual([]);
  });
});

describe('a compressor map of a few points', () => {
  const edge = [
    { massFlow_kgps: 0.1, ratio: 2 },
    { massFlow_kgps: 0.05, ratio: 1.4 },
  ];

  it('is straight between its points and level beyond', () => {
    expect(edgeAt(edge, 1.7)).toBeCloseTo(0.075, 12);
    expect(edgeAt(edge, 1)).toBe(0.05);
    expect(edgeAt(edge, 3)).toBe(0.1);
    expect(edgeAt([], 2)).toBeNull();
  });

  it('says where a turbo surges and where it runs out of flow', () => {
    const doc = aJob(TURBO);
    const { induction } = doc.car;
    if (induction.kind !== 'turbo') throw new Error('no turbo');
    const map = { surge: [{ massFlow_kgps: 0.06, ratio: 1.9 }], choke: [{ massFlow_kgps: 0.13, ratio: 1.9 }] };
    const mapped = withCar(doc, { induction: { ...induction, compressor: { ...induction.compressor, map } } });
    const m = solved(mapped, []);
    const found = compressorLimits(mapped, m.rpm, m.reference.result);
    expect(found.map((l) => l.kind)).toEqual(['surge', 'choke']);
    expect(found[0]!.from_rpm).toBeLessThan(found[1]!.from_rpm);
    expect(compressorLimits(doc, m.rpm, m.reference.result)).toEqual([]);
  });
});

describe('figures that follow', () => {
  const doc = aJob();
  const bore = (d: JobDoc, bore_m: number): JobDoc =>
    withCar(d, { stock: { ...d.car.stock, throttle: { ...d.car.stock.throttle, bore_m } } });

  it('manifold and gasket bores follow the throttle until they are entered', () => {
    const next = followed(doc, bore(doc, 0.064));
    expect(next.car.stock).toMatchObject({ manifoldOpening_m: 0.064, gasketOpening_m: 0.066 });
    const entered = { ...doc, marks: { 'stock.manifoldOpening_m': 'entered' as const } };
    expect(followed(entered, bore(entered, 0.064)).car.stock).toMatchObject({
      manifoldOpening_m: doc.car.stock.manifoldOpening_m,
      gasketOpening_m: 0.066,
    });
  });

  it('the air meter and its coupler follow the pipe', () => {
    const parts = doc.air.parts.map((p) => (p.type === 'pipe' ? { ...p, bore_m: 0.09 } : p));
    const next = followed(doc, { ...doc, air: { ...doc.air, parts } });
    const meter = next.air.parts.find((p) => p.type === 'meter')!;
    const coupler = next.air.parts.find((p) => p.type === 'taper')!;
    expect(meter).toMatchObject({ bore_m: 0.0867 });
    expect(coupler).toMatchObject({ inBore_m: 0.0867 });
    const entered = { ...doc, marks: { 'air.meter.bore_m': 'entered' as const } };
    const kept = followed(entered, { ...entered, air: { ...entered.air, parts } });
    expect(kept.air.parts.find((p) => p.type === 'meter')).toEqual(doc.air.parts.find((p) => p.type === 'meter'));
  });
});

describe('the word on a throttle', () => {
  const doc = withCar(aJob(), { controls: { kind: 'electronic-digital', closed_V: null, full_V: null } });
  const rank = (unit: ReturnType<typeof aUnit>, of = doc) => rankUnits(of, must(jobModel(of, [{ unit, opening: 'matched' }])), [unit])[0]!;
  const electronic = { controls: 'electronic-digital' } as const;

  it('one that loses says so', () => {
    const small = rank(aUnit(50, electronic));
    expect(small.verdict).toBe('costs power');
    expect(small.largestLoss_pct!).toBeGreaterThan(1);
  });

  it('a gap that is only assumed asks to be measured, and one that was measured decides', () => {
    const t = aUnit(70).doc.throttle;
    const loose = { ...t, clearance_m: 0.00012, leak: 'turned' as const };
    expect(rank(aUnit(70, { ...electronic, throttle: loose })).verdict).toBe('measure the gap');
    expect(rank(aUnit(70, { ...electronic, throttle: { ...loose, leak: 'measured' } })).verdict).toBe('too big for its manners');
  });
});

describe('an assumption that decides', () => {
  it('is found with what would lead then; a measured one is left alone', () => {
    const doc: JobDoc = { ...aJob(), marks: {}, pick: { ...aJob().pick, opening: 'as it is' } };
    const units = [aUnit(60), aUnit(62)];
    const m = must(
      jobModel(
        doc,
        units.map((unit) => ({ unit, opening: 'as it is' as const })),
      ),
    );
    const lead = leaderOf(rankUnits(doc, m, units))!;
    const found = assumptionsOf(doc).map((a) => decides(doc, units, a, lead));
    for (const f of found.filter((x) => x !== null)) expect(f.verdict !== lead.verdict || f.leader !== lead.unit.doc.name).toBe(true);
    expect(assumptionsOf(doc).map((a) => a.what)).toContain('manifold bore');
    const known: JobDoc = { ...doc, marks: { 'stock.manifoldOpening_m': 'measured' } };
    expect(assumptionsOf(known).map((a) => a.what)).not.toContain('manifold bore');
  });
});

describe('an assumption that changes only which of two useless throttles is named', () => {
  const doc: JobDoc = { ...aJob(), marks: {} };
  const lead = (units: ReturnType<typeof aUnit>[]) => {
    const m = must(
      jobModel(
        doc,
        units.map((unit) => ({ unit, opening: doc.pick.opening })),
      ),
    );
    return leaderOf(rankUnits(doc, m, units))!;
  };
  const other = (units: ReturnType<typeof aUnit>[]) => {
    const now = { verdict: lead(units).verdict, unit: { id: 'somebody else' } };
    return assumptionsOf(doc).map((a) => decides(doc, units, a, now));
  };

  it('does not decide while both are too big', () => {
    const units = [aUnit(90)];
    expect(lead(units).verdict).toBe('too big for its manners');
    expect(other(units).every((d) => d === null || d.verdict !== 'too big for its manners')).toBe(true);
  });

  it('decides where money would go to another one', () => {
    const units = [aUnit(66)];
    expect(lead(units).verdict).toBe('worth buying');
    expect(other(units).some((d) => d?.verdict === 'worth buying')).toBe(true);
  });
});

describe('bench records of both throttles', () => {
  const base = aJob();
  const record = aRecord(0.14);
  const benched = withCar(base, { stock: { ...base.car.stock, bench: record } });

  it('stock takes its own reading: a low one loses more', () => {
    const low = withCar(base, { stock: { ...base.car.stock, bench: { ...record, flow_m3ps: 0.11 } } });
    const loss = (d: JobDoc): number => must(sideLadder(solved(d, []), solved(d, []).stock, 50)).total_Pa;
    expect(loss(low)).toBeGreaterThan(loss(benched));
  });

  it('a reading goes before a claim, wherever it stands, and else the first counts', () => {
    const [claim, reading, later] = [aRecord(0.3, { kind: 'claim' }), aRecord(0.19), aRecord(0.2)];
    expect(recordOf([claim, reading, later])).toBe(reading);
    expect(recordOf([claim, aRecord(0.31, { kind: 'claim' })])).toBe(claim);
    expect(recordOf([])).toBeUndefined();
  });

  it('two benches without a name are not known to be one, nor is a name told from itself by its letters', () => {
    const fitted = (bench: string) => ({ ...stockFitted(withCar(base, { stock: { ...base.car.stock, bench: { ...record, bench } } })) });
    expect(oneBench(fitted(' '), fitted(' '))).toBe(false);
    expect(oneBench(fitted('Ours'), fitted(' ours '))).toBe(true);
    expect(oneBench(fitted('ours'), fitted('theirs'))).toBe(false);
  });

  it('are drawn together only where one bench read both, and a claim has the wider tolerance', () => {
    const same = aUnit(66, { bench: [aRecord(0.19)] });
    const claim = aUnit(74, { bench: [aRecord(0.22, { kind: 'claim' })] });
    const m = must(
      jobModel(
        benched,
        [same, claim, aUnit(62)].map((unit) => ({ unit, opening: 'matched' as const })),
      ),
    );
    expect(m.candidates.map((c) => oneBench(m.stock.fitted, c.fitted))).toEqual([true, false, false]);
    const ranges = rangeProblem(m, 6);
    expect(ranges.apart).toEqual([false, true, true]);
    expect(ranges.modelError).toBe(0.2);
    expect(ranges.candidates[1]!.parts.find((p) => p.type === 'throttle')!.benchTolerance).toBe(0.1);
    expect(rangeProblem(m, 4).modelError).toBe(0.3);
    expect(rangeProblem(m, 2).modelError).toBe(0.5);
  });
});

it('a blown engine of one kind is still solved as another', () => {
  for (const kind of ['na', 'turbo', 'centrifugal'] as const) expect(isFailure(jobModel(withInduction(aJob(BLOWN), kind), []))).toBe(false);
});

describe('a stock throttle with a bench figure of its own', () => {
  const base = aJob();
  const low = withCar(base, { stock: { ...base.car.stock, bench: aRecord(0.1) } });

  it('in its own size brings nothing over itself: the bores tried are of its make', () => {
    const m = solved(low, []);
    const stock = peakOf(m.reference.result.power_W);
    expect(peakAtBore(low, m, low.car.stock.throttle.bore_m, 'as it is')! / stock).toBeCloseTo(1, 9);
    expect(peakAtBore(low, m, low.car.stock.throttle.bore_m * 1.1, 'matched')!).toBeGreaterThan(stock);
  });
});

it('a measured boost that the blower cannot make is told apart from a blower that is drawn past', () => {
  const blown = aJob(BLOWN);
  const boost = { rpm: [2000, 6000], value: [950_000, 40_000], source: 'log', driveRatio: null };
  const doc = withCar(blown, { measured: { ...blown.car.measured, boost }, from: { efficiency: 'boost', power: 'estimate' } });
  const { result } = solved(doc, []).reference;
  expect(result.unmeasured_rpm!.length).toBeGreaterThan(0);
  expect(result.without_rpm).toBeUndefined();
});
