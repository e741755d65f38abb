import type { GearboxDoc } from '../documents/job';
import { medianOf } from '../numbers/moments';
import { gearOf, type FoundGear } from './gear';
import { cutTrace, traceAt, type Trace } from './trace';

export interface FoundPull {
  readonly from_s: number;
  readonly to_s: number;
  readonly from_rpm: number;
  readonly to_rpm: number;
  /** Null without a road speed. */
  readonly gear: FoundGear | null;
}

/** What makes a pull of a log. Testing basis §2. */
const PULL = { throttle_pct: 95, least_s: 1.5, ratioWithin: 0.02, fallback_rpm: 30 } as const;
/** Throttle may flicker under the limit for this long; speed below this says nothing of the gear. */
const FLICKER_s = 0.12;
const LEAST_SPEED_mps = 2;
/** A rise flatter than this is a cruise at full throttle, not a pull. */
const LEAST_RISE_rpmps = 40;

/** Stretches with the throttle open, flickers bridged. */
function openStretches(throttle: Trace): [number, number][] {
  const out: [number, number][] = [];
  let from = NaN;
  let last = NaN;
  for (let i = 0; i < throttle.time_s.length; i += 1) {
    const t = throttle.time_s[i]!;
    if (throttle.value[i]! >= PULL.throttle_pct) {
      if (!(from === from)) from = t;
      last = t;
    } else if (from === from && t - last > FLICKER_s) {
      out.push([from, last]);
      from = NaN;
    }
  }
  if (from === from) out.push([from, last]);
  return out;
}

/** A stretch cut where engine speed falls back, and where the ratio of engine to road speed leaves its own median. */
function oneGear(rpm: Trace, speed: Trace | null, gearbox: GearboxDoc): FoundPull[] {
  const out: FoundPull[] = [];
  const n = rpm.time_s.length;
  let start = 0;
  const close = (end: number): void => {
    if (end - start < 2) return;
    let low = start;
    for (let i = start; i < end; i += 1) if (rpm.value[i]! < rpm.value[low]!) low = i;
    const kept = speed ? steady(rpm, speed, low, end) : { first: low, last: end - 1, ratio: null };
    if (!kept) return;
    const { first, last, ratio } = kept;
    const took = rpm.time_s[last]! - rpm.time_s[first]!;
    const rise = rpm.value[last]! - rpm.value[first]!;
    if (took < PULL.least_s - 1e-9 || rise < LEAST_RISE_rpmps * took) return;
    out.push({
      from_s: rpm.time_s[first]!,
      to_s: rpm.time_s[last]!,
      from_rpm: rpm.value[first]!,
      to_rpm: rpm.value[last]!,
      gear: ratio === null ? null : gearOf(ratio, gearbox),
    });
  };
  let highest = -Infinity;
  for (let i = 0; i < n; i += 1) {
    if (rpm.value[i]! < highest - PULL.fallback_rpm) {
      close(i);
      start = i;
      highest = -Infinity;
    }
    highest = Math.max(highest, rpm.value[i]!);
  }
  close(n);
  return out;
}

/** The longest run of samples whose ratio stays within 2 % of the stretch's median. */
function steady(rpm: Trace, speed: Trace, from: number, to: number): { first: number; last: number; ratio: number } | null {
  const ratios = new Float64Array(to - from);
  for (let i = from; i < to; i += 1) {
    const v = traceAt(speed, rpm.time_s[i]!);
    ratios[i - from] = v > LEAST_SPEED_mps ? rpm.value[i]! / 60 / v : NaN;
  }
  const ratio = medianOf(ratios);
  if (!Number.isFinite(ratio)) return null;
  let best: [number, number] | null = null;
  let start = -1;
  for (let k = 0; k <= ratios.length; k += 1) {
    const inside = k < ratios.length && Math.abs(ratios[k]! / ratio - 1) <= PULL.ratioWithin;
    if (inside && start < 0) start = k;
    if (!inside && start >= 0) {
      if (!best || k - start > best[1] - best[0]) best = [start, k];
      start = -1;
    }
  }
  return best ? { first: from + best[0], last: from + best[1] - 1, ratio } : null;
}

/**
 * The pulls of a log: throttle at 95 % or more for 1.5 s at least, in one gear (engine over road speed steady within 2 %),
 * engine speed rising. Without a throttle channel every long rise counts; without a road speed the gear is not known.
 * Testing basis §2.
 */
export function findPulls(input: {
  readonly rpm: Trace;
  readonly throttle: Trace | null;
  readonly speed: Trace | null;
  readonly gearbox: GearboxDoc;
}): FoundPull[] {
  const { rpm, throttle, speed, gearbox } = input;
  if (rpm.time_s.length < 2) return [];
  const stretches: [number, number][] = throttle ? openStretches(throttle) : [[rpm.time_s[0]!, rpm.time_s.at(-1)!]];
  const found = stretches.flatMap(([from, to]) => oneGear(cutTrace(rpm, from, to), speed, gearbox));
  // Without a throttle the ear has to be replaced: only rises as steep as a pull's.
  return throttle ? found : found.filter((p) => (p.to_rpm - p.from_rpm) / (p.to_s - p.from_s) > 3 * LEAST_RISE_rpmps);
}
