import { failure, isFailure, type Failure, type FailureCode } from '../failure';
import { compilePath, type CompiledPath } from '../flow/compile';
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
  type Point,
  type PointSolver,
  type PointTask,
} from './boosted';
import { FlowSearch } from './flow-root';
import { engineGas, inletTemperature, JUST_WITHIN } from './input';
import { ADIABATIC_EFFICIENCY, BELT_EFFICIENCY, cooledT, coolerFigures, compressedT } from './charge';

/** A positive-displacement blower, belt-driven. */
export interface Blower {
  /** Displacement per blower revolution, m³. */
  readonly displacement_m3: number;
  /** Blower revolutions per crank revolution. */
  readonly ratio: number;
  /** Volumetric efficiency at a pressure ratio of 1, and what it loses per unit of pressure ratio at the highest rpm. */
  readonly eta0?: number | undefined;
  readonly k?: number | undefined;
  /** Blower speed, rpm, at which `k` is told (its speed at the highest engine speed). */
  readonly slipAt_rpm?: number | undefined;
  readonly etaAd?: number | undefined;
  readonly beltEfficiency?: number | undefined;
}

/** Airflow basis §8. */
export const BLOWER_DEFAULTS = { eta0: 0.94, k: 0.04 } as const;
/** Blower speed at which its slip is told until someone says another, rpm. Airflow basis §8. */
export const SLIP_AT_rpm = 12_000;

export interface DrawThroughEngine extends BoostedEngine {
  readonly blower: Blower;
  /** Gauge boost measured with the reference at each rpm, Pa: calibrates the efficiency in place of `manifoldVe`. */
  readonly boost_Pa?: readonly number[] | undefined;
}

/** Slip this small counts as none: then the blower alone decides the flow. */
const NO_SLIP = 1e-9;
/** Highest pressure ratio looked for where there is no slip to bound it. */
const HIGHEST_RATIO = 30;

interface BlowerAtRpm {
  /** Blower's swept rate over R·T₁: flow per pascal of p₁ at an efficiency of 1, kg/s/Pa. */
  readonly perPa: number;
  readonly eta0: number;
  /** Efficiency lost per unit of pressure ratio at this rpm. */
  readonly slip: number;
}

function blowerOver(input: DrawThroughEngine, ratio: number): (rpm: number) => BlowerAtRpm {
  const { displacement_m3, eta0 = BLOWER_DEFAULTS.eta0, k = BLOWER_DEFAULTS.k } = input.blower;
  const highest = input.rpm.reduce((a, b) => Math.max(a, b), 0);
  const RT = engineGas(input) * inletTemperature(input);
  const told_rpm = input.blower.slipAt_rpm;
  const slipAt = (rpm: number): number => (told_rpm === undefined ? (k * highest) / rpm : (k * told_rpm) / (rpm * ratio));
  return (rpm) => ({ perPa: (displacement_m3 * ((rpm * ratio) / 60)) / RT, eta0, slip: slipAt(rpm) });
}

type Charge = (task: PointTask, m: number, p1: number, ratio: number, etaBlower: number) => Point;

/** State of the charge behind blower and cooler at a flow and a pressure ratio. */
function chargeOf(input: DrawThroughEngine): Charge {
  const etaAd = input.blower.etaAd ?? ADIABATIC_EFFICIENCY.roots;
  const T1 = inletTemperature(input);
  const cooler = coolerFigures(input.cooler);
  return (task, m, p1, ratio, etaBlower) => {
    const out = ratio * p1;
    const T2 = compressedT(T1, ratio, etaAd);
    return { m, inlet: p1, out, T2, Tm: cooledT(T2, cooler), p: out - task.coolerLoss(m), etaBlower };
  };
}

const choking = (path: CompiledPath, m: number, p0: number, T0: number): boolean => Number.isNaN(endPressure(path, m * (1 + 1e-9), p0, T0));

/**
 * One engine speed of a draw-through engine: the flow at which the blower's slip gives just the boost that makes the
 * engine swallow it. With slip, the flow alone fixes the pressure ratio, and what the engine would draw falls as it rises.
 */
