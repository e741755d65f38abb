import { failure, isFailure, type Failure } from '../failure';
import { compilePath, EMPTY_PATH, type CompiledPath } from '../flow/compile';
import { endPressure } from '../flow/ladder';
import type { Path } from '../flow/path';
import {
  boostedCandidate,
  boostedReference,
  engineFlow,
  settled,
  type BoostedEngine,
  type BoostedReference,
  type BoostedResult,
  type BoostedSetup,
  type IntakePaths,
  type Point,
  type PointSolver,
} from './boosted';
import { FULL_STEP } from './flow-root';
import { inletTemperature } from './input';
import { ADIABATIC_EFFICIENCY, BELT_EFFICIENCY, cooledT, coolerFigures, compressedT } from './charge';

/** A centrifugal compressor on a belt: its pressure ratio at one engine speed fixes it at all. */
export interface CentrifugalCompressor {
  readonly pressureRatio: number;
  /** Engine speed at which it makes that ratio, rpm. */
  readonly rpm: number;
  readonly etaAd?: number | undefined;
  readonly beltEfficiency?: number | undefined;
}
export interface CentrifugalEngine extends BoostedEngine {
  readonly compressor: CentrifugalCompressor;
}

/** A turbocharger whose wastegate holds a pressure. */
export interface TurboCompressor {
  /** Absolute, Pa; one number, or one per rpm. */
  readonly target_Pa: number | readonly number[];
  readonly targetAt: 'plenum' | 'compressor';
  readonly etaAd?: number | undefined;
}
export interface TurboEngine extends BoostedEngine {
  readonly compressor: TurboCompressor;
}

const pathOrEmpty = (paths: IntakePaths): CompiledPath => paths.after ?? EMPTY_PATH;

/** Pressure ratio of a centrifugal at an engine speed: PR − 1 grows with its square. Airflow basis §8. */
export function centrifugalRatio(c: CentrifugalCompressor, rpm: number): number {
  return 1 + (c.pressureRatio - 1) * (rpm / c.rpm) ** 2;
}

function centrifugalPoint(input: CentrifugalEngine): PointSolver {
  const T1 = inletTemperature(input);
  const p0 = input.ambient.p_Pa;
  const cooler = coolerFigures(input.cooler);
  const etaAd = input.compressor.etaAd ?? ADIABATIC_EFFICIENCY.centrifugal;
  return ({ rpm, paths, eta, coolerLoss, base, search }) => {
    const ratio = centrifugalRatio(input.compressor, rpm);
    if (ratio < 1) return 'no_boost';
    const T2 = compressedT(T1, ratio, etaAd);
    const Tm = cooledT(T2, cooler);
    const after = pathOrEmpty(paths);
    const at = (m: number): Point => {
      const inlet = endPressure(paths.before, m, p0, T1);
      const start = ratio * inlet - coolerLoss(m);
      return { m, inlet, out: ratio * inlet, T2, Tm, p: start > 0 ? endPressure(after, m, start, Tm) : NaN, etaBlower: NaN };
    };
    const draws = ({ p, m }: Point): number => engineFlow(input, rpm, eta(p, m), p, Tm);
    return (
      search.point(
        at,
        (point, m) => draws(point) - m,
        base,
        (near, m) => settled(near, m, draws(near)),
      ) ?? 'choked'
    );
  };
}

const FLOW_STEPS = 60;
/** The inner search is held to this share of the outer one's step. */
const CONTRACTION_SHARE = 1e-4;

