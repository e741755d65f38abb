import type { Failure } from '../failure';
import { isFailure } from '../failure';
import { compilePath, EMPTY_PATH, type CompiledPath } from '../flow/compile';
import type { Path } from '../flow/path';
import {
  centrifugalPoint,
  solveBlowThroughCandidate,
  solveCentrifugal,
  solveCentrifugalReference,
  solveTurbo,
  solveTurboReference,
  turboPoint,
  type CentrifugalEngine,
  type CentrifugalReference,
  type TurboEngine,
  type TurboReference,
} from './blow-through';
import { boostedCandidate, type BoostedResult, type PointSolver } from './boosted';
import {
  drawThroughPoint,
  solveDrawThrough,
  solveDrawThroughCandidate,
  solveDrawThroughReference,
  type DrawThroughEngine,
  type DrawThroughReference,
} from './draw-through';
import { solveNa, solveNaCandidate, solveNaReference, type NaEngine, type NaReference, type NaResult } from './na';

/** The ways of filling a cylinder that the core solves. Individual throttles are naturally aspirated on a pulsating path. */
export type EngineProblem =
  | { readonly kind: 'na'; readonly input: NaEngine }
  | { readonly kind: 'drawThrough'; readonly input: DrawThroughEngine }
  | { readonly kind: 'centrifugal'; readonly input: CentrifugalEngine }
  | { readonly kind: 'turbo'; readonly input: TurboEngine };
export type SolveKind = EngineProblem['kind'];

export type EngineReference = NaReference | DrawThroughReference | CentrifugalReference | TurboReference;
/** What every kind of solved side has: mass flow, plenum pressure, power and torque over rpm, and more by kind. */
export type SideResult = NaResult | BoostedResult;

/** An intake made ready: the path the throttle is in, and what lies before a compressor. */
export interface CompiledIntake {
  readonly before: CompiledPath | null;
  readonly path: CompiledPath;
}

/** Solves the engine as it is. Airflow basis §8. */
export function solveReference(problem: EngineProblem, intake: CompiledIntake): EngineReference | Failure {
  switch (problem.kind) {
    case 'na':
      return solveNaReference(problem.input, intake.path);
    case 'drawThrough':
      return solveDrawThroughReference(problem.input, intake.path);
    case 'centrifugal':
      return solveCentrifugalReference(problem.input, intake.before ?? EMPTY_PATH, intake.path);
    case 'turbo':
      return solveTurboReference(problem.input, intake.before ?? EMPTY_PATH, intake.path);
  }
}

/** The same engine with another path where its throttle is (and, for a compressor before it, perhaps another one there). */
export function solveCandidate(ref: EngineReference, path: CompiledPath, before?: CompiledPath | null): SideResult | Failure {
  switch (ref.kind) {
    case 'na':
      return solveNaCandidate(ref, path);
    case 'drawThrough':
      return solveDrawThroughCandidate(ref, path);
    default:
      return solveBlowThroughCandidate(ref, path, before ?? ref.before);
  }
}

/**
 * A reference's engine on a path with another boost: what the problem `changed` says of blower, ratio or target, the
 * reference's own efficiency, friction and largest flow held. For a naturally aspirated engine nothing changes.
 */
export function solveChanged(ref: EngineReference, changed: EngineProblem, path: CompiledPath): SideResult | Failure {
  if (ref.kind === 'na') return solveNaCandidate(ref, path);
  const point = changedPoint(changed);
  if (point === null) return solveCandidate(ref, path);
  const paths = ref.kind === 'drawThrough' ? { before: path, after: null } : { before: ref.before, after: path };
  return boostedCandidate(ref, paths, point);
}

function changedPoint(changed: EngineProblem): PointSolver | null {
  switch (changed.kind) {
    case 'na':
      return null;
    case 'drawThrough':
      return drawThroughPoint(changed.input);
    case 'centrifugal':
      return centrifugalPoint(changed.input);
    case 'turbo':
      return turboPoint(changed.input);
  }
}

/** A solver's whole input, reference and candidate paths included. */
export type Solve = EngineProblem['input'] & {
  readonly reference: Path;
  readonly candidate: Path;
  readonly before?: Path | undefined;
  readonly candidateBefore?: Path | undefined;
};

export const isBoosted = (r: SideResult): r is BoostedResult => 'pressureRatio' in r;

/** Reference of a whole solver input. */
export function referenceOf(kind: SolveKind, solve: Solve): EngineReference | Failure {
  const path = compilePath(solve.reference);
  if (isFailure(path)) return { ...path, side: 'reference' };
  const before = solve.before ? compilePath(solve.before, 'compressor') : null;
  if (isFailure(before)) return { ...before, side: 'reference' };
  return solveReference({ kind, input: solve } as EngineProblem, { before, path });
}

export { solveCentrifugal, solveDrawThrough, solveNa, solveTurbo };
