import { failure, isFailure, type Failure, type FailureCode } from '../failure';
import { compilePath, EMPTY_PATH, type CompiledPath } from '../flow/compile';
import { compiledCapacity, endPressure } from '../flow/ladder';
import type { Path } from '../flow/path';
import { fallingRoot } from '../numbers/root';
import {
  boostedCandidate,
  boostedReference,
  engineFlow,
  settled,
  swallowingPressure,
  type BoostedEngine,
  type BoostedReference,
  type BoostedResult,
  type BoostedSetup,
  type IntakePaths,
  type Point,
  type EngineFlow,
  type PointSolver,
  type PointTask,
} from './boosted';
import { FULL_STEP } from './flow-root';
import { inletTemperature, JUST_WITHIN } from './input';
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
function centrifugalRatio(c: CentrifugalCompressor, rpm: number): number {
  return 1 + (c.pressureRatio - 1) * (rpm / c.rpm) ** 2;
}

/** A choking path's largest flow is looked for up to this many times the flow expected. */
const CAPACITY_REACH = 100;

/**
 * The largest flow at which `at` still has a plenum pressure, with the plenum drawn down to where the engine swallows just
 * that; null where the path passes what is asked of it.
 */
function heldByPath(task: PointTask, flow: EngineFlow, at: (m: number) => Point): Point | null {
  const within = (m: number): number => (Number.isNaN(at(m).p) ? NaN : 1);
  const least = task.base * 1e-6;
  if (Number.isNaN(within(least)) || !Number.isNaN(within(task.base * CAPACITY_REACH))) return null;
  const m = fallingRoot(within, least, task.base * CAPACITY_REACH, 1e-13).x * JUST_WITHIN;
  const most = at(m);
  const p = swallowingPressure(task, flow, m, most.Tm, most.p);
  return p === null ? null : { ...most, p, held: 'choked' };
}

/**
 * One engine speed at a pressure ratio that is told for every flow. `held` where its path chokes and that is a limit.
 */
function atToldRatio(task: PointTask, flow: EngineFlow, at: (m: number) => Point, asLimit: boolean): Point | 'choked' {
  const draws = ({ p, m, Tm }: Point): number => flow(task.rpm, task.eta(p, m), p, Tm);
  const point = task.search.point(
    at,
    (found, m) => draws(found) - m,
    task.base,
    (near, m) => settled(near, m, draws(near)),
  );
  return point ?? (asLimit ? heldByPath(task, flow, at) : null) ?? 'choked';
}

/** The states of a blow-through engine at one rpm along its flow, at a pressure ratio that may hang on the inlet's pressure. */
function statesOf(
  input: BoostedEngine,
  etaAd: number,
): (task: PointTask, ratioAt: (inlet_Pa: number, m: number) => number) => (m: number) => Point {
  const T1 = inletTemperature(input);
  const p0 = input.ambient.p_Pa;
  const cooler = coolerFigures(input.cooler);
  return ({ paths, coolerLoss }, ratioAt) => {
    const after = pathOrEmpty(paths);
    return (m) => {
      const inlet = endPressure(paths.before, m, p0, T1);
      const ratio = ratioAt(inlet, m);
      const T2 = compressedT(T1, ratio, etaAd);
      const Tm = cooledT(T2, cooler);
      const out = ratio * inlet;
      const start = out - coolerLoss(m);
      return { m, inlet, out, T2, Tm, p: start > 0 ? endPressure(after, m, start, Tm) : NaN, etaBlower: NaN };
    };
  };
}

/** The compressor adds nothing: air goes through it as through a pipe. */
function adding(input: BoostedEngine, etaAd: number, flow: EngineFlow): (task: PointTask) => Point | FailureCode {
  const states = statesOf(input, etaAd);
  return (task) => {
    if (!input.chokedAsLimit) return 'no_boost';
    const point = atToldRatio(
      task,
      flow,
      states(task, () => 1),
      true,
    );
    return typeof point === 'string' ? point : { ...point, held: point.held ?? 'without' };
  };
}

function centrifugalPoint(input: CentrifugalEngine): PointSolver {
  const etaAd = input.compressor.etaAd ?? ADIABATIC_EFFICIENCY.centrifugal;
  const states = statesOf(input, etaAd);
  const flow = engineFlow(input);
  const nothing = adding(input, etaAd, flow);
  return (task) => {
    const ratio = centrifugalRatio(input.compressor, task.rpm);
    if (ratio < 1) return nothing(task);
    return atToldRatio(
      task,
      flow,
      states(task, () => ratio),
      input.chokedAsLimit === true,
    );
  };
}

const FLOW_STEPS = 60;
/** The inner search is held to this share of the outer one's step. */
const CONTRACTION_SHARE = 1e-4;

