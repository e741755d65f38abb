import { aJob, aRecord, aUnit, BLOWN, CENTRIFUGAL, INDIVIDUAL, SIX, TURBO } from '../../../test/units';
import type { JobDoc } from '../documents/job';
import { isFailure, must } from '../failure';
import { boringPlan } from '../fit/boring';
import { rankBench } from '../flow/bench-rank';
import { throttleWideOpen } from '../flow/throttle';
import { jobBounds } from '../job/bounds';
import { jobModel, sideLadder, sideStart, type JobModel } from '../job/model';
import { gainOfOpening } from '../job/opened';
import { rankUnits } from '../job/ranking';
import { chainOf, nextRestrictions } from '../job/restriction';
import { jobSchools } from '../job/schools';
import { peakIndex, peakOf } from '../numbers/peak';
import { formatQuantity } from '../units/quantity';
import { benchWorking } from './bench-working';
import { biteWorking, boundWorking, linkWorking, peakGainWorking, restrictionWorking, shapeWorking, type BoundKey } from './bore-working';
import { FORMULAS } from './formulas';
import { schoolWorking } from './school-working';
import {
  demandWorking,
  givesOutWorking,
  mannersWorking,
  passesWorking,
  plenumWorking,
  powerWorking,
  throttleLossWorking,
} from './sizing-working';
import type { Working } from './working';

/** Every number in it is one, has a unit, and its formula and source are written down. */
function sound(w: Working): void {
  expect(w.title).not.toBe('');
  for (const s of w.steps) {
    expect(FORMULAS[s.formula].tex).not.toBe('');
    expect(FORMULAS[s.formula].source).not.toBe('');
    for (const t of [...s.terms, s.result]) {
      if (!Number.isFinite(t.value)) throw new Error(`${w.title}: ${t.label} is no number`);
      expect(formatQuantity(t.value, t.measure, 'metric')).toMatch(/\d/);
      expect(t.label).not.toBe('');
    }
  }
}
const last = (w: Working): number => w.steps.at(-1)!.result.value;
const termOf = (w: Working, label: RegExp): number => {
  for (const s of w.steps) for (const t of [...s.terms, s.result]) if (label.test(t.label)) return t.value;
  throw new Error(`no term like ${String(label)} in ${w.title}`);
};

const modelOf = (doc: JobDoc): JobModel => {
  const { throttle } = doc.car.stock;
  const larger = aUnit(66, { throttle: { ...throttle, bore_m: throttle.bore_m * 1.1 }, controls: doc.car.controls.kind });
  return must(jobModel(doc, [{ unit: larger, opening: 'matched' }]));
};

describe.each([SIX, BLOWN, CENTRIFUGAL, TURBO, INDIVIDUAL])('%s', (preset) => {
  const doc = aJob(preset);
  const model = modelOf(doc);
  const bounds = jobBounds(doc, model);
  const index = peakIndex(model.reference.result.power_W);

  it('shows how every figure of Air comes about', () => {
    const ladder = must(sideLadder(model, model.stock, index));
    const flow = model.reference.result.massFlow_kgps[index]!;
    const all = [
      demandWorking(doc, model, index),
      passesWorking(doc, model, model.stock, index),
      givesOutWorking(doc, model, model.stock),
      plenumWorking(doc, model, model.stock, ladder, index),
      throttleLossWorking(doc, model.stock, ladder, flow, sideStart(model, model.stock, index)),
    ];
    for (const w of all) {
      expect(w.steps.length).toBeGreaterThan(0);
      sound(w);
    }
  });

  it('the working of a gain ends in the gain, and starts from the same two powers', () => {
    const side = model.candidates[0]!;
    const w = powerWorking(doc, model, side, index);
    sound(w);
    if (isFailure(side.solved)) throw new Error('not solved');
    expect(last(w)).toBeCloseTo(side.solved.power_W[index]! / model.reference.result.power_W[index]! - 1, 12);
    expect(w.steps.map((s) => s.formula)).toContain(preset === SIX || preset === INDIVIDUAL ? 'power' : 'boostedPower');
  });

  it('each school’s working ends in its bore', () => {
    for (const school of jobSchools(doc, model, bounds)) {
      if (school.bore_m === null) continue;
      const w = schoolWorking(doc, bounds, school);
      sound(w);
      expect(last(w)).toBe(school.bore_m);
    }
  });

  it('each bound’s working ends in the bound', () => {
    const keys: BoundKey[] = ['loss', 'gasSpeed', 'bench', 'power', 'idle', 'tipIn'];
    for (const key of keys) {
      const bore = bounds[`${key}_m`];
      if (bore === null) continue;
      const w = boundWorking(doc, bounds, key);
      sound(w);
      expect(last(w)).toBe(bore);
    }
    expect(boundWorking(doc, { ...bounds, fit_m: 0.07 }, 'fit').notes.join()).toMatch(/Entered with the limits/);
  });

  it('what is in the way shows what taking it away would bring', () => {
    for (const r of nextRestrictions(model, model.stock)) {
      const w = restrictionWorking(r, r.name);
      sound(w);
      expect(100 * last(w)).toBeCloseTo(r.gain_pct, 9);
      expect(termOf(w, /as it is/)).toBeCloseTo(peakOf(model.reference.result.power_W), 3);
    }
  });

  it('each link of the chain shows what its flow comes from', () => {
    for (const link of chainOf(model.stock.path.parts)) {
      const w = linkWorking(link);
      if (link.flow_m3ps === null) continue;
      sound(w);
      expect(last(w)).toBe(link.flow_m3ps);
    }
  });

  it('manners too', () => {
    const unit = aUnit(66, {
      controls: doc.car.controls.kind,
      throttle: { ...doc.car.stock.throttle, bore_m: doc.car.stock.throttle.bore_m * 1.1 },
    });
    sound(mannersWorking(doc, rankUnits(doc, model, [unit])[0]!));
  });
});

