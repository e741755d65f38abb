import type { RoadStretch } from '../documents/kinds';
import { failure, isFailure, type Failure } from '../failure';
import { GRAVITY_mps2 } from '../flow/constants';
import { distanceOf, indexAt, traceAt, type Trace } from '../logs/trace';
import { inferRoad, type SidesAnswer } from '../inference/answer';
import type { RoadGrade } from '../inference/rig';
import { roadEnergy } from './estimates';

/** A stretch of road driven at full throttle from one speed to another. */
export interface RoadRun {
  readonly from_s: number;
  readonly to_s: number;
  readonly time_s: number;
  readonly distance_m: number;
  /** By the log's altitude, else by the entered grade; null: the ground is unknown. */
  readonly climb_m: number | null;
  readonly climbFrom: 'altitude' | 'grade' | null;
  /** Time on the flat, by energy; of unknown ground as run. */
  readonly flat_s: number;
  /** Speed, m/s, over seconds since the clock started: its own samples and the window's two ends. */
  readonly curve: { readonly time_s: readonly number[]; readonly speed_mps: readonly number[] };
  /** Half of the range that each unknown could move the time by, s. */
  readonly errors: RoadErrors;
}

export interface RoadErrors {
  readonly grade_s: number;
  readonly rollout_s: number;
  readonly wind_s: number;
  readonly sampling_s: number;
  /** All of them together, by their squares. */
  readonly all_s: number;
}

export interface RoadWindow {
  readonly from_mps: number;
  readonly to_mps: number;
  /** Distance driven before the clock starts where the run begins from rest, m. */
  readonly rollout_m: number;
  /** Rise over run where it was measured; null: not known. */
  readonly grade: number | null;
  /** Wind that may have blown either way along the road, m/s. */
  readonly wind_mps: number;
}

/** Ground of unknown grade may rise or fall by this much; an altitude by satellite wanders by so many metres. */
const UNKNOWN_GRADE = 0.01;
const ALTITUDE_ERROR_m = 1.5;
/** Air resistance of a car, drag area over its mass, m²/kg: wind's share of the work is estimated with it. */
const DRAG_AREA_PER_MASS = 0.68 / 1400;
const AIR_kgpm3 = 1.2;
/** A fall of this much ends a rise: between two gears a car loses less. */
const FALLBACK_mps = 1.4;
/** Noise of a speed is brought down to this by looking over more samples, but over no more than so many seconds. */
const QUIET_mps = 0.08;
const LONGEST_LOOK_s = 1.2;
/** From rest: a stopped car's speed sensor still says this much. */
const REST_mps = 0.5;

/** When a rising stretch of speed passes a value, linear between its samples. */
function crossing({ time_s, value }: Trace, from: number, to: number, v: number): number {
  for (let i = from + 1; i <= to; i += 1) {
    if (value[i]! >= v && value[i - 1]! < v) {
      const share = (v - value[i - 1]!) / (value[i]! - value[i - 1]!);
      return time_s[i - 1]! + share * (time_s[i]! - time_s[i - 1]!);
    }
  }
  return NaN;
}

/** How far a speed's samples scatter about a smooth course, m/s: from what three neighbours are off a straight line. */
export function speedNoise({ value }: Trace): number {
  const off: number[] = [];
  for (let i = 1; i + 1 < value.length; i += 1) off.push(Math.abs(value[i - 1]! - 2 * value[i]! + value[i + 1]!));
  if (off.length === 0) return 0;
  off.sort((a, b) => a - b);
  // Median of an absolute second difference of white noise: 0.6745·√6 of its sd.
  return off[Math.floor(off.length / 2)]! / (0.6745 * Math.sqrt(6));
}

/** The speed with its own noise brought down: means over as many samples as that takes, never over a gear change's length. */
export function quietSpeed(speed: Trace): Trace {
  const noise = speedNoise(speed);
  if (noise <= QUIET_mps || speed.value.length < 5) return speed;
  const step_s = (speed.time_s.at(-1)! - speed.time_s[0]!) / (speed.time_s.length - 1);
  const most = Math.max(1, Math.round(LONGEST_LOOK_s / step_s));
  const half = Math.floor(Math.min(most, (noise / QUIET_mps) ** 2) / 2);
  if (half === 0) return speed;
  const { time_s, value } = speed;
  const out = new Float64Array(value.length);
  for (let i = 0; i < value.length; i += 1) {
    // A straight line through the neighbours: a mean would bend the ends of a run.
    const k = Math.min(half, i, value.length - 1 - i);
    let [n, t, v, tt, tv] = [0, 0, 0, 0, 0];
    for (let j = i - k; j <= i + k; j += 1) {
      const dt = time_s[j]! - time_s[i]!;
      n += 1;
      t += dt;
      v += value[j]!;
      tt += dt * dt;
      tv += dt * value[j]!;
    }
    const det = n * tt - t * t;
    out[i] = k === 0 || det <= 0 ? value[i]! : (v * tt - t * tv) / det;
  }
  return { time_s, value: out };
}