/** Boost held at the compressor's outlet: the throttle's loss comes off the plenum. */
function outletHeld(input: TurboEngine): PointSolver {
  const etaAd = input.compressor.etaAd ?? ADIABATIC_EFFICIENCY.turbo;
  const states = statesOf(input, etaAd);
  const flow = engineFlow(input);
  const nothing = adding(input, etaAd, flow);
  return (task) => {
    const target = targetAt(input.compressor, task.index);
    const point = atToldRatio(
      task,
      flow,
      states(task, (inlet) => target / inlet),
      input.chokedAsLimit === true,
    );
    return typeof point !== 'string' && point.out / point.inlet < 1 ? nothing(task) : point;
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
  const flow = engineFlow(input);
  const nothing = adding(input, etaAd, flow);
  return (task) => {
    const { index, rpm, paths, eta, coolerLoss, base, search } = task;
    const target = targetAt(input.compressor, index);
    const after = pathOrEmpty(paths);
    let near = base;
    const stateAt = (m: number, ratio: number, T2 = compressedT(T1, ratio, etaAd), Tm = cooledT(T2, cooler)): Point => {
      const inlet = endPressure(paths.before, m, p0, T1);
      const start = ratio * inlet - coolerLoss(m);
      return { m, inlet, out: ratio * inlet, T2, Tm, p: start > 0 ? endPressure(after, m, start, Tm) : NaN, etaBlower: NaN };
    };
    const at = (ratio: number): Point => {
      const T2 = compressedT(T1, ratio, etaAd);
      const Tm = cooledT(T2, cooler);
      near = flowAtPlenum(flow, rpm, eta, target, Tm, near, input.flowStep ?? FULL_STEP);
      return stateAt(near, ratio, T2, Tm);
    };
    const surplus = ({ p }: Point): number => (p - target) / target;
    /** What lies before the compressor chokes: it passes what it passes, and the boost falls short of its target. */
    const chokedPoint = (): Point | FailureCode => {
      const m = (search.capacity_kgps ??= compiledCapacity(paths.before, p0, T1) * JUST_WITHIN);
      if (!(m > 0)) return 'choked';
      /** Plenum pressure at which the engine swallows it, whatever the target: hot air asks for more. */
      const asks = ({ Tm }: Point): number | null => swallowingPressure(task, flow, m, Tm, HIGHEST_RATIO * target);
      const spare = (u: number): number => {
        const point = stateAt(m, 1 / u);
        const asked = asks(point);
        return asked === null ? NaN : point.p - asked;
      };
      if (!(spare(1 / HIGHEST_RATIO) >= 0)) return 'choked';
      if (spare(1) > 0) return nothing(task);
      const point = stateAt(m, 1 / fallingRoot(spare, 1 / HIGHEST_RATIO, 1).x);
      const p = asks(point);
      // Asked for more than the target, the path is not what holds the engine.
      return p === null || p > target ? 'choked' : { ...point, p, held: 'choked' };
    };
    /**
     * What lies behind the compressor chokes: it passes the flow as soon as the air ahead of it is dense enough, whatever the
     * pressure behind it, and the plenum is held there all the same.
     */
    const chokedBehind = (): Point | FailureCode => {
      const least = 1 / HIGHEST_RATIO;
      if (!(surplus(at(HIGHEST_RATIO)) > 0)) return 'choked';
      let passing: Point | null = null;
      fallingRoot(
        (u) => {
          const point = at(1 / u);
          const spare = surplus(point);
          if (spare > 0) passing = point;
          return spare;
        },
        least,
        1,
      );
      return passing === null ? 'choked' : { ...(passing as Point), p: target, held: 'choked' };
    };
    if (search.capacity_kgps !== null && at(1).m > search.capacity_kgps) {
      const known = chokedPoint();
      if (typeof known !== 'string') return known;
    }
    // The plenum is the target wherever the search ends; the flow hardly hangs on the ratio.
    const point = search.point(
      (u) => at(1 / u),
      surplus,
      Math.min(0.999, (0.97 * p0) / target),
      (found) => found,
    );
    if (point === null) {
      if (surplus(at(1)) > 0) return nothing(task);
      if (!input.chokedAsLimit) return 'choked';
      // The path ahead first: air made hot enough for its flow to fill the plenum is no way out of a restrictor.
      const ahead = chokedPoint();
      return typeof ahead === 'string' ? chokedBehind() : ahead;
    }
    return point.out < point.inlet ? nothing(task) : { ...point, p: target };
  };
}

/** Pressure ratios looked for end here. */
const HIGHEST_RATIO = 30;

/** Flow at a known manifold state, where only the residual gas still hangs on the flow itself: a contraction. */
function flowAtPlenum(
  flow: EngineFlow,
  rpm: number,
  eta: (p: number, m: number) => number,
  p_Pa: number,
  T_K: number,
  guess: number,
  flowStep: number,
): number {
  const close = flowStep * CONTRACTION_SHARE;
  const step = (m: number): number => flow(rpm, eta(p_Pa, m), p_Pa, T_K);
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