it('a limit of the job’s own is marked as entered, a usual one as usual', () => {
  const from = (own: number | null): string => {
    const base = aJob();
    const doc = { ...base, sizing: { ...base.sizing, tipIn: own, speed_mps: own === null ? null : 70 } };
    const bounds = jobBounds(doc, modelOf(doc));
    const terms = [...boundWorking(doc, bounds, 'tipIn').steps, ...boundWorking(doc, bounds, 'gasSpeed').steps].flatMap((s) => s.terms);
    return terms
      .filter((t) => /at most|speed limit/.test(t.label))
      .map((t) => t.from)
      .join();
  };
  expect(from(null)).toBe('default,default');
  expect(from(1.5)).toBe('entered,entered');
});

it('a chain’s reading and its shape are told apart', () => {
  const doc = aJob();
  const measured = must(jobModel(doc, [{ unit: aUnit(66, { bench: [aRecord(0.28, { depression_Pa: 5000 })] }), opening: 'matched' }]));
  const link = chainOf(measured.candidates[0]!.path.parts).find((l) => l.type === 'throttle')!;
  expect(linkWorking(link).steps.map((s) => s.formula)).toEqual(['moveDepression']);
  expect(last(linkWorking(link))).toBeGreaterThan(0.28);
  const filter = chainOf(measured.stock.path.parts).find((l) => l.type === 'filter')!;
  expect(linkWorking(filter).steps.map((s) => s.formula)).toEqual(['handRule']);
  expect(linkWorking({ ...link, basis: null }).notes).toEqual(['Nothing is known of it.']);
});

it('a bite out of the manifold shows its gain and its wall, where they are known', () => {
  const doc = aJob();
  const unit = aUnit(66);
  const gainAt = gainOfOpening(doc, modelOf(doc), unit.doc);
  const plan = must(boringPlan({ from_m: 0.058, to_m: 0.066, bite_m: 0.002, wall_m: 0.009, leastWall_m: 0.003, gainAt }));
  const w = biteWorking(plan.steps[0]!, plan.start, 0.058, 0.009);
  sound(w);
  expect(w.steps.map((s) => s.formula)).toEqual(['perMillimetre', 'wallLeft']);
  expect(last(w)).toBeCloseTo(0.008, 12);
  expect(100 * w.steps[0]!.result.value).toBeCloseTo(plan.steps[0]!.perMillimetre_pct!, 12);
  expect(biteWorking({ ...plan.steps[0]!, wall_m: null }, plan.start, 0.058, null).steps).toHaveLength(1);
});

it('a throttle’s shape shows its area, its equal bore and its leak', () => {
  const { throttle } = aUnit(66).doc;
  const single = shapeWorking('Unit 66', throttle);
  sound(single);
  const wide = must(throttleWideOpen(throttle));
  expect(termOf(single, /net area/)).toBe(wide.netArea_m2);
  const oval = shapeWorking('Oval', { ...throttle, shape: 'oval', width_m: 0.078, height_m: 0.054 });
  sound(oval);
  expect(oval.steps[0]!.formula).toBe('ovalArea');
  expect(termOf(shapeWorking('Twin', { ...throttle, shape: 'twin', count: 2, bore_m: 0.046 }), /one round bore/)).toBeCloseTo(
    0.046 * Math.SQRT2,
    9,
  );
  expect(shapeWorking('Impossible', { ...throttle, shaft_m: 0.07 }).steps).toEqual([]);
});

it('a gain between two peaks is their ratio less one', () => {
  const w = peakGainWorking('Gain', 100_000, 103_000, ['A note.']);
  expect(last(w)).toBeCloseTo(0.03, 12);
  expect(w.notes).toEqual(['A note.']);
});

it('a bench figure shows how it was moved and judged, and has no K where it cannot be', () => {
  const area = (Math.PI / 4) * 0.066 ** 2;
  const entry = {
    id: 'a',
    name: 'A',
    bench: 'ours',
    depression_Pa: 6974.49,
    entryK: 0.04,
    bore_m: 0.066,
    netArea_m2: 0.9 * area,
    grossArea_m2: area,
  };
  const ranked = (flow_m3ps: number) => rankBench([{ ...entry, flow_m3ps }], 5000)[0]!.entries[0]!;
  const w = benchWorking(ranked(0.3));
  sound(w);
  expect(termOf(w, /moved/)).toBe(ranked(0.3).moved_m3ps);
  expect(w.steps.map((s) => s.formula)).toEqual(['moveDepression', 'handRule', 'ceiling', 'benchK', 'trueBore']);
  sound(benchWorking({ ...ranked(0.3), K: null }));
});
