/** An idle relearn as the maker, or else common practice, has it: cycles of running and resting. */
export interface RelearnPlan {
  readonly cycles: number;
  readonly run_s: number;
  readonly rest_s: number;
  readonly band_rpm: readonly [low: number, high: number];
}

/** Common practice where the maker says nothing. */
export const USUAL_RELEARN: RelearnPlan = { cycles: 3, run_s: 180, rest_s: 120, band_rpm: [650, 850] };

/** What happened, with its time: all that is kept. Everything else follows from it and from the time it is. */
export type RelearnEvent =
  | { readonly type: 'engine on' | 'engine off'; readonly at_ms: number }
  | { readonly type: 'rpm'; readonly at_ms: number; readonly rpm: number };

export type RelearnPhase = 'not begun' | 'running' | 'run long enough' | 'resting' | 'rested' | 'done';

export interface RelearnState {
  readonly phase: RelearnPhase;
  /** Cycles whose running time was reached. */
  readonly cyclesDone: number;
  /** Time the phase has gone on, and how long it should, s. */
  readonly elapsed_s: number;
  readonly wanted_s: number;
}

/**
 * Where a relearn stands now. Only time stamps count, so that a reload, a sleeping tablet or a server's restart lose nothing.
 * Stamps later than `now_ms` are not of this relearn and are left out; a run cut short does not count as a cycle.
 */
export function relearnState(plan: RelearnPlan, events: readonly RelearnEvent[], now_ms: number): RelearnState {
  const turns = events.filter((e) => e.type !== 'rpm' && e.at_ms <= now_ms).sort((a, b) => a.at_ms - b.at_ms);
  let on: number | null = null;
  let off: number | null = null;
  let cyclesDone = 0;
  for (const e of turns) {
    if (e.type === 'engine on') {
      on ??= e.at_ms;
      off = null;
    } else if (on !== null) {
      if (e.at_ms - on >= plan.run_s * 1000) cyclesDone += 1;
      on = null;
      off = e.at_ms;
    }
  }
  const since = (from: number): number => (now_ms - from) / 1000;
  if (on !== null) {
    const elapsed_s = since(on);
    return { phase: elapsed_s >= plan.run_s ? 'run long enough' : 'running', cyclesDone, elapsed_s, wanted_s: plan.run_s };
  }
  if (cyclesDone >= plan.cycles) return { phase: 'done', cyclesDone, elapsed_s: 0, wanted_s: 0 };
  if (off === null) return { phase: 'not begun', cyclesDone, elapsed_s: 0, wanted_s: 0 };
  const elapsed_s = since(off);
  return { phase: elapsed_s >= plan.rest_s ? 'rested' : 'resting', cyclesDone, elapsed_s, wanted_s: plan.rest_s };
}

export interface RpmSample {
  readonly at_ms: number;
  readonly rpm: number;
}

export interface Blip {
  readonly from_ms: number;
  readonly peak_rpm: number;
  /** From letting go at the peak to staying in the band, s; null: it has not come back. */
  readonly back_s: number | null;
}

/** A rise this far above the band is a foot, not an idle. */
const BLIP_rpm = 400;
/** The idle counts as back once it has kept to its band for this long. */
const SETTLED_ms = 1500;

/** Blips in a stretch of engine speed: each with how long the idle took to come back into its band. */
export function blipsOf(samples: readonly RpmSample[], [low, high]: RelearnPlan['band_rpm']): Blip[] {
  const blips: Blip[] = [];
  let i = 0;
  while (i < samples.length) {
    if (samples[i]!.rpm <= high + BLIP_rpm) {
      i += 1;
      continue;
    }
    let peak = i;
    let k = i;
    // Ends when the speed has come down as far as the band's top, or the samples end.
    while (k < samples.length && samples[k]!.rpm > high) {
      if (samples[k]!.rpm > samples[peak]!.rpm) peak = k;
      k += 1;
    }
    let inside: number | null = null;
    let back: number | null = null;
    for (; k < samples.length && back === null; k += 1) {
      const { at_ms, rpm } = samples[k]!;
      if (rpm > high + BLIP_rpm) break;
      if (rpm < low || rpm > high) inside = null;
      else {
        inside ??= at_ms;
        if (at_ms - inside >= SETTLED_ms) back = (inside - samples[peak]!.at_ms) / 1000;
      }
    }
    blips.push({ from_ms: samples[i]!.at_ms, peak_rpm: samples[peak]!.rpm, back_s: back });
    i = Math.max(k, i + 1);
  }
  return blips;
}

export type IdleVerdict = 'steady' | 'climbing' | 'hunting' | 'high' | 'low' | 'too few readings';

/** Readings and time that an idle is judged by. */
const LEAST_SAMPLES = 20;
/** Rise a minute that is a climb, rpm; swing from crest to crest that is a hunt, rpm; and how often it must turn. */
const CLIMB_rpm_per_min = 60;
const HUNT_rpm = 120;
const HUNT_TURNS = 4;

/** What an idle does over a stretch without blips: a climbing or hunting one is an alarm. */
export function idleVerdict(samples: readonly RpmSample[], [low, high]: RelearnPlan['band_rpm']): IdleVerdict {
  if (samples.length < LEAST_SAMPLES) return 'too few readings';
  const n = samples.length;
  const t0 = samples[0]!.at_ms;
  const t = samples.map((s) => (s.at_ms - t0) / 60_000);
  const meanT = t.reduce((a, b) => a + b, 0) / n;
  const mean = samples.reduce((a, s) => a + s.rpm, 0) / n;
  let cross = 0;
  let square = 0;
  samples.forEach((s, i) => {
    cross += (t[i]! - meanT) * (s.rpm - mean);
    square += (t[i]! - meanT) ** 2;
  });
  const slope = square > 0 ? cross / square : 0;
  const rest = samples.map((s, i) => s.rpm - mean - slope * (t[i]! - meanT));
  const swing = Math.max(...rest) - Math.min(...rest);
  const half = swing / 4;
  let turns = 0;
  let side = 0;
  for (const r of rest) {
    const now = r > half ? 1 : r < -half ? -1 : side;
    if (side !== 0 && now !== side) turns += 1;
    side = now;
  }
  if (slope > CLIMB_rpm_per_min) return 'climbing';
  if (swing > HUNT_rpm && turns >= HUNT_TURNS) return 'hunting';
  return mean > high ? 'high' : mean < low ? 'low' : 'steady';
}
