import type { JobDoc } from '../documents/job';
import { isFailure } from '../failure';
import { knotCurve, type Curve } from '../numbers/curve';
import type { JobModel } from './model';
import { predictedOver } from './predicted';

/** With so few cylinders on one throttle each one's gulp reaches it: even flow alone says too little. */
const FEW_CYLINDERS = 4;
/** A ratio told at fewer speeds than this is no curve over the engine's range. */
const FEWEST_SPEEDS = 6;

/** Whether what a throttle does is told with waves without being asked for: individual throttles, or few cylinders on one. */
export const wavesDecide = ({ induction, engine }: Pick<JobDoc['car'], 'induction' | 'engine'>): boolean =>
  induction.kind === 'individual' || (induction.kind === 'na' && engine.cylinders <= FEW_CYLINDERS);

/** Air taken in with one throttle over that with another, over engine speed. */
export interface WaveRatio {
  /** Rising. */
  readonly rpm: readonly number[];
  readonly ratio: readonly number[];
  /** Between those speeds, constant beyond them. */
  readonly at: Curve;
}

/**
 * Ratio of the air two throttles let in, from what each lets in at the same speeds (any unit; null: not settled, or lost).
 * Null where fewer than six speeds are known of both: a hole in the middle is bridged, a curve of a few points is none.
 */
export function waveRatio(rpm: readonly number[], stock: readonly (number | null)[], other: readonly (number | null)[]): WaveRatio | null {
  const there = rpm.flatMap((n, i) => {
    const [a, b] = [stock[i], other[i]];
    return a == null || b == null || !(a > 0) || !Number.isFinite(b) ? [] : [{ n, r: b / a }];
  });
  if (there.length < Math.min(FEWEST_SPEEDS, rpm.length)) return null;
  const [speeds, ratio] = [there.map((t) => t.n), there.map((t) => t.r)];
  const at = knotCurve({ rpm: speeds, value: ratio });
  return isFailure(at) ? null : { rpm: speeds, ratio, at };
}

/** What a throttle brings by the waves, on the car's own curve. */
export interface WaveGain {
  readonly rpm: readonly number[];
  readonly stock_W: readonly number[];
  /** The car's own power with the ratio on it: fuel follows air, so power does. */
  readonly other_W: readonly number[];
  readonly gain_pct: readonly number[];
  /** Mean gain over the range and by thirds of it, %. */
  readonly over: ReturnType<typeof predictedOver>;
}

/** Brings the ratio of a throttle's air onto the car's power, over `range` (all of it where none is told). Source: waves basis, head. */
export function waveGain(model: JobModel, { at }: WaveRatio, range?: readonly [number, number]): WaveGain {
  const { rpm } = model;
  const stock_W = model.reference.result.power_W;
  const other_W = stock_W.map((p, i) => p * at(rpm[i]!));
  return { rpm, stock_W, other_W, gain_pct: rpm.map((n) => 100 * (at(n) - 1)), over: predictedOver(rpm, stock_W, other_W, range) };
}
