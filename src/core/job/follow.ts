import type { JobDoc } from '../documents/job';
import type { PartDoc } from '../documents/part';
import { driveRatio } from '../engine/pulley';
import { grossBore } from '../documents/openings';

/** Gaskets are cut this much wider than the bore they seal, m: on a shared manifold, and on individual throttles. */
const GASKET_WIDER_m = { shared: 0.002, individual: 0.001 } as const;
/** An air meter's bore against the pipe it stands in, as usual intakes have it. */
const METER_OF_PIPE = 1.3 / 1.35;
/** A figure that stands this close to what its source gives still follows it, m. */
const SAME_m = 1.1e-3;

const rounded = (x_m: number): number => Math.round(x_m * 1e4) / 1e4;
const assumed = (doc: JobDoc, key: string): boolean => (doc.marks[key] ?? 'assumed') === 'assumed';

/** Key of an intake part's figure among the marks. */
export const partMark = (id: string, field: string): string => `air.${id}.${field}`;

/** Manifold and gasket bores follow the throttle's until somebody has entered them. */
function openings(before: JobDoc, doc: JobDoc): JobDoc {
  const was = grossBore(before.car.stock.throttle);
  const is = grossBore(doc.car.stock.throttle);
  if (was === is) return doc;
  const { stock } = doc.car;
  const wider = GASKET_WIDER_m[stock.throttle.shape === 'individual' ? 'individual' : 'shared'];
  const follows = (key: string, value_m: number, expected_m: number): boolean =>
    assumed(doc, key) && Math.abs(value_m - expected_m) <= SAME_m;
  const manifold = follows('stock.manifoldOpening_m', stock.manifoldOpening_m, was);
  const gasket = follows('stock.gasketOpening_m', stock.gasketOpening_m, was + wider);
  return {
    ...doc,
    car: {
      ...doc.car,
      stock: {
        ...stock,
        ...(manifold && { manifoldOpening_m: rounded(is) }),
        ...(gasket && { gasketOpening_m: rounded(is + wider) }),
      },
    },
  };
}

const outBore = (p: PartDoc): number | null => (p.type === 'taper' ? p.outBore_m : 'bore_m' in p ? p.bore_m : null);

/** An air meter follows the pipe ahead of it, and a coupler the part it is pushed onto, until somebody has entered them. */
function parts(before: JobDoc, doc: JobDoc): JobDoc {
  const old = new Map(before.air.parts.map((p) => [p.id, p]));
  const list: PartDoc[] = [];
  let changed = false;
  for (const part of doc.air.parts) {
    const ahead = list.at(-1);
    const was = ahead && old.get(ahead.id);
    const from = was ? outBore(was) : null;
    const to = ahead ? outBore(ahead) : null;
    let next = part;
    if (ahead && from !== null && to !== null && from !== to) {
      if (part.type === 'meter' && ahead.type === 'pipe' && assumed(doc, partMark(part.id, 'bore_m'))) {
        if (Math.abs(part.bore_m - from * METER_OF_PIPE) <= SAME_m) next = { ...part, bore_m: rounded(to * METER_OF_PIPE) };
      } else if (part.type === 'taper' && assumed(doc, partMark(part.id, 'inBore_m')) && Math.abs(part.inBore_m - from) <= SAME_m) {
        next = { ...part, inBore_m: to };
      }
    }
    changed ||= next !== part;
    list.push(next);
  }
  return changed ? { ...doc, air: { ...doc.air, parts: list } } : doc;
}

/** A boost that was measured belongs to the pulleys it was measured with: when those change it is told which they were. */
function measuredBoost(before: JobDoc, doc: JobDoc): JobDoc {
  const { boost } = doc.car.measured;
  const then = before.car.induction;
  const now = doc.car.induction;
  if (!boost || boost !== before.car.measured.boost || then.kind !== 'drawThrough' || now.kind !== 'drawThrough') return doc;
  const was = driveRatio(then.blower);
  if (boost.driveRatio !== null || was === driveRatio(now.blower)) return doc;
  return { ...doc, car: { ...doc.car, measured: { ...doc.car.measured, boost: { ...boost, driveRatio: was } } } };
}

/** The document after an edit, with what is only assumed carried along with what it is assumed from. */
export const followed = (before: JobDoc, after: JobDoc): JobDoc => measuredBoost(before, parts(before, openings(before, after)));
