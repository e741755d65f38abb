import { failure, isFailure, type Failure } from '../failure';
import { medianOf } from '../numbers/moments';

/** Neighbours further apart than this many usual intervals: the channel was held, not measured. Testing basis §2. */
const STALE_INTERVALS = 2.5;

export interface ValueAt {
  readonly time_s: number;
  readonly value: number;
  readonly stale: boolean;
}

/** Gaps looked at for the usual interval: more of them say nothing new. */
const GAPS_LOOKED_AT = 20_000;

/** Usual interval of a channel's own samples, s. */
export function medianInterval(time_s: ArrayLike<number>): number {
  const gaps = Math.max(0, time_s.length - 1);
  const stride = Math.max(1, Math.ceil(gaps / GAPS_LOOKED_AT));
  return medianOf(Array.from({ length: Math.ceil(gaps / stride) }, (_, k) => time_s[k * stride + 1]! - time_s[k * stride]!));
}

/** Time at which engine speed first crosses `rpm`, linear between samples; `rpm_not_reached`. */
export function crossingTime(time_s: ArrayLike<number>, rpmValues: ArrayLike<number>, rpm: number): number | Failure {
  for (let i = 0; i < rpmValues.length; i += 1) {
    if (rpmValues[i] === rpm) return time_s[i]!;
    const next = rpmValues[i + 1];
    if (next !== undefined && rpmValues[i]! < rpm && next >= rpm)
      return time_s[i]! + ((rpm - rpmValues[i]!) / (next - rpmValues[i]!)) * (time_s[i + 1]! - time_s[i]!);
  }
  return failure('rpm_not_reached');
}

/**
 * A channel's value when the engine first passes `rpm`, between the channel's own neighbours; `stale` when they lie further
 * apart than the channel's usual interval allows. `rpm_not_reached`, `outside_channel`. Testing basis §2.
 */
export function valueAtRpm(input: {
  readonly rpmTime_s: ArrayLike<number>;
  readonly rpmValues: ArrayLike<number>;
  readonly time_s: ArrayLike<number>;
  readonly values: ArrayLike<number>;
  readonly rpm: number;
}): ValueAt | Failure {
  const at = crossingTime(input.rpmTime_s, input.rpmValues, input.rpm);
  if (isFailure(at)) return at;
  return valueAtTime(input.time_s, input.values, at);
}

/** A channel's value at a time, linear between its own neighbours, with the stale mark. `time_s` rises. */
export function valueAtTime(
  time_s: ArrayLike<number>,
  values: ArrayLike<number>,
  at_s: number,
  interval_s = medianInterval(time_s),
): ValueAt | Failure {
  const n = time_s.length;
  if (n === 0 || at_s < time_s[0]! || at_s > time_s[n - 1]!) return failure('outside_channel');
  let low = 0;
  let high = n - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (time_s[middle]! <= at_s) low = middle;
    else high = middle;
  }
  if (time_s[low] === at_s || n === 1) return { time_s: at_s, value: values[low]!, stale: false };
  if (time_s[high] === at_s) return { time_s: at_s, value: values[high]!, stale: false };
  const gap = time_s[high]! - time_s[low]!;
  const value = values[low]! + ((at_s - time_s[low]!) / gap) * (values[high]! - values[low]!);
  return { time_s: at_s, value, stale: gap > STALE_INTERVALS * interval_s };
}
