import type { ThrottleDoc } from '../documents/throttle';
import { referenceAt } from '../engine/at-speeds';
import { solveCandidate, type EngineReference } from '../engine/induction';
import { isFailure } from '../failure';
import { compilePath } from '../flow/compile';
import type { Path } from '../flow/path';
import { peakIndex, peakOf } from '../numbers/peak';
import { fallingRoot } from '../numbers/root';
import { bisectBore } from '../sizing/own-loss';
import { idealPath, POWER_SHARE } from '../sizing/power-left';
import type { JobModel } from './model';
import { grossBore, openingFor, type OpeningChoice } from '../documents/openings';
import { jobPath, stockFitted, type SizedJob } from './path';

/** The stock throttle's make in another size: `bore_m` is the round bore of equal area (of one bore, on individual ones). */
export function throttleAtBore(t: ThrottleDoc, bore_m: number): ThrottleDoc {
  if (t.shape === 'single' || t.shape === 'individual') return { ...t, bore_m };
  const by = bore_m / grossBore(t);
  return { ...t, bore_m: t.bore_m * by, ...(t.width_m && t.height_m && { width_m: t.width_m * by, height_m: t.height_m * by }) };
}

function pathAtBore(doc: SizedJob, bore_m: number, opening: OpeningChoice): Path {
  const { throttle, bench } = stockFitted(doc);
  const other = throttleAtBore(throttle, bore_m);
  // What it flowed goes with its area: the same make in another size keeps its coefficient.
  const scaled = bench && { ...bench, flow_m3ps: bench.flow_m3ps * (grossBore(other) / grossBore(throttle)) ** 2 };
  return jobPath(doc, { throttle: other, opening_m: openingFor(doc, bore_m, opening), bench: scaled });
}

/** Peak power, W, of this engine with the stock's make of throttle in another size; null where it chokes. */
export function peakAtBore(doc: SizedJob, model: JobModel, bore_m: number, opening: OpeningChoice): number | null {
  return peakOnPath(model, pathAtBore(doc, bore_m, opening));
}

/**
 * Peak power, W, that no throttle could better: none at all, in an opening as it is, or (bored to match) in one as wide
 * as the part ahead of it. Null where the path has nothing to compare with.
 */
export function idealPeakAt(
  doc: SizedJob,
  model: JobModel,
  opening: OpeningChoice,
  solve: (path: Path) => number | null = (path) => peakOnPath(model, path),
): number | null {
  const { parts } = model.stock.path;
  const at = parts.findIndex((p) => p.type === 'throttle');
  const before = parts.slice(0, Math.max(0, at)).findLast((p) => p.type !== 'restrictor');
  const ahead_m = !before ? null : 'outBore_m' in before ? before.outBore_m : 'bore_m' in before ? (before.bore_m ?? null) : null;
  if (opening === 'matched' && ahead_m === null) return null;
  const count = doc.car.stock.throttle.shape === 'individual' ? doc.car.stock.throttle.count : 1;
  const wide_m = openingFor(doc, Math.max(ahead_m ?? 0, grossBore(doc.car.stock.throttle)), opening);
  const widened = parts.map((p, i) =>
    i === at + 1 && p.type === 'section' ? { ...p, bore_m: undefined, area_m2: (count * Math.PI * wide_m ** 2) / 4 } : p,
  );
  const path = idealPath({ parts: widened });
  return isFailure(path) ? null : solve(path);
}

/** Where stock makes less than this share of its peak, no throttle that passes its air makes its own. */
const NEAR_PEAK = 0.9;

const peakReferences = new WeakMap<EngineReference, { readonly ref: EngineReference; readonly from: number; readonly to: number }>();

/** The reference at the engine speeds round its own peak: a bore moves the peak by little, and this runs a hundred times a picture. */
function roundPeak(reference: EngineReference): { readonly ref: EngineReference; readonly from: number; readonly to: number } {
  const known = peakReferences.get(reference);
  if (known) return known;
  const { rpm } = reference.input;
  const { power_W } = reference.result;
  const high = (w: number): boolean => w >= NEAR_PEAK * peakOf(power_W);
  const from = Math.max(0, power_W.findIndex(high) - 1);
  const to = Math.min(rpm.length - 1, power_W.findLastIndex(high) + 1);
  const ref = referenceAt(
    reference,
    Array.from({ length: to - from + 1 }, (_, i) => from + i),
  );
  const made = { ref, from, to };
  peakReferences.set(reference, made);
  return made;
}

