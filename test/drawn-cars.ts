/** Cars nobody would think of writing down, and what must hold for each of them. Shared by the tests and the long run. */
import fc from 'fast-check';
import type { InductionKind } from '@/core/documents/induction';
import type { JobDoc } from '@/core/documents/job';
import type { PartDoc } from '@/core/documents/part';
import { isFailure } from '@/core/failure';
import { withInduction } from '@/core/job/induction';
import { jobModel, type JobModel } from '@/core/job/model';
import { grossBore } from '@/core/documents/openings';
import { presetJob } from '@/core/job/presets';
import { rangeProblem } from '@/core/job/ranges';
import { peakGain } from '@/core/numbers/peak';
import { uncertaintyRun } from '@/core/sizing/uncertainty';
import { aUnit } from './units';

const KINDS: readonly InductionKind[] = ['na', 'individual', 'drawThrough', 'centrifugal', 'turbo'];
const PRESET = 'four, 2.0 L four-valve';

export interface DrawnCar {
  readonly doc: JobDoc;
  readonly unit_m: number;
}

const num = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true, noDefaultInfinity: true });

/** An engine with a throttle anywhere from far too small to far too large, any way of breathing, perhaps a restrictor. */
export const drawnCar: fc.Arbitrary<DrawnCar> = fc
  .record({
    kind: fc.constantFrom(...KINDS),
    cylinders: fc.integer({ min: 1, max: 12 }),
    perCylinder: num(1e-4, 8e-4),
    squareness: num(0.6, 1.4),
    redline: num(4500, 14_000),
    tightness: num(0.45, 1.5),
    unit: num(0.8, 1.6),
    ve: num(0.6, 1.15),
    pipe: num(0.8, 1.5),
    boost: num(0.1, 1.6),
    restrictor: fc.option(fc.record({ bore_m: num(0.02, 0.05), plate: fc.boolean() }), { nil: null }),
    weather: fc.record({ p_Pa: num(70_000, 105_000), T_K: num(260, 320), rh: num(0, 1) }),
    plenum: num(0.2, 2),
  })
  .map((d): DrawnCar => {
    const displacement_m3 = d.perCylinder * d.cylinders;
    const redline_rpm = Math.round(Math.min(d.redline, 20 / (2 * d.squareness * Math.cbrt(d.perCylinder)) / 1e-3));
    const base = presetJob('Drawn', PRESET);
    const bore_m = Math.min(0.2, Math.max(0.016, d.tightness * 0.062 * Math.sqrt((displacement_m3 * redline_rpm) / (0.002 * 7000))));
    const engine = {
      ...base.car.engine,
      displacement_m3,
      cylinders: d.cylinders,
      lowest_rpm: 1500,
      redline_rpm: Math.max(3000, redline_rpm),
      stroke_m: Math.min(0.29, Math.max(0.021, d.squareness * Math.cbrt((4 * d.perCylinder) / Math.PI))),
      plenum_m3: d.plenum * displacement_m3,
    };
    const shaft_m = bore_m * 0.12;
    const parts = base.air.parts.map((p): PartDoc => {
      const scaled = (x: number): number => Math.min(0.29, Math.max(0.016, (x * bore_m * d.pipe) / 0.058));
      if (p.type === 'taper') return { ...p, inBore_m: scaled(p.inBore_m), outBore_m: Math.max(scaled(p.outBore_m), bore_m) };
      if (p.type === 'filter') return { ...p, bore_m: scaled(p.bore_m), ratedFlow_m3ps: Math.min(5, 74.3 * bore_m ** 2) };
      return 'bore_m' in p ? { ...p, bore_m: scaled(p.bore_m) } : p;
    });
    const restrictor: PartDoc[] = d.restrictor
      ? [
          {
            id: 'restrictor',
            type: 'restrictor',
            name: 'restrictor',
            bore_m: d.restrictor.bore_m,
            kind: d.restrictor.plate ? 'plate' : 'venturi',
            count: 1,
            Cd: null,
            recovery: null,
          },
        ]
      : [];
    const plain: JobDoc = {
      ...base,
      car: {
        ...base.car,
        engine,
        ve: { rpm: [1500, engine.redline_rpm * 0.7, engine.redline_rpm], value: [0.9 * d.ve, d.ve, 0.85 * d.ve] },
        weather: d.weather,
        stock: {
          ...base.car.stock,
          throttle: { ...base.car.stock.throttle, bore_m, shaft_m },
          manifoldOpening_m: bore_m,
          gasketOpening_m: Math.min(0.3, bore_m + 0.002),
        },
      },
      air: { ...base.air, parts: [...parts.slice(0, 2), ...restrictor, ...parts.slice(2)] },
    };
    const doc = withInduction(plain, d.kind);
    const { induction } = doc.car;
    if (induction.kind === 'turbo')
      return {
        doc: {
          ...doc,
          car: {
            ...doc.car,
            induction: {
              ...induction,
              compressor: {
                ...induction.compressor,
                boost: { rpm: [1500, 3000, engine.redline_rpm], value: [0, d.boost * 1e5, d.boost * 0.9e5] },
              },
            },
          },
        },
        unit_m: d.unit,
      };
    return { doc, unit_m: d.unit };
  });

