import fc from 'fast-check';
import { jobDoc } from '../documents/job';
import { INDUCTION_KINDS } from '../documents/kinds';
import { isFailure } from '../failure';
import { partMark } from './follow';
import type { GuidedFacts } from '../documents/guided';
import { guidedJob, guidedUnit, USUAL_FACTS } from './guided';
import { jobModel } from './model';
import { rankUnits } from './ranking';
import { STARTER_NOTE, STARTER_SHELF } from './starter';

const facts = fc.record({
  displacement_m3: fc.double({ min: 0.0004, max: 0.007, noNaN: true }),
  redline_rpm: fc.integer({ min: 4000, max: 11_000 }),
  cylinders: fc.integer({ min: 1, max: 12 }),
  kind: fc.constantFrom(...INDUCTION_KINDS),
  bore_m: fc.double({ min: 0.03, max: 0.1, noNaN: true }),
  shaft_m: fc.double({ min: 0.004, max: 0.012, noNaN: true }),
  pipe_m: fc.double({ min: 0.04, max: 0.13, noNaN: true }),
  flow_m3ps: fc.constant(null),
  flowIs: fc.constantFrom('claim' as const, 'reading' as const),
  candidate_m: fc.double({ min: 0.03, max: 0.11, noNaN: true }),
});

it('makes a sound job of any few facts, and a throttle for the shelf', () => {
  fc.assert(
    fc.property(facts, (f) => {
      const doc = jobDoc.parse(guidedJob('A car', f));
      expect(doc.car.engine).toMatchObject({ displacement_m3: f.displacement_m3, cylinders: f.cylinders, redline_rpm: f.redline_rpm });
      expect(doc.car.induction.kind).toBe(f.kind);
      expect(doc.car.stock.throttle.bore_m).toBe(f.bore_m);
      expect(guidedUnit(doc, f.candidate_m).throttle.bore_m).toBe(f.candidate_m);
    }),
    { numRuns: 60, seed: 17 },
  );
});

it('only what was typed is marked entered', () => {
  const { marks, air } = guidedJob('A car', USUAL_FACTS);
  const pipe = air.parts.findIndex((p) => p.type === 'pipe');
  expect(Object.keys(marks).toSorted()).toEqual(
    [
      partMark(air.parts[pipe]!.id, 'bore_m'),
      'engine.cylinders',
      'engine.displacement_m3',
      'engine.redline_rpm',
      'stock.throttle.bore_m',
      'stock.throttle.shaft_m',
    ].toSorted(),
  );
  expect(new Set(Object.values(marks))).toEqual(new Set(['entered']));
  expect(air.parts[pipe]).toMatchObject({ bore_m: USUAL_FACTS.pipe_m });
});

it('a claimed flow is taken as one, a read one as read', () => {
  const with_ = (more: Partial<GuidedFacts>) => guidedJob('A car', { ...USUAL_FACTS, flow_m3ps: 0.22, ...more }).car.stock.bench;
  expect(with_({ flowIs: 'claim' })).toMatchObject({ kind: 'claim', flow_m3ps: 0.22 });
  expect(with_({ flowIs: 'reading' })).toMatchObject({ kind: 'reading' });
  expect(guidedJob('A car', USUAL_FACTS).car.stock.bench).toBeNull();
});

it('gives an answer: the throttle one thinks of is solved and ranked', () => {
  const doc = guidedJob('A car', { ...USUAL_FACTS, bore_m: 0.05 });
  const unit = { id: 'x', version: 1, savedBy: '', savedAt: '', retired: false, doc: guidedUnit(doc, 0.064) };
  const model = jobModel(doc, [{ unit, opening: 'matched' }]);
  if (isFailure(model)) throw new Error(model.error);
  const [ranked] = rankUnits(doc, model, [unit]);
  expect(ranked!.peakGain_pct).toBeGreaterThan(1);
});

it('the starter shelf says of every part that it is made up, and claims no figure', () => {
  expect(STARTER_SHELF.length).toBeGreaterThan(8);
  for (const u of STARTER_SHELF) expect(u).toMatchObject({ note: STARTER_NOTE, bench: [], price: null });
  expect(new Set(STARTER_SHELF.map((u) => u.name)).size).toBe(STARTER_SHELF.length);
});
