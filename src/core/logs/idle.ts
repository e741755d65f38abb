import { meanOf, varianceOf } from '../numbers/moments';
import { cutTrace, traceAt, type Trace } from './trace';

export interface IdleQuality {
  /** Seconds of idle looked at. */
  readonly seconds: number;
  readonly mean_rpm: number;
  /** Standard deviation of engine speed about its own mean of some seconds: a cold idle that falls, or one with the fan on, is not rough. */
  readonly spread_rpm: number;
  /** Standard error of the spread: an idle of few seconds tells it badly. */
  readonly spreadError_rpm: number;
  /** Period of a hunt, s, and its size (half of peak to peak); null where the idle only jitters. */
  readonly hunting: { readonly period_s: number; readonly amplitude_rpm: number } | null;
}

/** Idle is shut, standing still, and at least this long. */
const SHUT_pct = 4;
const STANDING_mps = 0.6;
const LEAST_s = 6;
const SETTLING_s = 2;
const RUNNING_rpm = 300;
/** An idle has forgotten where it was after so long: so many of these are in it that each says something of its own. */
const FORGETS_s = 0.5;
/** The longest stretch whose mean is one level of idle. */
const LEVEL_s = 8;
/** Hunting is looked for between these periods, and believed from this autocorrelation on. */
const PERIODS_s = [0.6, 8] as const;
const BELIEVED = 0.35;
const GRID_s = 0.05;

/** Stretches of idle: throttle shut (against its own lowest), standing still, the engine running and settled. */
function idleStretches(rpm: Trace, throttle: Trace | null, speed: Trace | null, highest_rpm: number): [number, number][] {
  const shut = throttle ? throttle.value.reduce((a, b) => Math.min(a, b), Infinity) + SHUT_pct : 0;
  const idles = (t: number, n: number): boolean =>
    n > RUNNING_rpm && n < highest_rpm && (!throttle || traceAt(throttle, t) <= shut) && (!speed || traceAt(speed, t) < STANDING_mps);
  const out: [number, number][] = [];
  let from = NaN;
  for (let i = 0; i <= rpm.time_s.length; i += 1) {
    const t = rpm.time_s[i];
    if (t !== undefined && idles(t, rpm.value[i]!)) {
      if (!(from === from)) from = t;
    } else if (from === from) {
      const end = rpm.time_s[i - 1]!;
      if (end - from - SETTLING_s >= LEAST_s) out.push([from + SETTLING_s, end]);
      from = NaN;
    }
  }
  return out;
}

/**
 * How an engine idles: mean, spread, and whether it hunts, over every stretch of a log with the throttle shut and the car
 * standing. Null where there is no idle of six seconds and more. `highest_rpm` keeps a cold or blipped engine out.
 */
export function idleQuality(input: {
  readonly rpm: Trace;
  readonly throttle: Trace | null;
  readonly speed: Trace | null;
  readonly highest_rpm: number;
}): IdleQuality | null {
  const stretches = idleStretches(input.rpm, input.throttle, input.speed, input.highest_rpm);
  if (stretches.length === 0) return null;
  const cuts = stretches.map(([from, to]) => cutTrace(input.rpm, from, to));
  const all = cuts.flatMap((c) => Array.from(c.value));
  const longest = stretches.reduce((a, s, i) => (s[1] - s[0] > stretches[a]![1] - stretches[a]![0] ? i : a), 0);
  const seconds = stretches.reduce((s, [from, to]) => s + to - from, 0);
  const spread_rpm = spread(stretches.flatMap(([from, to]) => pieces(input.rpm, from, to)));
  // Looked at once in eight seconds, nothing is seen of how it runs.
  if (Number.isNaN(spread_rpm)) return null;
  return {
    seconds,
    mean_rpm: meanOf(all),
    spread_rpm,
    spreadError_rpm: spread_rpm / Math.sqrt(2 * Math.min(all.length, seconds / FORGETS_s)),
    hunting: hunt(cuts[longest]!),
  };
}

/** A stretch in equal parts, none longer than a level of idle. */
function pieces(rpm: Trace, from: number, to: number): ArrayLike<number>[] {
  const parts = Math.ceil((to - from) / LEVEL_s);
  const end = (k: number): number => from + (k * (to - from)) / parts;
  return Array.from({ length: parts }, (_, k) => cutTrace(rpm, end(k), end(k + 1)).value);
}

/** Standard deviation within pieces, each about its own mean. */
function spread(parts: readonly ArrayLike<number>[]): number {
  const several = parts.filter((p) => p.length > 1);
  const freedom = several.reduce((n, p) => n + p.length - 1, 0);
  return Math.sqrt(several.reduce((s, p) => s + (p.length - 1) * varianceOf(p), 0) / freedom);
}

/** The period at which engine speed agrees with itself again, by the first clear peak of its autocorrelation. */
function hunt(rpm: Trace): IdleQuality['hunting'] {
  const from = rpm.time_s[0]!;
  const n = Math.floor((rpm.time_s.at(-1)! - from) / GRID_s);
  const values = Float64Array.from({ length: n }, (_, i) => traceAt(rpm, from + i * GRID_s));
  const mean = meanOf(values);
  const v = values.map((x) => x - mean);
  const variance = v.reduce((s, x) => s + x * x, 0) / n;
  if (!(variance > 0)) return null;
  const auto = (k: number): number => {
    let s = 0;
    for (let i = 0; i + k < n; i += 1) s += v[i]! * v[i + k]!;
    return s / (n - k) / variance;
  };
  const most = Math.min(Math.floor(n / 2), Math.round(PERIODS_s[1] / GRID_s));
  const r = Array.from({ length: most + 2 }, (_, k) => auto(k));
  for (let k = 2; k <= most; k += 1) {
    const peak = r[k]! > BELIEVED && r[k]! >= r[k - 1]! && r[k]! >= r[k + 1]!;
    // A real period dips below nothing on the way; slow wander does not.
    if (!peak || !r.slice(1, k).some((x) => x < 0)) continue;
    // One that is quicker than a hunt would come again at every multiple of itself.
    return k * GRID_s < PERIODS_s[0] - GRID_s / 2 ? null : { period_s: k * GRID_s, amplitude_rpm: Math.sqrt(2 * variance * r[k]!) };
  }
  return null;
}
