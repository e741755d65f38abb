import { failure, isFailure, type Failure } from '../failure';
import { fallingRoot } from '../numbers/root';
import { compilePath, FIGURE, FIGURES, type CompiledPath } from './compile';
import { GAMMA, R_DRY } from './constants';
import { CHOKED_X2, headOfSquare } from './duct';
import { pulseHead } from './pulse';
import { airViscosity, frictionFactor } from './losses';
import type { Path, PathEnd } from './path';

/** Where a walk stopped short. */
interface WhereItEnds {
  where: string | null;
  code: 'choked' | 'blocked';
}

/**
 * Walks a compiled path at a flow. Returns the end pressure (Pa), or NaN where it chokes (then `ends` names the row).
 * Given `dp` and `running`, fills them row by row. This is the one place the ladder is computed, and the innermost loop
 * of every solve, so it reads a plain array of numbers.
 */
function walk(c: CompiledPath, m: number, p0: number, T0_K: number, ends?: WhereItEnds, dp?: number[], running?: number[]): number {
  const RT = R_DRY * T0_K;
  const flow2 = (m * m * RT) / GAMMA;
  const viscosity = airViscosity(T0_K);
  const figures = c.figures;
  let p = p0;
  for (let at = 0; at < figures.length; at += FIGURES) {
    let loss = 0;
    const kind = figures[at]!;
    if (kind === FILTER) {
      loss = (figures[at + FIGURE.filterC]! * m * m * RT) / p;
    } else if (kind === BLOCKED) {
      return endAt(ends, c, at, 'blocked');
    } else if (kind !== NOTHING) {
      const X = (flow2 * figures[at + FIGURE.inverseArea2]!) / (p * p);
      let K = figures[at + FIGURE.K]!;
      if (kind === PIPE && m > 0) {
        const f = frictionFactor((m * figures[at + FIGURE.reynolds]!) / viscosity, figures[at + FIGURE.wall]!);
        K += f * figures[at + FIGURE.lengthOverBore]!;
      }
      const eventShare = figures[at + FIGURE.eventShare]!;
      const chokes = eventShare === 0 ? CHOKED_X2 : CHOKED_X2 * eventShare * eventShare;
      if (!(X < chokes)) return endAt(ends, c, at, 'choked');
      // A bare passage costs nothing, but had to pass the flow.
      if (K !== 0) loss = K * p * (eventShare === 0 ? headOfSquare(X) : pulseHead(X, eventShare));
    }
    loss *= figures[at + FIGURE.factor]!;
    p -= loss;
    if (!(p > 0)) return endAt(ends, c, at, 'choked');
    if (dp && running) {
      dp.push(loss);
      running.push(p);
    }
  }
  if (c.exitArea_m2 === 0) return p;
  const X = flow2 / (c.exitArea_m2 * c.exitArea_m2) / (p * p);
  p -= p * (c.exitEventShare === 0 ? headOfSquare(X) : pulseHead(X, c.exitEventShare)) * c.exitPulsation;
  if (p > 0) return p;
  if (ends) Object.assign(ends, { where: 'exit', code: 'choked' });
  return NaN;
}

const NOTHING = 0;
const PIPE = 2;
const FILTER = 3;
const BLOCKED = 4;

function endAt(ends: WhereItEnds | undefined, c: CompiledPath, at: number, code: WhereItEnds['code']): number {
  if (ends) Object.assign(ends, { where: c.rows[at / FIGURES]!.what, code });
  return NaN;
}

/** Pressure at the end of a compiled path, Pa; NaN where it chokes. For solvers: no allocation, no reasons. */
export function endPressure(c: CompiledPath, massFlow_kgps: number, p0_Pa: number, T0_K: number): number {
  return walk(c, massFlow_kgps, p0_Pa, T0_K);
}

export interface Ladder {
  /** Row names in order: part, junction (`a>b`), part, … */
  readonly what: readonly string[];
  /** For each row: the part it belongs to, or follows. */
  readonly part: readonly number[];
  readonly junction: readonly boolean[];
  readonly dp_Pa: readonly number[];
  /** Stagnation pressure after each row, Pa. */
  readonly running_Pa: readonly number[];
  /** Dynamic head lost at the end, Pa. */
  readonly exit_Pa: number;
  readonly end_Pa: number;
  readonly total_Pa: number;
}

