import type { Quantity } from '../documents/run';
import { medianOf, varianceOf } from '../numbers/moments';
import { cutTrace, indexAt, traceAt, type Trace } from './trace';

export interface TipIn {
  readonly at_s: number;
  readonly from_pct: number;
  readonly to_pct: number;
  /** From the middle of the throttle's step to the middle of the air's, s; null where the air shows no step. */
  readonly air_s: number | null;
  /** To half of the largest acceleration that follows, s; null without one. */
  readonly acceleration_s: number | null;
}

/** A step of the throttle: this much, this fast, from below this opening. */
const STEP_pct = 20;
const WITHIN_s = 0.4;
const FROM_BELOW_pct = 35;
/** What follows is looked at for this long, and steps are at least this far apart. */
const AFTER_s = 1.5;
const APART_s = 2.5;
const BEFORE_s = 0.3;
const SLOPE_s = 0.12;

/** Times at which the throttle is stepped open. */
function steps(throttle: Trace): { at: number; from: number; to: number }[] {
  const out: { at: number; from: number; to: number }[] = [];
  const { time_s, value } = throttle;
  let last = -Infinity;
  for (let i = 0; i < time_s.length; i += 1) {
    const t = time_s[i]!;
    if (value[i]! > FROM_BELOW_pct || t - last < APART_s) continue;
    const then = traceAt(throttle, t + WITHIN_s);
    const next = value[i + 1];
    if (next === undefined || next - value[i]! < 1 || then - value[i]! < STEP_pct) continue;
    const top = cutTrace(throttle, t, t + WITHIN_s).value.reduce((a, b) => Math.max(a, b), then);
    const half = value[i]! + (top - value[i]!) / 2;
    out.push({ at: crossing(throttle, t, t + WITHIN_s + SLOPE_s, half) ?? t, from: value[i]!, to: top });
    last = t;
  }
  return out;
}

/** When a channel first reaches a level from below, linear between samples. */
function crossing(trace: Trace, from_s: number, to_s: number, level: number): number | null {
  const { time_s, value } = trace;
  for (let i = Math.max(0, indexAt(time_s, from_s)); i + 1 < time_s.length && time_s[i]! <= to_s; i += 1) {
    if (value[i]! <= level && value[i + 1]! > level) {
      const t = time_s[i]! + ((level - value[i]!) / (value[i + 1]! - value[i]!)) * (time_s[i + 1]! - time_s[i]!);
      if (t >= from_s - 1e-9 && t <= to_s) return t;
    }
  }
  return null;
}

function airDelay(air: Trace, at_s: number): number | null {
  const before = traceAt(air, at_s - BEFORE_s);
  const after = cutTrace(air, at_s, at_s + AFTER_s).value.reduce((a, b) => Math.max(a, b), -Infinity);
  if (!(after - before > 0.1 * Math.abs(before))) return null;
  const at = crossing(air, at_s - BEFORE_s, at_s + AFTER_s, before + (after - before) / 2);
  return at === null ? null : at - at_s;
}

/** Slope of a channel over a short window about a time. */
const slope = (trace: Trace, at_s: number): number => (traceAt(trace, at_s + SLOPE_s / 2) - traceAt(trace, at_s - SLOPE_s / 2)) / SLOPE_s;

function accelerationDelay(motion: Trace, at_s: number): number | null {
  const before = slope(motion, at_s - BEFORE_s);
  let top = -Infinity;
  for (let t = at_s; t <= at_s + AFTER_s; t += 0.01) top = Math.max(top, slope(motion, t));
  if (!(top > before + 1e-9) || top <= 0) return null;
  const half = before + (top - before) / 2;
  for (let t = at_s - BEFORE_s; t <= at_s + AFTER_s; t += 0.005) if (slope(motion, t) >= half) return t - at_s;
  return null;
}

/**
 * How an engine answers a stepped throttle: delay to its air and to its acceleration, step by step. `air` is manifold
 * pressure or mass flow; `motion` road speed, or engine speed in gear.
 */
export function tipIns(input: { readonly throttle: Trace; readonly air: Trace | null; readonly motion: Trace | null }): TipIn[] {
  const { throttle, air, motion } = input;
  return steps(throttle).map(({ at, from, to }) => ({
    at_s: at,
    from_pct: from,
    to_pct: to,
    air_s: air && air.time_s.length > 4 ? airDelay(air, at) : null,
    acceleration_s: motion && motion.time_s.length > 4 ? accelerationDelay(motion, at) : null,
  }));
}

export interface TipInSummary {
  readonly count: number;
  /** Medians over the steps, s. */
  readonly air_s: number | null;
  readonly acceleration_s: number | null;
  /** Standard error of the delay to the air, s: from how its steps differ, and how often the two channels were sampled. */
  readonly airError_s: number | null;
  /** The channel that tells the air: pressure follows later than flow does. */
  readonly airBy: Quantity | null;
}

/** How far two stabs of one car differ where nothing else says, s, and how many seen differences that is worth. */
const USUAL_s = 0.02;
const USUAL_WORTH = 2;
/** A median is surer than one step by this much less than a mean is. */
const MEDIAN_COST = 1.25;

/** `between_s`: the usual intervals of the throttle's and the air's samples, between which nobody looked. */
function errorOf(delays_s: readonly number[], between_s: readonly number[]): number {
  const n = delays_s.length;
  const seen = n > 1 ? varianceOf(delays_s) : 0;
  const differ = (Math.max(0, n - 1) * seen + USUAL_WORTH * USUAL_s ** 2) / (Math.max(0, n - 1) + USUAL_WORTH);
  const sampled = between_s.reduce((s, dt) => s + dt ** 2 / 12, 0);
  return (n > 2 ? MEDIAN_COST : 1) * Math.sqrt((differ + sampled) / n);
}

export function tipInSummary(found: readonly TipIn[], between_s: readonly number[] = [], airBy: Quantity | null = null): TipInSummary {
  const median = (f: (t: TipIn) => number | null): number | null => {
    const known = found.flatMap((t) => f(t) ?? []);
    return known.length === 0 ? null : medianOf(known);
  };
  const delays = found.flatMap((t) => t.air_s ?? []);
  return {
    count: found.length,
    air_s: median((t) => t.air_s),
    acceleration_s: median((t) => t.acceleration_s),
    airError_s: delays.length === 0 ? null : errorOf(delays, between_s),
    airBy: delays.length === 0 ? null : airBy,
  };
}