/** Boost held at the compressor's outlet: the throttle's loss comes off the plenum. */
function outletHeld(input: TurboEngine): PointSolver {
  const T1 = inletTemperature(input);
  const p0 = input.ambient.p_Pa;
  const cooler = coolerFigures(input.cooler);
  const etaAd = input.compressor.etaAd ?? ADIABATIC_EFFICIENCY.turbo;
  return ({ index, rpm, paths, eta, coolerLoss, base, search }) => {
    const out = targetAt(input.compressor, index);
    const after = pathOrEmpty(paths);
    const at = (m: number): Point => {
      const inlet = endPressure(paths.before, m, p0, T1);
      const T2 = compressedT(T1, out / inlet, etaAd);
      const Tm = cooledT(T2, cooler);
      const start = out - coolerLoss(m);
      return { m, inlet, out, T2, Tm, p: start > 0 ? endPressure(after, m, start, Tm) : NaN, etaBlower: NaN };
    };
    const draws = ({ p, m, Tm }: Point): number => engineFlow(input, rpm, eta(p, m), p, Tm);
    const point = search.point(
      at,
      (found, m) => draws(found) - m,
      base,
      (near, m) => settled(near, m, draws(near)),
    );
    if (point === null) return 'choked';
    return point.out / point.inlet < 1 ? 'no_boost' : point;
  };
}

/**
 * Boost held at the plenum: the compressor works as hard as the losses ask. Solved in 1/PR, along which the plenum
 * pressure falls: where a section chokes at too low a ratio the pressure has no value, and the edge of that is no root.
 */
function plenumHeld(input: TurboEngine): PointSolver {
  const T1 = inletTemperature(input);
  const p0 = input.ambient.p_Pa;
  const cooler = coolerFigures(input.cooler);
  const etaAd = input.compressor.etaAd ?? ADIABATIC_EFFICIENCY.turbo;
  return ({ index, rpm, paths, eta, coolerLoss, base, search }) => {
    const target = targetAt(input.compressor, index);
    const after = pathOrEmpty(paths);
    let near = base;
    const at = (ratio: number): Point => {
      const T2 = compressedT(T1, ratio, etaAd);
      const Tm = cooledT(T2, cooler);
      const m = flowAtPlenum(input, rpm, eta, target, Tm, near);
      near = m;
      const inlet = endPressure(paths.before, m, p0, T1);
      const start = ratio * inlet - coolerLoss(m);
      return { m, inlet, out: ratio * inlet, T2, Tm, p: start > 0 ? endPressure(after, m, start, Tm) : NaN, etaBlower: NaN };
    };
    const surplus = ({ p }: Point): number => (p - target) / target;
    // The plenum is the target wherever the search ends; the flow hardly hangs on the ratio.
    const point = search.point(
      (u) => at(1 / u),
      surplus,
      Math.min(0.999, (0.97 * p0) / target),
      (near) => near,
    );
    if (point === null) return surplus(at(1)) > 0 ? 'no_boost' : 'choked';
    return point.out < point.inlet ? 'no_boost' : { ...point, p: target };
  };
}

/** Flow at a known manifold state, where only the residual gas still hangs on the flow itself: a contraction. */
function flowAtPlenum(
  input: TurboEngine,
  rpm: number,
  eta: (p: number, m: number) => number,
  p_Pa: number,
  T_K: number,
  guess: number,
): number {
  const close = (input.flowStep ?? FULL_STEP) * CONTRACTION_SHARE;
  const step = (m: number): number => engineFlow(input, rpm, eta(p_Pa, m), p_Pa, T_K);
  let m = guess;
  for (let i = 0; i < FLOW_STEPS; i += 1) {
    const once = step(m);
    if (Math.abs(once - m) <= close * once) return once;
    const twice = step(once);
    // Aitken: two steps of a contraction tell where all the others would lead.
    const bend = twice - 2 * once + m;
    const next = bend === 0 ? twice : m - (once - m) ** 2 / bend;
    if (Math.abs(next - twice) <= close * next) return next;
    m = next;
  }
  return m;
}

const targetAt = (c: TurboCompressor, index: number): number => (typeof c.target_Pa === 'number' ? c.target_Pa : c.target_Pa[index]!);

const turboPoint = (input: TurboEngine): PointSolver => (input.compressor.targetAt === 'plenum' ? plenumHeld(input) : outletHeld(input));

