import type { GuidedFacts } from '../documents/guided';
import type { JobDoc, ShopDefaults } from '../documents/job';
import type { UnitDoc } from '../documents/unit';
import { blankUnit, NO_DEFAULTS } from '../documents/blank';
import { partMark } from './follow';
import { withInduction } from './induction';
import { CHAIN_DEPRESSION_Pa } from './restriction';
import { nearestPreset, presetJob, veOfShape } from './presets';

/** A start that is an ordinary four-cylinder: every field of it is there to be typed over. */
export const USUAL_FACTS: GuidedFacts = {
  displacement_m3: 0.002,
  redline_rpm: 7000,
  cylinders: 4,
  kind: 'na',
  bore_m: 0.058,
  shaft_m: 0.008,
  pipe_m: 0.076,
  flow_m3ps: null,
  flowIs: 'claim',
  candidate_m: 0.064,
};

/** Idle is left to the usual figure; nothing is solved below a fifth of the redline, nor below this. */
const LOWEST_rpm = 1500;

/** A job out of the few facts: what was typed is marked entered, all the rest is the usual figure of its kind and stays assumed. */
export function guidedJob(name: string, facts: GuidedFacts, defaults: ShopDefaults = NO_DEFAULTS): JobDoc {
  const base = presetJob(name, nearestPreset(facts), defaults);
  const lowest_rpm = Math.min(LOWEST_rpm, Math.round(facts.redline_rpm / 4));
  const engine = {
    ...base.car.engine,
    displacement_m3: facts.displacement_m3,
    cylinders: facts.cylinders,
    redline_rpm: facts.redline_rpm,
    lowest_rpm,
  };
  const throttle = { ...base.car.stock.throttle, shape: 'single' as const, count: 1, bore_m: facts.bore_m, shaft_m: facts.shaft_m };
  const made: JobDoc = {
    ...base,
    car: {
      ...base.car,
      engine,
      ve: veOfShape(facts.kind === 'individual' ? 'sharp cam' : 'mild street cam', facts.redline_rpm),
      manifoldVe: { rpm: [lowest_rpm, facts.redline_rpm], value: [...base.car.manifoldVe.value.slice(0, 2)] },
      stock: {
        ...base.car.stock,
        throttle,
        manifoldOpening_m: facts.bore_m,
        gasketOpening_m: facts.bore_m + 0.002,
        bench:
          facts.flow_m3ps === null
            ? null
            : {
                flow_m3ps: facts.flow_m3ps,
                depression_Pa: CHAIN_DEPRESSION_Pa,
                entryK: 0.04,
                bench: facts.flowIs === 'reading' ? 'a bench' : 'a claim',
                kind: facts.flowIs,
                bores: null,
                takenOn: null,
                note: '',
              },
      },
    },
  };
  const turned = facts.kind === 'na' ? made : withInduction(made, facts.kind);
  // Where each cylinder gets a throttle of its own, the bore that was typed is that of one of them.
  const { stock } = turned.car;
  const breathing: JobDoc = {
    ...turned,
    car: {
      ...turned.car,
      stock: {
        ...stock,
        throttle: { ...stock.throttle, bore_m: facts.bore_m, shaft_m: facts.shaft_m },
        manifoldOpening_m: facts.bore_m,
        gasketOpening_m: facts.bore_m + 0.002,
      },
    },
  };
  const entered = ['engine.displacement_m3', 'engine.redline_rpm', 'engine.cylinders', 'stock.throttle.bore_m', 'stock.throttle.shaft_m'];
  const pipe = breathing.air.parts.findIndex((p) => p.type === 'pipe');
  const parts = breathing.air.parts.map((p, i) => (i === pipe && p.type === 'pipe' ? { ...p, bore_m: facts.pipe_m } : p));
  const marks = Object.fromEntries(
    [...entered, ...(pipe < 0 ? [] : [partMark(breathing.air.parts[pipe]!.id, 'bore_m')])].map((key) => [key, 'entered' as const]),
  );
  const bench = facts.flow_m3ps !== null && facts.flowIs === 'reading' ? { 'stock.bench': 'measured' as const } : {};
  return { ...breathing, marks: { ...breathing.marks, ...marks, ...bench }, air: { ...breathing.air, parts } };
}

/** The throttle one thinks of, as one for the shelf: a round bore with the stock one's shaft, nothing measured. */
export function guidedUnit(doc: JobDoc, candidate_m: number): UnitDoc {
  const { throttle } = doc.car.stock;
  const unit = blankUnit({
    name: `${throttle.count > 1 ? `${throttle.count} × ` : ''}${Number((1000 * candidate_m).toFixed(1))} mm, to be chosen`,
    throttle: { ...throttle, bore_m: candidate_m, leak: 'production' },
    controls: doc.car.controls.kind,
  });
  return { ...unit, note: 'Typed as a bore only, to see what it would bring. Put the real part’s figures here.' };
}