/** The ladder of a compiled path at a flow; `choked` or `blocked` with the row it happened in. Airflow basis §5. */
export function ladderOf(c: CompiledPath, massFlow_kgps: number, p0_Pa: number, T0_K: number): Ladder | Failure {
  const dp_Pa: number[] = [];
  const running_Pa: number[] = [];
  const ends: WhereItEnds = { where: null, code: 'choked' };
  const end_Pa = walk(c, massFlow_kgps, p0_Pa, T0_K, ends, dp_Pa, running_Pa);
  if (Number.isNaN(end_Pa)) return failure(ends.code, ends.where ? { where: ends.where } : {});
  return {
    what: c.rows.map((r) => r.what),
    part: c.rows.map((r) => r.part),
    junction: c.rows.map((r) => r.junction),
    dp_Pa,
    running_Pa,
    exit_Pa: (running_Pa.at(-1) ?? p0_Pa) - end_Pa,
    end_Pa,
    total_Pa: p0_Pa - end_Pa,
  };
}

/**
 * Pressure lost in every part and junction of an intake at a mass flow (kg/s) from stagnation (Pa, K), in order, and
 * the pressure at its end. The rows and the exit add up to the total exactly. Airflow basis §5.
 */
export function pathLadder(path: Path, massFlow_kgps: number, p0_Pa: number, T0_K: number, end: PathEnd = 'dump'): Ladder | Failure {
  if (!(massFlow_kgps >= 0) || !(p0_Pa > 0) || !(T0_K > 0)) return failure('bad_input');
  const compiled = compilePath(path, end);
  return isFailure(compiled) ? compiled : ladderOf(compiled, massFlow_kgps, p0_Pa, T0_K);
}

/** Capacity is found to this share of itself. */
const CAPACITY_TOLERANCE = 1e-13;

/** Largest flow, kg/s, for which a compiled path has an answer (0 when blocked). */
export function compiledCapacity(c: CompiledPath, p0_Pa: number, T0_K: number): number {
  let high = 1;
  while (!Number.isNaN(endPressure(c, high, p0_Pa, T0_K)) && high < 1e6) high *= 4;
  if (Number.isNaN(endPressure(c, high * 1e-9, p0_Pa, T0_K))) return 0;
  return fallingRoot((m) => (Number.isNaN(endPressure(c, m, p0_Pa, T0_K)) ? NaN : 1), high * 1e-9, high, CAPACITY_TOLERANCE).x;
}

/**
 * A ladder whose end lies lower than its flow alone would leave it, because what chokes (a row's name; null: the exit) passes no
 * more however low the pressure behind it: the rest is lost there. Unchanged where the end does not lie lower.
 */
export function drawnDown(ladder: Ladder, row: string | null, end_Pa: number): Ladder {
  const more = ladder.end_Pa - end_Pa;
  if (!(more > 0)) return ladder;
  const at = row === null ? -1 : ladder.what.indexOf(row);
  return {
    ...ladder,
    dp_Pa: ladder.dp_Pa.map((dp, i) => (i === at ? dp + more : dp)),
    running_Pa: ladder.running_Pa.map((p, i) => (at >= 0 && i >= at ? p - more : p)),
    exit_Pa: at < 0 ? ladder.exit_Pa + more : ladder.exit_Pa,
    end_Pa,
    total_Pa: ladder.total_Pa + more,
  };
}

/** A hair more than a path passes, to find where it chokes. */
const JUST_BEYOND = 1 + 1e-6;

/**
 * Name of the part that chokes in a compiled path of that capacity (kg/s): of a step between two the narrower one; null: nothing
 * does, or only the exit.
 */
export function chokingPart(c: CompiledPath, capacity_kgps: number, p0_Pa: number, T0_K: number): string | null {
  const what = chokingRow(c, capacity_kgps, p0_Pa, T0_K);
  const row = c.rows.find((r) => r.what === what);
  if (!row?.junction) return what;
  const own = (part: number): number => c.rows.find((r) => !r.junction && r.part === part)?.area_m2 ?? Infinity;
  const part = own(row.part) <= own(row.part + 1) ? row.part : row.part + 1;
  return c.rows.find((r) => !r.junction && r.part === part)?.what ?? what;
}

/** Name of the row at which a compiled path of that capacity (kg/s) chokes; null: nothing does. */
export function chokingRow(c: CompiledPath, capacity_kgps: number, p0_Pa: number, T0_K: number): string | null {
  const beyond = ladderOf(c, capacity_kgps * JUST_BEYOND, p0_Pa, T0_K);
  return isFailure(beyond) && 'where' in beyond ? String(beyond.where) : null;
}

/** Largest flow, kg/s, that a path passes at all. Airflow basis §4–5. */
export function pathCapacity(path: Path, p0_Pa: number, T0_K: number, end: PathEnd = 'dump'): number | Failure {
  const compiled = compilePath(path, end);
  return isFailure(compiled) ? compiled : compiledCapacity(compiled, p0_Pa, T0_K);
}
