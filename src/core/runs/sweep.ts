import { failure, type Failure } from '../failure';

/** Engine speed may fall back this far inside a sweep, rpm. */
export const SWEEP_FALLBACK_rpm = 30;
/** Throttle, %, from which a sweep counts as wide open. */
const SWEEP_THROTTLE_pct = 95;

/**
 * The stretch of samples in which engine speed rises furthest (first and last index, both included), without the samples
 * before the throttle is open. `no_sweep` where nothing rises or the throttle never opens. Testing basis §1.
 */
export function runSweep(rpm: ArrayLike<number>, throttle_pct?: ArrayLike<number>): { first: number; last: number } | Failure {
  let best: { first: number; last: number } | null = null;
  let bestSpan = 0;
  let start = 0;
  let highest = -Infinity;
  const close = (end: number): void => {
    let low = start;
    let high = start;
    for (let i = start; i < end; i += 1) {
      if (rpm[i]! <= rpm[low]!) low = i;
      if (rpm[i]! > rpm[high]!) high = i;
    }
    const span = rpm[high]! - rpm[low]!;
    if (high > low && span > bestSpan) {
      best = { first: low, last: high };
      bestSpan = span;
    }
  };
  for (let i = 0; i < rpm.length; i += 1) {
    if (rpm[i]! < highest - SWEEP_FALLBACK_rpm) {
      close(i);
      start = i;
      highest = -Infinity;
    }
    highest = Math.max(highest, rpm[i]!);
  }
  if (rpm.length > 0) close(rpm.length);
  if (best === null) return failure('no_sweep');
  let { first } = best as { first: number; last: number };
  const { last } = best as { first: number; last: number };
  if (throttle_pct) {
    while (first <= last && !(throttle_pct[first]! >= SWEEP_THROTTLE_pct)) first += 1;
    if (first > last) return failure('no_sweep', { reason: 'throttle_never_open' });
  }
  return { first, last };
}
