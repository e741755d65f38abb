import { NORMAL_975 } from '../numbers/normal';
import type { InductionKind } from '../documents/induction';
import type { FinishedJob } from './similar';

/** How the model's predictions have gone in a shop, on one kind of engine: predicted less measured, %. */
export interface ModelRecord {
  readonly jobs: number;
  readonly bias_pct: number;
  /** How well the bias is known, and how far single jobs lie about it. */
  readonly biasSd_pct: number;
  readonly spread_pct: number;
}

/** A model nobody has measured against is taken for this much off, either way, and single jobs for as much about that, %. */
const USUAL_BIAS_pct = 0.5;
const USUAL_SPREAD_pct = 0.5;
/** Jobs before their own spread is believed instead. */
const SPREAD_FROM = 4;

/**
 * What the shop's settled comparisons say of the model on engines of one kind: its bias, pulled to none while jobs are few, and
 * its spread. Null where no job of the kind has a prediction that was written down before its runs.
 */
export function modelRecord(
  finished: readonly FinishedJob[],
  me: { readonly id: string; readonly induction: InductionKind },
): ModelRecord | null {
  const own = finished.flatMap((j) =>
    j.id === me.id || j.induction !== me.induction || j.predicted_pct === null || j.word === "can't tell yet"
      ? []
      : [{ error: j.predicted_pct - j.mean_pct, variance: ((j.high_pct - j.low_pct) / 2 / NORMAL_975) ** 2 }],
  );
  if (own.length === 0) return null;
  const mean = own.reduce((s, o) => s + o.error, 0) / own.length;
  const between = own.reduce((s, o) => s + (o.error - mean) ** 2 - o.variance, 0) / Math.max(1, own.length - 1);
  const spread = own.length < SPREAD_FROM ? USUAL_SPREAD_pct : Math.sqrt(Math.max(0.1 ** 2, between));
  let [precision, sum] = [1 / USUAL_BIAS_pct ** 2, 0];
  for (const { error, variance } of own) {
    const w = 1 / (variance + spread ** 2);
    precision += w;
    sum += w * error;
  }
  return { jobs: own.length, bias_pct: sum / precision, biasSd_pct: Math.sqrt(1 / precision), spread_pct: spread };
}

/** Standard normal 90 % point: a range leaves out a tenth on either side. */
const NORMAL_90 = 1.2815515655446004;

/** A prediction and its range as the shop's record shifts and widens them. */
export function learntPrediction(
  said: { readonly predicted: number; readonly low: number; readonly high: number },
  record: ModelRecord,
): { readonly predicted: number; readonly low: number; readonly high: number } {
  const own = (said.high - said.low) / 2 / NORMAL_90;
  const half = NORMAL_90 * Math.hypot(own, record.biasSd_pct, record.spread_pct);
  const predicted = said.predicted - record.bias_pct;
  return { predicted, low: predicted - half, high: predicted + half };
}