/** Stretches of samples in which speed rises, as pairs of indices. */
function rises({ value }: Trace): [number, number][] {
  const out: [number, number][] = [];
  let start = 0;
  let top = 0;
  for (let i = 1; i < value.length; i += 1) {
    if (value[i]! > value[top]!) top = i;
    if (value[i]! < value[top]! - FALLBACK_mps || i === value.length - 1) {
      if (top > start) out.push([start, top]);
      start = i;
      top = i;
    } else if (value[i]! <= REST_mps || value[i]! < value[start]!) {
      start = i;
      top = i;
    }
  }
  return out;
}

/** What the speed did between two times, counted from the first. */
function curveOf(speed: Trace, from_s: number, to_s: number): RoadRun['curve'] {
  const inside = Array.from(speed.time_s).filter((t) => t > from_s && t < to_s);
  const at = [from_s, ...inside, to_s];
  return { time_s: at.map((t) => t - from_s), speed_mps: at.map((t) => traceAt(speed, t)) };
}

/** Speeds, m/s, between which a log rises in one go. */
export type SpeedSpan = Pick<RoadWindow, 'from_mps' | 'to_mps'>;

/** The widest rise of a log's speed; null where it never rises. */
export function widestRise(logged: Trace): SpeedSpan | null {
  const speed = quietSpeed(logged);
  const spans = rises(speed).map(([first, last]) => ({ from_mps: speed.value[first]!, to_mps: speed.value[last]! }));
  return spans.reduce<SpeedSpan | null>((best, s) => (best && best.to_mps - best.from_mps >= s.to_mps - s.from_mps ? best : s), null);
}

/** The widest window that every one of the rises goes through, its ends on multiples of `step_mps`; null where they share none. */
export function sharedWindow(spans: readonly SpeedSpan[], step_mps: number): SpeedSpan | null {
  if (spans.length === 0) return null;
  const from_mps = Math.ceil(Math.max(...spans.map((s) => s.from_mps)) / step_mps) * step_mps;
  const to_mps = Math.floor(Math.min(...spans.map((s) => s.to_mps)) / step_mps) * step_mps;
  return to_mps > from_mps ? { from_mps, to_mps } : null;
}

/**
 * The runs of a log through a window of speed, with the grade taken out through the energy and the honest error of each.
 * Speed in m/s and altitude in m over time. `bad_input` for a window that is none, `speed_not_reached` where the log never goes
 * through it. Testing basis §3.
 */
export function roadRuns(logged: Trace, altitude: Trace | null, w: RoadWindow): RoadRun[] | Failure {
  const speed = quietSpeed(logged);
  if (!(w.to_mps > w.from_mps) || w.from_mps < 0) return failure('bad_input');
  const metres = distanceOf(speed);
  const runs = rises(speed).flatMap(([first, last]): RoadRun[] => {
    if (speed.value[last]! < w.to_mps) return [];
    const rest = w.from_mps <= REST_mps;
    if (!rest && speed.value[first]! > w.from_mps) return [];
    if (rest && speed.value[first]! > 2 * REST_mps) return [];
    const rolled = (): number => {
      for (let i = first + 1; i <= last; i += 1) {
        const gone = metres[i]! - metres[first]!;
        if (gone >= w.rollout_m) {
          const before = metres[i - 1]! - metres[first]!;
          const share = gone > before ? (w.rollout_m - before) / (gone - before) : 1;
          return speed.time_s[i - 1]! + share * (speed.time_s[i]! - speed.time_s[i - 1]!);
        }
      }
      return NaN;
    };
    const from_s = rest ? rolled() : crossing(speed, first, last, w.from_mps);
    const to_s = crossing(speed, first, last, w.to_mps);
    if (!(to_s > from_s)) return [];
    const time_s = to_s - from_s;
    const distanceAt = (t: number): number => traceAt({ time_s: speed.time_s, value: metres }, t);
    const distance_m = distanceAt(to_s) - distanceAt(from_s);
    const byAltitude = altitude && altitude.time_s.length > 1 ? traceAt(altitude, to_s) - traceAt(altitude, from_s) : null;
    const climb_m = byAltitude ?? (w.grade === null ? null : w.grade * distance_m);
    const flat = (climb: number): number =>
      roadEnergy({ fromSpeed_mps: w.from_mps, toSpeed_mps: w.to_mps, climb_m: climb, time_s }).flatTime_s;
    const i = Math.max(0, indexAt(speed.time_s, to_s));
    const step_s = i + 1 < speed.time_s.length ? speed.time_s[i + 1]! - speed.time_s[i]! : 0;
    return [
      {
        from_s,
        to_s,
        time_s,
        distance_m,
        climb_m,
        curve: curveOf(speed, from_s, to_s),
        climbFrom: byAltitude !== null ? 'altitude' : climb_m === null ? null : 'grade',
        flat_s: climb_m === null ? time_s : flat(climb_m),
        errors: roadErrors({
          ...w,
          time_s,
          distance_m,
          climbKnown: byAltitude !== null ? 'altitude' : climb_m === null ? 'no' : 'grade',
          step_s,
        }),
      },
    ];
  });
  return runs.length === 0 ? failure('speed_not_reached') : runs;
}