function drawPoint(input: DrawThroughEngine, ratio: number): PointSolver {
  const charge = chargeOf(input);
  const blowerAt = blowerOver(input, ratio);
  const flow = engineFlow(input);
  const T1 = inletTemperature(input);
  const p0 = input.ambient.p_Pa;
  return (task) => {
    const { perPa, eta0, slip } = blowerAt(task.rpm);
    const path = task.paths.before;
    const draws = (point: Point): number => (point.p > 0 ? flow(task.rpm, task.eta(point.p, point.m), point.p, point.Tm) : 0);
    const held = (code: 'choked' | 'no_blower_solution'): Point | typeof code => {
      if (!input.chokedAsLimit) return code;
      return code === 'choked' ? chokedPoint() : (bypassed() ?? code);
    };
    const atRatio = (m: number, r: number): Point => {
      const etaBlower = Math.max(1e-9, eta0 - slip * (r - 1));
      return charge(task, m, m / (perPa * etaBlower), r, etaBlower);
    };
    /** The path passes what it passes; the pressure before the blower falls until blower and engine move just that. */
    const chokedPoint = (): Point | 'choked' => {
      const m = (task.search.capacity_kgps ??= compiledCapacity(path, p0, T1) * JUST_WITHIN);
      if (!(m > 0)) return 'choked';
      const spare = (r: number): number => m - draws(atRatio(m, r));
      const highest = slip < NO_SLIP ? HIGHEST_RATIO : Math.min(HIGHEST_RATIO, 1 + (eta0 / slip) * (1 - 1e-9));
      if (spare(1) >= 0 && spare(highest) <= 0) return { ...atRatio(m, fallingRoot(spare, 1, highest).x), held: 'choked' };
      const open = charge(task, m, endPressure(path, m, p0, T1), 1, eta0);
      const p = swallowingPressure(task, flow, m, open.Tm, open.out);
      return p === null ? 'choked' : { ...open, p, held: 'choked' };
    };
    /** The engine swallows more than the blower moves: the by-pass stands open and the blower adds nothing. */
    const bypassed = (): Point | null => {
      const at = (m: number): Point => charge(task, m, endPressure(path, m, p0, T1), 1, eta0);
      const m = task.search.root((x) => draws(at(x)) - x, task.base);
      return Number.isNaN(m) ? null : { ...at(m), held: 'without' };
    };
    if (slip < NO_SLIP) {
      const point = noSlip(task, perPa * eta0, path, draws, (m, p1, r) => charge(task, m, p1, r, eta0), p0, T1);
      return typeof point === 'string' ? held(point) : point;
    }
    const at = (m: number): Point | null => {
      const p1 = endPressure(path, m, p0, T1);
      if (Number.isNaN(p1)) return null;
      const etaBlower = m / (perPa * p1);
      return charge(task, m, p1, Math.max(1e-3, 1 + (eta0 - etaBlower) / slip), etaBlower);
    };
    if (task.search.capacity_kgps !== null) {
      const m = task.search.capacity_kgps;
      const most = at(m);
      if (most !== null && draws(most) > m) return chokedPoint();
    }
    const point = task.search.point(
      at,
      (found, m) => draws(found) - m,
      task.base,
      (near, m) => settled(near, m, draws(near)),
    );
    if (point === null) return held(wallCode(path, eta0 * perPa, p0, T1));
    return point.out / point.inlet < 1 ? held('no_blower_solution') : point;
  };
}

/** A search that ended on a wall: the path chokes before the blower has moved what it could at a pressure ratio of 1. */
function wallCode(path: CompiledPath, perPa: number, p0: number, T1: number): 'choked' | 'no_blower_solution' {
  const m = fallingRoot((x) => perPa * endPressure(path, x, p0, T1) - x, perPa * p0 * 1e-6, perPa * p0 * 1.01).x;
  return choking(path, m, p0, T1) ? 'choked' : 'no_blower_solution';
}

/** Without slip the blower fixes the flow and the engine the pressure ratio. */
function noSlip(
  task: PointTask,
  perPa: number,
  path: CompiledPath,
  draws: (point: Point) => number,
  charge: (m: number, p1: number, ratio: number) => Point,
  p0: number,
  T1: number,
): Point | 'choked' | 'no_blower_solution' {
  const m = task.search.root((x) => perPa * endPressure(path, x, p0, T1) - x, task.base);
  if (Number.isNaN(m)) return 'choked';
  const p1 = endPressure(path, m, p0, T1);
  const spare = (ratio: number): number => m - draws(charge(m, p1, ratio));
  if (spare(1) < 0) return 'no_blower_solution';
  if (spare(HIGHEST_RATIO) > 0) return 'no_blower_solution';
  return charge(m, p1, fallingRoot(spare, 1, HIGHEST_RATIO).x);
}

