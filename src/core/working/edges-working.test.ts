import { aJob, aUnit, BLOWN, CENTRIFUGAL, INDIVIDUAL, SIX, TURBO } from '../../../test/units';
import type { JobDoc } from '../documents/job';
import { frictionPower } from '../engine/power';
import { must } from '../failure';
import { idleEngine, jobBounds } from '../job/bounds';
import { chokesAt, jobModel, sideFlow, sideLadder, sideStart, throttleLoss, type JobModel } from '../job/model';
import { strokeOf } from '../job/path';
import { rankUnits } from '../job/ranking';
import { idleAir } from '../sizing/manners';
import { boundWorking } from './bore-working';
import { demandWorking, mannersWorking, passesWorking, plenumWorking, powerWorking, throttleLossWorking } from './sizing-working';
import type { Working } from './working';

/** A long stroke at high speed, two cylinders: figures at which the simple formulas would give others. */
const odd = (preset: string): JobDoc => {
  const doc = aJob(preset);
  return { ...doc, car: { ...doc.car, engine: { ...doc.car.engine, stroke_m: 0.11 } } };
};
const modelOf = (doc: JobDoc): JobModel => {
  const { throttle } = doc.car.stock;
  const unit = aUnit(66, { throttle: { ...throttle, bore_m: throttle.bore_m * 1.1 }, controls: doc.car.controls.kind });
  return must(jobModel(doc, [{ unit, opening: 'matched' }]));
};
const valueOf = (w: Working, label: RegExp): number => {
  for (const s of w.steps) for (const t of [...s.terms, s.result]) if (label.test(t.label)) return t.value;
  throw new Error(`no ${String(label)} in ${w.title}`);
};
const results = (w: Working, formula: string) => w.steps.filter((s) => s.formula === formula);
const lossOf = (doc: JobDoc, model: JobModel, i: number): Working =>
  throttleLossWorking(
    doc,
    model.stock,
    must(sideLadder(model, model.stock, i)),
    sideFlow(model, model.stock, i),
    sideStart(model, model.stock, i),
  );

describe.each([SIX, BLOWN, CENTRIFUGAL, TURBO, INDIVIDUAL])('the working of %s', (preset) => {
  const doc = odd(preset);
  const model = modelOf(doc);
  const top = model.rpm.length - 1;

  it('comes to what it says: every loss is its coefficient times its head times its pulse', () => {
    for (const s of results(lossOf(doc, model, top), 'loss')) {
      const product = s.terms.reduce((p, t) => p * t.value, 1);
      expect(product / s.result.value).toBeCloseTo(1, 9);
    }
  });

  it('where stock’s bore came from is said of stock alone', () => {
    const marked = { ...doc, marks: { ...doc.marks, 'stock.throttle.bore_m': 'measured' as const } };
    const bore = (w: Working) => w.steps.find((s) => s.formula === 'gross')!.terms[0]!;
    expect(bore(lossOf(marked, model, top)).from).toBe('measured');
    expect(bore(passesWorking(marked, model, model.stock)).from).toBe('measured');
    expect(bore(passesWorking(marked, model, model.candidates[0]!)).from).toBe('entered');
  });

  it('adds up to the throttle’s loss', () => {
    const w = lossOf(doc, model, top);
    const sum = [...results(w, 'loss'), ...results(w, 'exit')].reduce((a, s) => a + s.result.value, 0);
    expect(sum / throttleLoss(model.stock.compiled, must(sideLadder(model, model.stock, top)))).toBeCloseTo(1, 9);
  });

  it('has the friction and the idle that the sums have', () => {
    const power = powerWorking(doc, model, model.candidates[0]!, top);
    const { displacement_m3, idle_rpm } = doc.car.engine;
    expect(valueOf(power, /^friction$/)).toBe(frictionPower(displacement_m3, model.rpm[top]!, strokeOf(doc.car.engine)));
    const idle = idleAir(idleEngine(doc.car), idle_rpm);
    const bounds = jobBounds(doc, model);
    expect(valueOf(boundWorking(doc, bounds, 'idle'), /air the idle needs/)).toBe(idle);
    const { throttle } = doc.car.stock;
    const unit = aUnit(66, { throttle: { ...throttle, bore_m: throttle.bore_m * 1.1 }, controls: doc.car.controls.kind });
    expect(valueOf(mannersWorking(doc, rankUnits(doc, model, [unit])[0]!), /air the idle needs/)).toBe(idle);
  });
});

describe('the working of an intake that chokes', () => {
  const base = aJob(SIX);
  const parts = base.air.parts.map((p) => (p.type === 'meter' ? { ...p, bore_m: 0.03 } : p));
  const doc: JobDoc = { ...base, air: { ...base.air, parts } };
  const model = modelOf(doc);
  const top = model.rpm.length - 1;

  it('says that the path passes no more, beside what the efficiency asks for', () => {
    const w = demandWorking(doc, model, top);
    expect(valueOf(w, /volumetric efficiency/)).toBeCloseTo(doc.car.ve.value.at(-1)!, 9);
    expect(valueOf(w, /^needs$/)).toBeGreaterThan(model.demand_kgps[top]!);
    expect(w.steps.at(-1)!.result.value).toBe(model.demand_kgps[top]!);
    expect(w.notes.join(' ')).toMatch(/MAF/);
    // From the first speed at which the engine no longer takes what its table asks for.
    const first = model.rpm.find((_, i) => chokesAt(model, model.stock, i))!;
    expect(first).toBeGreaterThan(model.rpm[0]!);
    expect(w.notes.join(' ')).toContain(`From ${Math.round(first)} rpm`);
    expect(demandWorking(doc, model, 0).notes.join(' ')).not.toMatch(/chokes/);
  });

  it('the plenum is where the engine draws it down to', () => {
    const ladder = must(sideLadder(model, model.stock, top));
    const w = plenumWorking(doc, model, model.stock, ladder, top);
    const { terms, result } = w.steps[0]!;
    expect(terms.slice(1).reduce((p, t) => p - t.value, terms[0]!.value)).toBeCloseTo(result.value, 6);
  });
});
