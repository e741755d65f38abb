import type { InductionKind } from '../documents/induction';
import type { Learnt } from './findings';
import { NORMAL_975 } from '../numbers/normal';
import { studentQuantile } from '../numbers/student';

/** A finished job as others learn from it. */
export interface FinishedJob extends Learnt {
  readonly id: string;
  readonly name: string;
  readonly induction: InductionKind;
  readonly displacement_m3: number;
  /** What the model had said before its runs, over the stretch that decided; null: nobody wrote it down. */
  readonly predicted_pct: number | null;
}

export interface SimilarEngines {
  readonly jobs: readonly FinishedJob[];
  /** What such a change brings on such an engine, %, over the jobs with their own differences; null with too few of them. */
  readonly pooled: { readonly mean_pct: number; readonly low_pct: number; readonly high_pct: number; readonly between_pct: number } | null;
}

/** Engines whose displacement lies within this factor are alike; fewer finished jobs than this say nothing of a kind. */
const ALIKE = 1.35;
export const FEWEST_SIMILAR = 3;

/**
 * What units did on engines of one kind in this shop: the jobs themselves, and, with three or more, their mean with an
 * interval that counts both each job's own uncertainty and how much the jobs differ (DerSimonian and Laird's random
 * effects, interval by Student's t).
 */
export function similarEngines(
  finished: readonly FinishedJob[],
  me: { readonly id: string; readonly induction: InductionKind; readonly displacement_m3: number },
): SimilarEngines {
  const jobs = finished.filter((j) => {
    const ratio = j.displacement_m3 / me.displacement_m3;
    return j.id !== me.id && j.induction === me.induction && ratio < ALIKE && ratio > 1 / ALIKE && j.boreRatio > 1;
  });
  if (jobs.length < FEWEST_SIMILAR) return { jobs, pooled: null };
  const variance = jobs.map((j) => Math.max(1e-6, ((j.high_pct - j.low_pct) / 2 / NORMAL_975) ** 2));
  const sum = (f: (i: number) => number): number => jobs.reduce((s, _, i) => s + f(i), 0);
  const w = (i: number): number => 1 / variance[i]!;
  const fixed = sum((i) => w(i) * jobs[i]!.mean_pct) / sum(w);
  const q = sum((i) => w(i) * (jobs[i]!.mean_pct - fixed) ** 2);
  const c = sum(w) - sum((i) => w(i) ** 2) / sum(w);
  const between = Math.max(0, (q - (jobs.length - 1)) / c);
  const weight = (i: number): number => 1 / (variance[i]! + between);
  const mean_pct = sum((i) => weight(i) * jobs[i]!.mean_pct) / sum(weight);
  const half = studentQuantile(0.975, jobs.length - 1) / Math.sqrt(sum(weight));
  return { jobs, pooled: { mean_pct, low_pct: mean_pct - half, high_pct: mean_pct + half, between_pct: Math.sqrt(between) } };
}