/** The reference where its boost was measured: the blower's flow against that pressure. Airflow basis §8. */
function measuredPoint(input: DrawThroughEngine, boost_Pa: readonly number[]): PointSolver {
  const charge = chargeOf(input);
  const blowerAt = blowerOver(input, input.blower.ratio);
  const T1 = inletTemperature(input);
  const p0 = input.ambient.p_Pa;
  const unmeasured = drawPoint(input, input.blower.ratio);
  return (task) => {
    const { perPa, eta0, slip } = blowerAt(task.rpm);
    const p = p0 + boost_Pa[task.index]!;
    /** What was measured cannot be with this blower: there the table's efficiency has to do. */
    const impossible = (): Point | FailureCode => {
      if (!input.chokedAsLimit) return 'no_blower_solution';
      const point = unmeasured(task);
      return typeof point === 'string' ? point : { ...point, held: point.held ?? 'unmeasured' };
    };
    if (!(p > 0)) return impossible();
    const path = task.paths.before;
    const etaAt = (m: number, p1: number): number => eta0 - slip * ((p + task.coolerLoss(m)) / p1 - 1);
    const surplus = (m: number): number => {
      const p1 = endPressure(path, m, p0, T1);
      return etaAt(m, p1) * perPa * p1 - m;
    };
    if (surplus(perPa * p0 * 1e-9) <= 0) return impossible();
    /** The boost is what was measured; the pressure before the blower is what lets it move just what the path passes. */
    const chokedAt = (): Point | FailureCode => {
      if (!input.chokedAsLimit) return 'choked';
      const m = (task.search.capacity_kgps ??= compiledCapacity(path, p0, T1) * JUST_WITHIN);
      if (!(m > 0)) return 'choked';
      const out = p + task.coolerLoss(m);
      const p1 = (m / perPa + slip * out) / (eta0 + slip);
      return out < p1 ? impossible() : { ...charge(task, m, p1, out / p1, m / (perPa * p1)), p, held: 'choked' };
    };
    const m = new FlowSearch(input.flowStep).root(surplus, Math.min(task.base, perPa * p0 * eta0));
    if (Number.isNaN(m)) return chokedAt();
    const p1 = endPressure(path, m, p0, T1);
    const ratio = (p + task.coolerLoss(m)) / p1;
    return ratio < 1 ? impossible() : { ...charge(task, m, p1, ratio, etaAt(m, p1)), p };
  };
}

export type DrawThroughReference = BoostedReference & { readonly kind: 'drawThrough'; readonly input: DrawThroughEngine };

function drawSetup(input: DrawThroughEngine): BoostedSetup {
  return {
    input,
    solvePoint: drawPoint(input, input.blower.ratio),
    ...(input.boost_Pa && { referencePoint: measuredPoint(input, input.boost_Pa) }),
    beltEfficiency: input.blower.beltEfficiency ?? BELT_EFFICIENCY,
  };
}

function refused(input: DrawThroughEngine): Failure | null {
  const { displacement_m3, ratio, eta0 = BLOWER_DEFAULTS.eta0, k = BLOWER_DEFAULTS.k } = input.blower;
  if (!(displacement_m3 > 0) || !(ratio > 0) || !(eta0 > 0) || !(k >= 0)) return failure('bad_input', { where: 'blower' });
  if (input.boost_Pa && input.boost_Pa.length !== input.rpm.length) return failure('bad_input', { where: 'boost_Pa' });
  return null;
}

/**
 * A displacement blower behind the throttle, as it is: its flow from the manifold efficiency or from a measured boost.
 * `no_blower_solution` where the engine swallows more than the blower passes, or the measured boost would take more slip
 * than it moves; `choked` where the path cannot pass it. Airflow basis §8.
 */
export function solveDrawThroughReference(input: DrawThroughEngine, path: CompiledPath): DrawThroughReference | Failure {
  const no = refused(input);
  if (no) return no;
  const ref = boostedReference(drawSetup(input), { before: path, after: null });
  return isFailure(ref) ? ref : { ...ref, kind: 'drawThrough', input };
}

/** The same engine and blower on another path, or spun at another ratio. */
export function solveDrawThroughCandidate(
  ref: DrawThroughReference,
  path: CompiledPath,
  ratio = ref.input.blower.ratio,
): BoostedResult | Failure {
  return boostedCandidate(ref, { before: path, after: null }, drawPoint(ref.input, ratio));
}

/** How one engine speed of this engine is solved: for a reference's efficiency at another ratio. */
export const drawThroughPoint = (input: DrawThroughEngine): PointSolver => drawPoint(input, input.blower.ratio);

/** Reference and candidate in one call. */
export function solveDrawThrough(
  input: DrawThroughEngine & { readonly reference: Path; readonly candidate: Path; readonly candidateRatio?: number | undefined },
): { reference: BoostedResult; candidate: BoostedResult; flowBase_kgps: number } | Failure {
  const paths = [compilePath(input.reference), compilePath(input.candidate)] as const;
  if (isFailure(paths[0])) return { ...paths[0], side: 'reference' };
  if (isFailure(paths[1])) return { ...paths[1], side: 'candidate' };
  const ref = solveDrawThroughReference(input, paths[0]);
  if (isFailure(ref)) return ref;
  const candidate = solveDrawThroughCandidate(ref, paths[1], input.candidateRatio);
  return isFailure(candidate) ? candidate : { reference: ref.result, candidate, flowBase_kgps: ref.flowBase_kgps };
}