const unitFor = (doc: JobDoc, by: number): ReturnType<typeof aUnit> => {
  const { throttle } = doc.car.stock;
  const unit = aUnit(60);
  return { ...unit, doc: { ...unit.doc, throttle: { ...throttle, bore_m: Math.min(0.24, grossBore(throttle) * by) } } };
};

const solve = (doc: JobDoc, by: number, opening: 'matched' | 'as it is' = 'matched'): JobModel => {
  const model = jobModel(doc, [{ unit: unitFor(doc, by), opening }]);
  if (isFailure(model)) throw new Error(`not solved: ${JSON.stringify(model)}`);
  return model;
};

const gainOf = (model: JobModel): number => {
  const { solved } = model.candidates[0]!;
  if (isFailure(solved)) throw new Error(`candidate not solved: ${JSON.stringify(solved)}`);
  return peakGain(solved.power_W, model.reference.result.power_W);
};

/** Bore of the part right ahead of the throttle, m: beyond it a larger one is a step of its own. */
function boreAhead(model: JobModel): number {
  const { parts } = model.stock.path;
  const part = parts[parts.findIndex((p) => p.type === 'throttle') - 1];
  return part === undefined ? Infinity : 'outBore_m' in part ? part.outBore_m : 'bore_m' in part ? (part.bore_m ?? Infinity) : Infinity;
}

/** What must hold for every car; each throws with what is wrong. */
export const MUST_HOLD: Readonly<Record<string, (car: DrawnCar) => void>> = {
  'no failure where some speed can be solved': ({ doc, unit_m }) => {
    const model = solve(doc, unit_m);
    gainOf(model);
    for (const side of [model.stock, ...model.candidates]) {
      if (isFailure(side.solved)) throw new Error('a side is lost');
      for (const [key, values] of Object.entries(side.solved))
        if (Array.isArray(values) && values.some((v) => !Number.isFinite(v))) throw new Error(`${key} is no number`);
      // A target that the path ahead lets the engine reach takes no more than the losses ask for.
      if ('pressureRatio' in side.solved && doc.car.induction.kind === 'turbo') {
        const { plenum_Pa, pressureRatio, compressorOut_Pa, choked_rpm } = side.solved;
        pressureRatio.forEach((r, i) => {
          const held = (choked_rpm ?? []).includes(model.rpm[i]!);
          if (!held && compressorOut_Pa[i]! > 4 * plenum_Pa[i]!) throw new Error(`a ratio of ${r} for ${plenum_Pa[i]} Pa`);
        });
      }
    }
  },
  'a larger matched bore never loses power up to the part ahead': ({ doc }) => {
    const small = solve(doc, 1.05);
    const ahead = boreAhead(small);
    const stock = grossBore(doc.car.stock.throttle);
    for (const by of [1.12, 1.2]) {
      if (by * stock > ahead) return;
      const gain = gainOf(solve(doc, by));
      if (gain < gainOf(small) - 1e-6) throw new Error(`${by} of stock brings ${gain} %, 1.05 brings ${gainOf(small)} %`);
    }
  },
  'no jump when an input moves a hair': ({ doc, unit_m }) => {
    const hair = 1 + 1e-7;
    const { engine, weather, stock } = doc.car;
    const moved: JobDoc[] = [
      { ...doc, car: { ...doc.car, engine: { ...engine, displacement_m3: engine.displacement_m3 * hair } } },
      { ...doc, car: { ...doc.car, weather: { ...weather, p_Pa: weather.p_Pa * hair } } },
      { ...doc, car: { ...doc.car, stock: { ...stock, throttle: { ...stock.throttle, bore_m: stock.throttle.bore_m * hair } } } },
    ];
    const there = solve(doc, unit_m);
    const power = Math.max(...there.reference.result.power_W);
    for (const other of moved) {
      const here = solve(other, unit_m);
      const change = Math.abs(Math.max(...here.reference.result.power_W) / power - 1);
      const gained = Math.abs(gainOf(here) - gainOf(there));
      if (change > 1e-4 || gained > 1e-2) throw new Error(`a hair moves power by ${change}, the gain by ${gained} %`);
    }
  },
  'what has nothing to do with it changes nothing': ({ doc, unit_m }) => {
    const other: JobDoc = {
      ...doc,
      name: 'Another',
      car: {
        ...doc.car,
        goal: 'hill climb',
        engine: { ...doc.car.engine, idle_rpm: 1100 },
        controls: { kind: 'electronic-digital', closed_V: 0.6, full_V: 4.4 },
      },
    };
    if (gainOf(solve(other, unit_m)) !== gainOf(solve(doc, unit_m))) throw new Error('the gain moved');
  },
};

/** The range of a gain holds the gain itself. Slower than the rest, so tried on fewer cars. */
export function rangeHoldsItsCentre({ doc, unit_m }: DrawnCar, draws = 200): void {
  const model = solve(doc, unit_m);
  const run = uncertaintyRun({ ...rangeProblem(model, doc.car.engine.cylinders), seed: 11 });
  if (isFailure(run)) throw new Error('no range');
  run.draw(draws);
  const range = run.ranges()[0]!;
  if (range.solved !== draws) throw new Error(`${draws - range.solved} draws were dropped`);
  const { p10, p90 } = range.peak_pct;
  const gain = gainOf(model);
  if (gain < p10 - 0.02 || gain > p90 + 0.02) throw new Error(`the range ${p10} to ${p90} % leaves out ${gain} %`);
}
