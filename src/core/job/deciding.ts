import type { JobDoc } from '../documents/job';
import type { StoredUnit } from '../documents/unit';
import { isFailure } from '../failure';
import type { MeasureName } from '../units/measures';
import { jobBounds } from './bounds';
import { partMark } from './follow';
import { jobModel } from './model';
import { effectiveOpening, type OpeningChoice } from '../documents/openings';
import { leaderOf, rankUnits, type RankedUnit } from './ranking';

/** A figure that nobody has measured or entered, with how far it usually lies off. */
interface Assumption {
  readonly what: string;
  readonly measure: MeasureName;
  readonly now: number;
  /** The other values it may well have. */
  readonly others: readonly number[];
  readonly at: (doc: JobDoc, value: number) => JobDoc;
}

/** An assumption on which the answer hangs: what it is taken as, another value it may well have, and what the answer would be. */
export interface Deciding {
  readonly what: string;
  readonly measure: MeasureName;
  readonly now: number;
  readonly then: number;
  /** Who would lead then, with what word and what gain at peak, %. */
  readonly leader: string | null;
  readonly verdict: RankedUnit['verdict'] | null;
  readonly gain_pct: number | null;
}

/** Usual range of an assumed bore and of an assumed table of efficiency, as shares. */
const BORE_SHARE = 0.03;
const VE_SHARE = 0.04;

const isAssumed = (doc: JobDoc, key: string): boolean => (doc.marks[key] ?? 'assumed') === 'assumed';
const either = (now: number, share: number): number[] => [now * (1 - share), now * (1 + share)];

/** The assumptions worth trying in a job, the likeliest to matter first. */
export function assumptionsOf(doc: JobDoc): Assumption[] {
  const out: Assumption[] = [];
  const { stock, from } = doc.car;
  const opening = (what: string, key: 'manifoldOpening_m' | 'gasketOpening_m'): void => {
    if (!isAssumed(doc, `stock.${key}`) || stock[key] > effectiveOpening(doc) * (1 + BORE_SHARE)) return;
    out.push({
      what,
      measure: 'bore',
      now: stock[key],
      others: either(stock[key], BORE_SHARE),
      at: (d, value) => ({ ...d, car: { ...d.car, stock: { ...d.car.stock, [key]: value } } }),
    });
  };
  opening('manifold bore', 'manifoldOpening_m');
  opening('gasket bore', 'gasketOpening_m');
  if (stock.throttle.shape !== 'oval' && isAssumed(doc, 'stock.throttle.bore_m'))
    out.push({
      what: 'stock bore',
      measure: 'bore',
      now: stock.throttle.bore_m,
      others: either(stock.throttle.bore_m, BORE_SHARE),
      at: (d, bore_m) => ({
        ...d,
        car: { ...d.car, stock: { ...d.car.stock, throttle: { ...d.car.stock.throttle, bore_m } } },
      }),
    });
  const blown = 'cooler' in doc.car.induction;
  const table = blown ? 'manifoldVe' : 've';
  if (from.efficiency === 'table' && from.power !== 'measured' && isAssumed(doc, table)) {
    const now = Math.max(...doc.car[table].value);
    out.push({
      what: 'volumetric efficiency',
      measure: 'share',
      now,
      others: either(now, VE_SHARE),
      at: (d, value) => ({
        ...d,
        car: { ...d.car, [table]: { ...d.car[table], value: d.car[table].value.map((v) => (v * value) / now) } },
      }),
    });
  }
  for (const part of doc.air.parts) {
    if ((part.type !== 'meter' && part.type !== 'pipe') || !isAssumed(doc, partMark(part.id, 'bore_m'))) continue;
    out.push({
      what: `bore of the ${part.name ?? part.id}`,
      measure: 'bore',
      now: part.bore_m,
      others: either(part.bore_m, BORE_SHARE),
      at: (d, bore_m) => ({
        ...d,
        air: { ...d.air, parts: d.air.parts.map((p) => (p.id === part.id && 'bore_m' in p ? { ...p, bore_m } : p)) },
      }),
    });
  }
  return out;
}

function leadWith(doc: JobDoc, units: readonly StoredUnit[], opening: OpeningChoice): RankedUnit | undefined | null {
  const model = jobModel(
    doc,
    units.map((unit) => ({ unit, opening })),
  );
  return isFailure(model) ? null : leaderOf(rankUnits(doc, model, units, jobBounds(doc, model, opening)));
}

/** Words that ask for money or a measurement: which of them it is, and for which unit, matters. Of the others the word alone does. */
const CALLS: ReadonlySet<RankedUnit['verdict']> = new Set(['worth buying', 'worth testing', 'measure the gap']);

/**
 * Tries one assumption at the ends of its usual range; the first at which another throttle would lead, or the same one with another
 * word; null where the answer stands.
 */
export function decides(
  doc: JobDoc,
  units: readonly StoredUnit[],
  assumption: Assumption,
  now: Pick<RankedUnit, 'verdict'> & { readonly unit: Pick<StoredUnit, 'id'> },
): Deciding | null {
  for (const value of assumption.others) {
    const there = leadWith(assumption.at(doc, value), units, doc.pick.opening);
    if (there === null) continue;
    if (there && there.verdict === now.verdict && (there.unit.id === now.unit.id || !CALLS.has(now.verdict))) continue;
    return {
      what: assumption.what,
      measure: assumption.measure,
      now: assumption.now,
      then: value,
      leader: there?.unit.doc.name ?? null,
      verdict: there?.verdict ?? null,
      gain_pct: there?.peakGain_pct ?? null,
    };
  }
  return null;
}