/** How far each thing that is not known could have moved a run's time, s. */
export function roadErrors(input: {
  readonly from_mps: number;
  readonly to_mps: number;
  readonly rollout_m: number;
  readonly wind_mps: number;
  readonly time_s: number;
  readonly distance_m: number;
  readonly climbKnown: 'altitude' | 'grade' | 'no';
  /** Between two samples of the speed. */
  readonly step_s: number;
}): RoadErrors {
  const kinetic = 0.5 * (input.to_mps ** 2 - input.from_mps ** 2);
  const climbError_m =
    input.climbKnown === 'altitude'
      ? ALTITUDE_ERROR_m
      : input.climbKnown === 'grade'
        ? 0.2 * UNKNOWN_GRADE * input.distance_m
        : UNKNOWN_GRADE * input.distance_m;
  const perJoule = input.time_s / kinetic;
  const grade_s = GRAVITY_mps2 * climbError_m * perJoule;
  const mean = input.distance_m / input.time_s;
  const drag = (wind: number): number => 0.5 * AIR_kgpm3 * DRAG_AREA_PER_MASS * (mean + wind) ** 2 * input.distance_m;
  const wind_s = 0.5 * (drag(input.wind_mps) - drag(-input.wind_mps)) * perJoule;
  // A start from rest that rolled a hand's breadth more or less before the clock ran.
  const rollout_s = input.from_mps <= REST_mps ? 0.15 * Math.sqrt((2 * Math.max(input.rollout_m, 0.1)) / 4) : 0;
  const sampling_s = input.step_s / 2;
  return { grade_s, rollout_s, wind_s, sampling_s, all_s: Math.hypot(grade_s, rollout_s, wind_s, sampling_s) };
}

/** A run on the road as it is compared: which side, its outing, and what is known of its ground. */
export interface SidedRoadRun {
  readonly side: 'A' | 'B';
  /** The day it belongs to. */
  readonly visit: string;
  readonly run: RoadRun;
}

export interface RoadAnswer {
  readonly answer: SidesAnswer;
  readonly before_s: number;
  readonly after_s: number;
  /** Estimated difference and its interval, s at the mean time of the runs before. */
  readonly difference_s: number;
  readonly low_s: number;
  readonly high_s: number;
  /** Ground is known by height, or not. */
  readonly grade: RoadGrade;
}

/**
 * Runs before against runs after on the road: the ground belongs to the place and the wind to the outing, so that neither is
 * divided by the number of runs. Times on the flat. Null where a side is missing. Testing basis §4.12.
 */
export function roadAnswer(
  runs: readonly SidedRoadRun[],
  { stretch, history }: { readonly stretch: RoadStretch; readonly history?: readonly number[] | undefined },
): RoadAnswer | null {
  const of = (side: 'A' | 'B'): SidedRoadRun[] => runs.filter((r) => r.side === side);
  if (of('A').length === 0 || of('B').length === 0) return null;
  const mean = (list: readonly SidedRoadRun[]): number => list.reduce((s, r) => s + r.run.flat_s, 0) / list.length;
  const grade: RoadGrade = stretch === 'both ways' ? 'bothWays' : runs.every((r) => r.run.climbFrom !== null) ? 'logged' : 'unknown';
  const shared = stretch === 'no' ? null : 'the stretch';
  const answer = inferRoad({
    grade,
    history,
    runs: runs.map(({ side, visit, run }) => ({
      side,
      visit,
      value: 100 * Math.log(run.flat_s),
      ...(shared !== null && { place: shared, wind: `${visit}|${shared}` }),
      // What the clock itself may be off by: the rollout, and the time between two samples.
      readingVariance: ((50 * Math.hypot(run.errors.rollout_s, run.errors.sampling_s)) / run.time_s) ** 2,
    })),
  });
  if (isFailure(answer)) return null;
  const before_s = mean(of('A'));
  const asSeconds = (x: number): number => before_s * Math.expm1(x / 100);
  return {
    answer,
    before_s,
    after_s: mean(of('B')),
    difference_s: asSeconds(answer.estimate),
    low_s: asSeconds(answer.low),
    high_s: asSeconds(answer.high),
    grade,
  };
}
