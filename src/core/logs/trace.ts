/** A channel at its own samples: times rise, every value is a figure. SI; throttle and pedal in percent. */
export interface Trace {
  readonly time_s: Float64Array;
  readonly value: Float64Array;
}

/** A channel's own samples out of a log's rows: rows without a figure, and times that go back or stand still, left out. */
export function traceOf(time_s: ArrayLike<number>, values: ArrayLike<number>, first = 0, last = values.length - 1): Trace {
  const time = new Float64Array(last - first + 1);
  const value = new Float64Array(last - first + 1);
  let n = 0;
  let before = -Infinity;
  for (let i = first; i <= last; i += 1) {
    const t = time_s[i]!;
    const v = values[i]!;
    if (!(t > before) || v !== v) continue;
    time[n] = t;
    value[n] = v;
    before = t;
    n += 1;
  }
  return { time_s: time.slice(0, n), value: value.slice(0, n) };
}

/** Index of the last sample at or before a time; −1 before the first. */
export function indexAt(time_s: ArrayLike<number>, at_s: number): number {
  let low = -1;
  let high = time_s.length;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (time_s[middle]! <= at_s) low = middle;
    else high = middle;
  }
  return low;
}

/** The channel at a time, linear between its samples, held at its ends; NaN of an empty one. */
export function traceAt({ time_s, value }: Trace, at_s: number): number {
  const i = indexAt(time_s, at_s);
  if (time_s.length === 0) return NaN;
  if (i < 0) return value[0]!;
  if (i >= time_s.length - 1) return value[time_s.length - 1]!;
  const share = (at_s - time_s[i]!) / (time_s[i + 1]! - time_s[i]!);
  return value[i]! + share * (value[i + 1]! - value[i]!);
}

/** The part of a trace between two times, both included. */
export function cutTrace({ time_s, value }: Trace, from_s: number, to_s: number): Trace {
  const first = indexAt(time_s, from_s - 1e-12) + 1;
  const last = indexAt(time_s, to_s);
  return { time_s: time_s.subarray(first, last + 1), value: value.subarray(first, last + 1) };
}

/** Distance driven at each sample of a speed trace, m, by the trapezoid rule. */
export function distanceOf({ time_s, value }: Trace): Float64Array {
  const out = new Float64Array(time_s.length);
  for (let i = 1; i < out.length; i += 1) out[i] = out[i - 1]! + 0.5 * (value[i]! + value[i - 1]!) * (time_s[i]! - time_s[i - 1]!);
  return out;
}
