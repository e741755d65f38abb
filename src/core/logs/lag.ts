import { traceAt, type Trace } from './trace';

export interface Lag {
  /** How much later the channel says it than engine speed does, s; negative: earlier. */
  readonly lag_s: number;
  /** Correlation there, −1 … 1. */
  readonly correlation: number;
}

/** Lags looked at, and their step. Testing basis §2. */
const LAG_RANGE_s = 0.5;
const LAG_STEP_s = 0.005;
/** A correlation weaker than this places nothing. */
const LEAST_CORRELATION = 0.5;
const GRID_s = 0.01;

/**
 * How late a channel is against the air flow that engine speed implies, by the peak of their cross-correlation within half
 * a second. Null where the two have too little in common. Testing basis §2.
 */
export function lagAgainst(reference: Trace, channel: Trace): Lag | null {
  if (reference.time_s.length < 8 || channel.time_s.length < 8) return null;
  const from = Math.max(reference.time_s[0]!, channel.time_s[0]!) + LAG_RANGE_s;
  const to = Math.min(reference.time_s.at(-1)!, channel.time_s.at(-1)!) - LAG_RANGE_s;
  const n = Math.floor((to - from) / GRID_s);
  if (n < 20) return null;
  const grid = Float64Array.from({ length: n }, (_, i) => from + i * GRID_s);
  const a = slopes(grid.map((t) => traceAt(reference, t)));
  let best: Lag | null = null;
  const steps = Math.round(LAG_RANGE_s / LAG_STEP_s);
  for (let k = -steps; k <= steps; k += 1) {
    const lag_s = k * LAG_STEP_s;
    const r = correlation(a, slopes(grid.map((t) => traceAt(channel, t + lag_s))));
    if (!best || r > best.correlation) best = { lag_s, correlation: r };
  }
  return best && best.correlation >= LEAST_CORRELATION ? best : null;
}

/** Changes over a tenth of a second: two rising lines agree at any lag, their corners only at one. */
function slopes(values: Float64Array): Float64Array {
  const reach = Math.round(0.05 / GRID_s);
  return values.map((_, i) => values[Math.min(values.length - 1, i + reach)]! - values[Math.max(0, i - reach)]!);
}

function correlation(a: Float64Array, b: Float64Array): number {
  const n = a.length;
  let ma = 0;
  let mb = 0;
  for (let i = 0; i < n; i += 1) {
    ma += a[i]! / n;
    mb += b[i]! / n;
  }
  let ab = 0;
  let aa = 0;
  let bb = 0;
  for (let i = 0; i < n; i += 1) {
    ab += (a[i]! - ma) * (b[i]! - mb);
    aa += (a[i]! - ma) ** 2;
    bb += (b[i]! - mb) ** 2;
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}
