import type { SheetEvent } from '../documents/sheet-event';

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
  readonly peak_ms: number;
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
    blips.push({ from_ms: samples[i]!.at_ms, peak_ms: samples[peak]!.at_ms, peak_rpm: samples[peak]!.rpm, back_s: back });
    i = Math.max(k, i + 1);
  }
  return blips;
}

export type IdleVerdict = 'steady' | 'climbing' | 'hunting' | 'high' | 'low' | 'too few readings';

/** Readings and time that an idle is judged by. */
const LEAST_SAMPLES = 20;
/** Rise a minute that is a climb, rpm; swing from crest to crest that is a hunt, rpm; and how often it must turn. */
const CLIMB_rpm_per_min = 60;
/** A climb has brought it up by this much, rpm: less is a wander. */
const CLIMB_rpm = 50;
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
  // Hunting first: over few swings a wave looks like a slope.
  if (swing > HUNT_rpm && turns >= HUNT_TURNS) return 'hunting';
  const rise = slope * (t.at(-1)! - t[0]!);
  if (slope > CLIMB_rpm_per_min && rise > CLIMB_rpm) return 'climbing';
  return mean > high ? 'high' : mean < low ? 'low' : 'steady';
}

/** Time after a blip by which an idle is back, or is taken not to come, ms. */
const BACK_ms = 8000;

/** Back in its band an engine still falls to its middle for this long, ms. */
const TAIL_ms = 3000;

/** Readings of the idle itself: without the blips, and without the time an engine takes to come back from each. */
function quietSamples(samples: readonly RpmSample[], band: RelearnPlan['band_rpm']): RpmSample[] {
  const away = blipsOf(samples, band).map((b) => {
    const to = b.back_s === null ? BACK_ms : 1000 * b.back_s + TAIL_ms;
    return { from: b.from_ms - 300, to: b.peak_ms + to };
  });
  return samples.filter((s) => !away.some((a) => s.at_ms >= a.from && s.at_ms < a.to));
}

export type IdleAlarm = 'climbing' | 'hunting' | 'not back';
/** Stretch that an alarm is judged by, ms. */
const ALARM_ms = 40_000;

/** Whether an idle is in trouble now: it climbs or hunts over the last while, or did not come back from its last blip. */
export function idleAlarm(samples: readonly RpmSample[], band: RelearnPlan['band_rpm']): IdleAlarm | null {
  const now = samples.at(-1)?.at_ms;
  if (now === undefined) return null;
  const last = blipsOf(samples, band).at(-1);
  if (last && last.back_s === null && now - last.peak_ms > BACK_ms) return 'not back';
  const verdict = idleVerdict(
    quietSamples(samples, band).filter((s) => s.at_ms > now - ALARM_ms),
    band,
  );
  return verdict === 'climbing' || verdict === 'hunting' ? verdict : null;
}

export interface CycleReport {
  readonly from_ms: number;
  /** null: it still runs. */
  readonly to_ms: number | null;
  readonly longEnough: boolean;
  readonly blips: readonly Blip[];
  /** Of the last third of the run, when the engine is warm. */
  readonly idle: IdleVerdict;
  readonly mean_rpm: number | null;
}

/** Each run of a relearn: how long, its blips, and what the idle did at its end. */
export function cycleReports(plan: RelearnPlan, events: readonly RelearnEvent[], now_ms: number): CycleReport[] {
  const sorted = events.filter((e) => e.at_ms <= now_ms).sort((a, b) => a.at_ms - b.at_ms);
  const runs: { from: number; to: number | null }[] = [];
  for (const e of sorted) {
    const open = runs.at(-1);
    if (e.type === 'engine on' && (!open || open.to !== null)) runs.push({ from: e.at_ms, to: null });
    if (e.type === 'engine off' && open?.to === null) open.to = e.at_ms;
  }
  const all = sorted.flatMap((e): RpmSample[] => (e.type === 'rpm' ? [{ at_ms: e.at_ms, rpm: e.rpm }] : []));
  return runs.map(({ from, to }) => {
    const end = to ?? now_ms;
    const mine = all.filter((s) => s.at_ms >= from && s.at_ms <= end);
    const warm = quietSamples(mine, plan.band_rpm).filter((s) => s.at_ms >= from + ((end - from) * 2) / 3);
    return {
      from_ms: from,
      to_ms: to,
      longEnough: end - from >= plan.run_s * 1000,
      blips: blipsOf(mine, plan.band_rpm),
      idle: idleVerdict(warm, plan.band_rpm),
      mean_rpm: warm.length > 0 ? warm.reduce((a, s) => a + s.rpm, 0) / warm.length : null,
    };
  });
}

/** Relearn events of a sheet: its engine stamps, its rpm spread out over their time; a check that fails stops the engine. */
export function relearnEvents(events: readonly SheetEvent[]): RelearnEvent[] {
  return events.flatMap((e): RelearnEvent[] => {
    if (e.type === 'engine on' || e.type === 'engine off') return [{ type: e.type, at_ms: e.at_ms }];
    if (e.type === 'failed') return [{ type: 'engine off', at_ms: e.at_ms }];
    if (e.type === 'rpm') return e.rpm.map((rpm, i) => ({ type: 'rpm', at_ms: e.at_ms + i * e.step_ms, rpm }));
    return [];
  });
}

/** Why a run does not count as clean. */
export type RunFault = 'not back' | Exclude<IdleVerdict, 'steady'>;

/** What is wrong with one run that was long enough; null: nothing. */
export function runFault(report: CycleReport): RunFault | null {
  if (report.blips.some((b) => b.back_s === null)) return 'not back';
  return report.idle === 'steady' ? null : report.idle;
}

export interface RelearnFault {
  /** Place of the run, from 1; null: not as many runs as the plan asks for. */
  readonly run: number | null;
  readonly why: RunFault | 'runs missing';
}

/**
 * What keeps a relearn from being clean: fewer clean runs than planned, and of the runs that were long enough those whose idle
 * is not steady in its band, has too few readings to say, or did not come back from a blip. Empty: it is clean.
 */
export function relearnFaults(plan: RelearnPlan, events: readonly RelearnEvent[], now_ms: number): RelearnFault[] {
  const runs = cycleReports(plan, events, now_ms).filter((r) => r.to_ms !== null);
  const faults = runs.flatMap((r, i): RelearnFault[] => {
    const why = r.longEnough ? runFault(r) : null;
    return why === null ? [] : [{ run: i + 1, why }];
  });
  const clean = runs.filter((r) => r.longEnough && runFault(r) === null).length;
  if (clean >= plan.cycles) return [];
  return faults.length > 0 ? faults : [{ run: null, why: 'runs missing' }];
}