export type CentrifugalReference = BoostedReference & {
  readonly kind: 'centrifugal';
  readonly input: CentrifugalEngine;
  readonly before: CompiledPath;
};
export type TurboReference = BoostedReference & { readonly kind: 'turbo'; readonly input: TurboEngine; readonly before: CompiledPath };

/**
 * A belt-driven centrifugal with the throttle after it, as it is. `before` ends at the compressor, `after` starts behind
 * the cooler. `choked`, or `no_boost` where the compressor would have to work at a ratio below 1. Airflow basis §8.
 */
export function solveCentrifugalReference(
  input: CentrifugalEngine,
  before: CompiledPath,
  after: CompiledPath,
): CentrifugalReference | Failure {
  const { pressureRatio, rpm } = input.compressor;
  if (!(pressureRatio > 0) || !(rpm > 0)) return failure('bad_input', { where: 'compressor' });
  const setup: BoostedSetup = {
    input,
    solvePoint: centrifugalPoint(input),
    beltEfficiency: input.compressor.beltEfficiency ?? BELT_EFFICIENCY,
  };
  const ref = boostedReference(setup, { before, after });
  return isFailure(ref) ? ref : { ...ref, kind: 'centrifugal', input, before };
}

/** A wastegated turbo with the throttle after it, as it is. Airflow basis §8. */
export function solveTurboReference(input: TurboEngine, before: CompiledPath, after: CompiledPath): TurboReference | Failure {
  const { target_Pa } = input.compressor;
  const targets = typeof target_Pa === 'number' ? [target_Pa] : target_Pa;
  if (!targets.every((t) => t > 0)) return failure('bad_input', { where: 'target' });
  if (typeof target_Pa !== 'number' && target_Pa.length !== input.rpm.length) return failure('bad_input', { where: 'target' });
  const ref = boostedReference({ input, solvePoint: turboPoint(input), beltEfficiency: null }, { before, after });
  return isFailure(ref) ? ref : { ...ref, kind: 'turbo', input, before };
}

/** The same engine with another path after the cooler, or also before the compressor. */
export function solveBlowThroughCandidate(
  ref: CentrifugalReference | TurboReference,
  after: CompiledPath,
  before: CompiledPath = ref.before,
): BoostedResult | Failure {
  return boostedCandidate(ref, { before, after });
}

export { centrifugalPoint, turboPoint };

interface BlowThroughPaths {
  readonly before: Path;
  readonly candidateBefore?: Path | undefined;
  readonly reference: Path;
  readonly candidate: Path;
}

function solveBoth(
  paths: BlowThroughPaths,
  reference: (before: CompiledPath, after: CompiledPath) => CentrifugalReference | TurboReference | Failure,
): { reference: BoostedResult; candidate: BoostedResult; flowBase_kgps: number } | Failure {
  const before = compilePath(paths.before, 'compressor');
  if (isFailure(before)) return { ...before, side: 'reference' };
  const after = compilePath(paths.reference);
  if (isFailure(after)) return { ...after, side: 'reference' };
  const otherBefore = paths.candidateBefore ? compilePath(paths.candidateBefore, 'compressor') : before;
  if (isFailure(otherBefore)) return { ...otherBefore, side: 'candidate' };
  const otherAfter = compilePath(paths.candidate);
  if (isFailure(otherAfter)) return { ...otherAfter, side: 'candidate' };
  const ref = reference(before, after);
  if (isFailure(ref)) return ref;
  const candidate = solveBlowThroughCandidate(ref, otherAfter, otherBefore);
  return isFailure(candidate) ? candidate : { reference: ref.result, candidate, flowBase_kgps: ref.flowBase_kgps };
}

/** Reference and candidate in one call. */
export const solveCentrifugal = (input: CentrifugalEngine & BlowThroughPaths): ReturnType<typeof solveBoth> =>
  solveBoth(input, (before, after) => solveCentrifugalReference(input, before, after));

export const solveTurbo = (input: TurboEngine & BlowThroughPaths): ReturnType<typeof solveBoth> =>
  solveBoth(input, (before, after) => solveTurboReference(input, before, after));
