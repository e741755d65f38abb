import { isFailure } from '../failure';
import { leastSquares } from '../numbers/least-squares';
import { varianceOf } from '../numbers/moments';
import { answerFrom, moreRuns, type Answer } from './answer';
import { returnsToA } from './drift';
import { permutationTest, type Permutation, type SideMark } from './permutation';
import { welch } from './welch';

/** One run's figure: the side it was on, the day it belongs to, in the order they were run. */
export interface RunValue {
  readonly side: SideMark;
  readonly visit: string;
  readonly value: number;
}

/** What was fitted beside the side itself. */
export type EstimateMethod = 'means' | 'drift' | 'visits' | 'visits and drift';

export interface SideEstimate extends Answer {
  readonly method: EstimateMethod;
  /** Change from run to run inside a visit, in the values' unit; null where none was fitted. */
  readonly driftPerRun: number | null;
  readonly permutation: Permutation | null;
  /** Scatter of single runs about the fit. */
  readonly sd: number;
}

/** A model with terms beside the side keeps at least this many degrees of freedom, or gives terms up. */
const LEAST_DF = 2;

/**
 * The side's effect on a figure from whole runs, and which of the four answers it is: least squares with a term for each
 * visit where visits hold both sides and one for the run order where the old part was run again; without either, Welch.
 * Null where there are too few runs for an interval. Testing basis §4.
 */
export function sideEstimate(runs: readonly RunValue[], threshold: number, orderKnown = true): SideEstimate | null {
  const a = runs.filter((r) => r.side === 'A').map((r) => r.value);
  const b = runs.filter((r) => r.side === 'B').map((r) => r.value);
  if (a.length === 0 || b.length === 0) return null;
  const visits = [...new Set(runs.map((r) => r.visit))];
  const ofVisit = (v: string): readonly RunValue[] => runs.filter((r) => r.visit === v);
  const bothSides = (v: string): boolean => new Set(ofVisit(v).map((r) => r.side)).size === 2;
  const byVisit = visits.length > 1 && visits.some(bothSides);
  // No drift is read out of an order that is only a guess.
  const drifts = orderKnown && visits.some((v) => returnsToA(ofVisit(v).map((r) => r.side)));
  const plans: { visit: boolean; order: boolean }[] = [
    { visit: byVisit, order: drifts },
    { visit: byVisit, order: false },
    { visit: false, order: false },
  ];
  const permuted = permutationTest({
    values: runs.map((r) => r.value),
    side: runs.map((r) => r.side),
    ...(byVisit && { visit: runs.map((r) => r.visit) }),
  });
  const permutation = isFailure(permuted) ? null : permuted;
  for (const plan of plans) {
    const fitted = plan.visit || plan.order ? fit(runs, visits, plan) : means(a, b);
    if (!fitted) continue;
    const found = answerFrom(fitted.estimate, threshold);
    const more = found.answer === "can't tell yet" ? { moreRunsPerSide: moreRuns(threshold, fitted.sd, Math.min(a.length, b.length)) } : {};
    const method: EstimateMethod = plan.visit ? (plan.order ? 'visits and drift' : 'visits') : plan.order ? 'drift' : 'means';
    return { ...found, ...more, method, driftPerRun: fitted.driftPerRun, permutation, sd: fitted.sd };
  }
  return null;
}

interface Fitted {
  readonly estimate: { readonly difference: number; readonly standardError: number; readonly df: number };
  readonly driftPerRun: number | null;
  readonly sd: number;
}

function means(a: readonly number[], b: readonly number[]): Fitted | null {
  const w = welch(a, b);
  return isFailure(w) ? null : { estimate: w, driftPerRun: null, sd: Math.sqrt((varianceOf(a) + varianceOf(b)) / 2) };
}

function fit(runs: readonly RunValue[], visits: readonly string[], plan: { visit: boolean; order: boolean }): Fitted | null {
  const seen = new Map<string, number>();
  const order = runs.map((r) => {
    const at = seen.get(r.visit) ?? 0;
    seen.set(r.visit, at + 1);
    return at;
  });
  const columns = [
    runs.map(() => 1),
    runs.map((r) => (r.side === 'B' ? 1 : 0)),
    ...(plan.visit ? visits.slice(1).map((v) => runs.map((r) => (r.visit === v ? 1 : 0))) : []),
    ...(plan.order ? [order] : []),
  ];
  const found = leastSquares(
    columns,
    runs.map((r) => r.value),
  );
  if (!found || found.df < LEAST_DF || !(found.standardErrors[1]! > 0)) return null;
  return {
    estimate: { difference: found.coefficients[1]!, standardError: found.standardErrors[1]!, df: found.df },
    driftPerRun: plan.order ? found.coefficients.at(-1)! : null,
    sd: Math.sqrt(found.variance),
  };
}