function peakOnPath(model: JobModel, path: Path): number | null {
  const compiled = compilePath(path);
  if (isFailure(compiled)) return null;
  const { ref, from, to } = roundPeak(model.reference);
  const near = solveCandidate(ref, compiled);
  if (!isFailure(near)) {
    const at = from + peakIndex(near.power_W);
    const inside = (at > from || from === 0) && (at < to || to === model.rpm.length - 1);
    if (inside && near.chokedFrom_rpm == null) return peakOf(near.power_W);
  }
  const solved = solveCandidate(model.reference, compiled);
  return isFailure(solved) ? null : peakOf(solved.power_W);
}

/** Where the power bound is looked for, m: in steps from stock's size, then inside the step it lies in. */
const SEARCH_m = { from: 0.016, to: 0.2, step: 0.004, tolerance: 1e-5 } as const;

/**
 * Smallest bore, m, that leaves less than `share` of peak power on the table against an ideal throttle in the opening it
 * bolts to: the one that is there, or, bored to match, one of its own size. Null: none up to 200 mm. Airflow basis §9.4.
 */
export function powerBound(doc: SizedJob, model: JobModel, opening: OpeningChoice, share = POWER_SHARE): number | null {
  /** Power short of enough, W; falls with bore. NaN where the bore chokes: far short. */
  const short = (bore_m: number): number => {
    const path = pathAtBore(doc, bore_m, opening);
    const ideal = idealPath(path);
    const best = isFailure(ideal) ? null : peakOnPath(model, ideal);
    const own = peakOnPath(model, path);
    return best === null || own === null ? NaN : (1 - share) * best - own;
  };
  const enough = (bore_m: number): boolean => short(bore_m) <= 0;
  const { from, to, step, tolerance } = SEARCH_m;
  let low = Math.max(from, Math.min(to - step, grossBore(doc.car.stock.throttle)));
  let high = low;
  if (enough(low)) {
    do {
      high = low;
      low = Math.max(from, low - step);
      if (high === from) return from;
    } while (enough(low));
  } else {
    do {
      low = high;
      high += step;
      if (low > to) return null;
    } while (!enough(high));
  }
  if (Number.isNaN(short(low))) return bisectBore(enough, low, high, tolerance);
  const root = fallingRoot(short, low, high, tolerance).x;
  // The root may stand a hair on the short side.
  return enough(root) ? root : Math.min(high, root + 2 * tolerance * root);
}

export interface JobKnee {
  readonly bores_m: readonly number[];
  /** Peak power at each bore, W; null where it chokes. */
  readonly matched_W: readonly (number | null)[];
  readonly asItIs_W: readonly (number | null)[];
  /** First bore within the share of the matched curve's own top, m. */
  readonly knee_m: number | null;
}

/** Peak power against bore over a range, with the manifold bored to match and with it left. Airflow basis §9. */
export function jobKnee(doc: SizedJob, model: JobModel, bores_m: readonly number[], share = POWER_SHARE): JobKnee {
  const curve = (opening: OpeningChoice): (number | null)[] => bores_m.map((b) => peakAtBore(doc, model, b, opening));
  const matched_W = curve('matched');
  const top = peakOf(matched_W.map((w) => w ?? -Infinity));
  const at = matched_W.findIndex((p) => p !== null && p >= (1 - share) * top);
  return { bores_m, matched_W, asItIs_W: curve('as it is'), knee_m: at < 0 ? null : bores_m[at]! };
}

/** Bores worth drawing for a job, m: from two thirds of stock to half as much again, and as far as any unit on show. */
export function kneeBores(doc: SizedJob, others_m: readonly number[], points = 40): number[] {
  const stock = grossBore(doc.car.stock.throttle);
  const from = Math.min(stock * 0.72, ...others_m.map((b) => b * 0.97));
  const to = Math.max(stock * 1.5, ...others_m.map((b) => b * 1.04));
  return Array.from({ length: points }, (_, i) => from + ((to - from) * i) / (points - 1));
}

/** Share of peak power, %, that an opening as wide as the part ahead and no throttle in it would bring. */
export function leftOnTable(doc: SizedJob, model: JobModel): number | null {
  const ideal = idealPeakAt(doc, model, 'matched');
  return ideal === null ? null : 100 * (ideal / model.reference.result.power_W.reduce((a, b) => Math.max(a, b)) - 1);
}
