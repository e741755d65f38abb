import { airState } from '../air/state';
import { failure, isFailure, type Failure, type FailureCode } from '../failure';
import type { CompiledPath } from '../flow/compile';
import { knotCurve, type Knots } from '../numbers/curve';
import { fallingRoot } from '../numbers/root';
import { coolerFigures, drivePower, MANIFOLD_VE, type Cooler, type CoolerFigures } from './charge';
import { sweptRate } from './demand';
import { FlowSearch } from './flow-root';
import {
  chokedAt,
  DEEPEST,
  engineFailure,
  engineGas,
  EXHAUST_BACK_PRESSURE_Pa,
  inletTemperature,
  referencePower,
  type EngineInput,
  type SolvedLimits,
} from './input';
import { residualFactor } from './na';
import { candidatePower, torqueOf } from './power';

/** What every boosted engine is described by, whatever moves its air. */
export interface BoostedEngine extends EngineInput {
  readonly cooler?: Cooler | undefined;
  /** Manifold-referenced volumetric efficiency (0.92). */
  readonly manifoldVe?: Knots | undefined;
}

/** One side solved, arrays in the order of rpm: kg/s, Pa, K, W, N·m. */
export interface BoostedResult extends SolvedLimits {
  readonly massFlow_kgps: number[];
  /** Pressure before the compressor, p₁. */
  readonly inlet_Pa: number[];
  readonly compressorOut_Pa: number[];
  readonly pressureRatio: number[];
  readonly compressorOut_K: number[];
  readonly manifold_K: number[];
  readonly plenum_Pa: number[];
  readonly boost_Pa: number[];
  readonly etaManifold: number[];
  /** Volumetric efficiency of a displacement blower; empty for other compressors. */
  readonly etaBlower: number[];
  readonly drive_W: number[];
  readonly power_W: number[];
  readonly torque_Nm: number[];
}

/** The intake on either side of the compressor. A draw-through engine has nothing after it. */
export interface IntakePaths {
  readonly before: CompiledPath;
  readonly after: CompiledPath | null;
}

/** One engine speed, solved. */
export interface Point {
  readonly m: number;
  readonly inlet: number;
  readonly out: number;
  readonly T2: number;
  readonly Tm: number;
  readonly p: number;
  readonly etaBlower: number;
  /** What the engine is held to here: a path that chokes, a compressor that adds nothing, a table where the measured boost cannot be. */
  readonly held?: 'choked' | 'without' | 'unmeasured' | undefined;
}

/** What a point solver is asked: at one rpm, through these paths, with this efficiency and cooler loss at a flow. */
export interface PointTask {
  readonly index: number;
  readonly rpm: number;
  readonly paths: IntakePaths;
  readonly eta: (plenum_Pa: number, m: number) => number;
  readonly coolerLoss: (m: number) => number;
  /** Flow, kg/s, near which this rpm's is looked for, and the search that walks from rpm to rpm. */
  readonly base: number;
  readonly search: FlowSearch;
}

export type PointSolver = (task: PointTask) => Point | FailureCode;

interface Prepared {
  readonly etaKnots: (rpm: number) => number;
  readonly cooler: CoolerFigures;
}

function prepare(input: BoostedEngine): Prepared | Failure {
  const refused = engineFailure(input);
  if (refused) return refused;
  const air = airState({ p_Pa: input.ambient.p_Pa, T_K: input.ambient.T_K, rh: input.ambient.rh ?? 0 });
  if (isFailure(air)) return air;
  const knots = knotCurve(input.manifoldVe ?? MANIFOLD_VE);
  if (isFailure(knots)) return { ...knots, where: 've' };
  const factor = input.veFactor ?? 1;
  const cooler = coolerFigures(input.cooler);
  if (!(cooler.effectiveness >= 0 && cooler.effectiveness <= 1)) return failure('bad_input', { where: 'cooler' });
  return { etaKnots: (rpm) => factor * knots(rpm), cooler };
}

/** Flow, kg/s, that an engine draws from a manifold state at an rpm and an efficiency. Airflow basis §8. */
export type EngineFlow = (rpm: number, eta: number, p_Pa: number, T_K: number) => number;

export function engineFlow(input: BoostedEngine): EngineFlow {
  const R = engineGas(input);
  const { displacement_m3 } = input.engine;
  return (rpm, eta, p_Pa, T_K) => (eta * sweptRate(displacement_m3, rpm) * p_Pa) / (R * T_K);
}

/**
 * Manifold pressure, Pa, at or below `most_Pa` at which the engine swallows just the flow `m` that a choking path passes; null
 * where it swallows less even at `most_Pa`. Airflow basis §8, choking is a limit.
 */
export function swallowingPressure(task: PointTask, flow: EngineFlow, m: number, Tm: number, most_Pa: number): number | null {
  const short = (p: number): number => m - flow(task.rpm, task.eta(p, m), p, Tm);
  return short(most_Pa) < 0 ? fallingRoot(short, most_Pa * DEEPEST, most_Pa).x : null;
}

/** A point close to the solution moved to its flow `m`: what the engine `draws` there is in proportion to the pressure. */
export const settled = (near: Point, m: number, draws: number): Point => ({ ...near, m, p: (near.p * m) / draws });

const emptyBoosted = (): BoostedResult => ({
  massFlow_kgps: [],
  inlet_Pa: [],
  compressorOut_Pa: [],
  pressureRatio: [],
  compressorOut_K: [],
  manifold_K: [],
  plenum_Pa: [],
  boost_Pa: [],
  etaManifold: [],
  etaBlower: [],
  drive_W: [],
  power_W: [],
  torque_Nm: [],
});

function push(out: BoostedResult, input: BoostedEngine, point: Point, eta: number, beltEfficiency: number | null): void {
  out.massFlow_kgps.push(point.m);
  out.inlet_Pa.push(point.inlet);
  out.compressorOut_Pa.push(point.out);
  out.pressureRatio.push(point.out / point.inlet);
  out.compressorOut_K.push(point.T2);
  out.manifold_K.push(point.Tm);
  out.plenum_Pa.push(point.p);
  out.boost_Pa.push(point.p - input.ambient.p_Pa);
  out.etaManifold.push(eta);
  if (!Number.isNaN(point.etaBlower)) out.etaBlower.push(point.etaBlower);
  out.drive_W.push(beltEfficiency === null ? 0 : drivePower(point.m, inletTemperature(input), point.T2, beltEfficiency));
}

export interface BoostedSetup {
  readonly input: BoostedEngine;
  readonly solvePoint: PointSolver;
  /** The reference's points, where they are found another way (a measured boost). */
  readonly referencePoint?: PointSolver;
  /** Null: nothing drives the compressor off the crank. */
  readonly beltEfficiency: number | null;
}

/** A solved reference: its own efficiency and largest flow are held for every candidate. */
export interface BoostedReference {
  readonly input: BoostedEngine;
  readonly result: BoostedResult;
  readonly flowBase_kgps: number;
  readonly setup: BoostedSetup;
}

/** A fair first flow, kg/s, before anything is known: the engine at 1.5 atmospheres. */
const firstGuess = (input: BoostedEngine): ((rpm: number) => number) => {
  const flow = engineFlow(input);
  return (rpm) => flow(rpm, MANIFOLD_VE, 1.5 * input.ambient.p_Pa, inletTemperature(input) + 40);
};

/** Which engine speeds were held to something, told with the result. */
function heldAt(out: BoostedResult, input: BoostedEngine, points: readonly Point[]): void {
  if (!input.chokedAsLimit) return;
  const choked = points.map((p) => p.held === 'choked');
  Object.assign(out, chokedAt(input.rpm, choked));
  const at = (held: Point['held']): readonly number[] => input.rpm.filter((_, i) => points[i]!.held === held);
  if (at('without').length > 0) out.without_rpm = at('without');
  if (at('unmeasured').length > 0) out.unmeasured_rpm = at('unmeasured');
}

/**
 * The engine as it is. The cooler's loss goes with the flow against the largest: each rpm is first solved with the whole
 * loss, the largest of these flows is that base, and every rpm is then solved with its share. Airflow basis §8.
 */
export function boostedReference(setup: BoostedSetup, paths: IntakePaths): BoostedReference | Failure {
  const { input } = setup;
  const prepared = prepare(input);
  if (isFailure(prepared)) return prepared;
  const { cooler, etaKnots } = prepared;
  const solve = setup.referencePoint ?? setup.solvePoint;
  let flowBase_kgps = 0;
  const whole: number[] = [];
  const guess = firstGuess(input);
  let search = new FlowSearch(input.flowStep);
  for (const [index, rpm] of input.rpm.entries()) {
    const eta = etaKnots(rpm);
    if (!(eta > 0)) return failure('bad_input', { where: 've', at_rpm: rpm });
    const point = solve({ index, rpm, paths, eta: () => eta, coolerLoss: () => cooler.loss_Pa, base: guess(rpm), search });
    if (typeof point === 'string') return failure(point, { side: 'reference', at_rpm: rpm });
    whole.push(point.m);
    if (point.m > flowBase_kgps) flowBase_kgps = point.m;
  }
  const result = emptyBoosted();
  const points: Point[] = [];
  const R = engineGas(input);
  search = new FlowSearch(input.flowStep);
  for (const [index, rpm] of input.rpm.entries()) {
    const eta = etaKnots(rpm);
    const coolerLoss = (m: number): number => cooler.loss_Pa * (m / flowBase_kgps) ** 2;
    const point = solve({ index, rpm, paths, eta: () => eta, coolerLoss, base: whole[index]!, search });
    if (typeof point === 'string') return failure(point, { side: 'reference', at_rpm: rpm });
    points.push(point);
    const own = (point.m * R * point.Tm) / (sweptRate(input.engine.displacement_m3, rpm) * point.p);
    push(result, input, point, setup.referencePoint ? own : eta, setup.beltEfficiency);
    const power = referencePower(input, index, point.m);
    result.power_W.push(power);
    result.torque_Nm.push(torqueOf(power, rpm));
  }
  heldAt(result, input, points);
  return { input, result, flowBase_kgps, setup };
}

/** The same engine on other paths (or another blower ratio: `solvePoint`), with what a throttle does not change held. Airflow basis §8. */
export function boostedCandidate(
  ref: BoostedReference,
  paths: IntakePaths,
  solvePoint: PointSolver = ref.setup.solvePoint,
): BoostedResult | Failure {
  const { input, result: r, flowBase_kgps } = ref;
  const cooler = coolerFigures(input.cooler);
  const rc = input.engine.compressionRatio;
  const B = (input.exhaust_Pa ?? EXHAUST_BACK_PRESSURE_Pa) / flowBase_kgps ** 2;
  const exhaustAt = (m: number): number => input.ambient.p_Pa + B * m * m;
  const coolerLoss = (m: number): number => cooler.loss_Pa * (m / flowBase_kgps) ** 2;
  const out = emptyBoosted();
  const points: Point[] = [];
  const search = new FlowSearch(input.flowStep);
  for (const [index, rpm] of input.rpm.entries()) {
    const referenceFlow = r.massFlow_kgps[index]!;
    const etaFresh = r.etaManifold[index]! / residualFactor(rc, r.plenum_Pa[index]!, exhaustAt(referenceFlow));
    const eta = (p: number, m: number): number => etaFresh * residualFactor(rc, p, exhaustAt(m));
    const point = solvePoint({ index, rpm, paths, eta, coolerLoss, base: referenceFlow, search });
    if (typeof point === 'string') return failure(point, { side: 'candidate', at_rpm: rpm });
    points.push(point);
    push(out, input, point, eta(point.p, point.m), ref.setup.beltEfficiency);
    const power = candidatePower({
      aspiration: 'boosted',
      displacement_m3: input.engine.displacement_m3,
      rpm,
      referencePower_W: r.power_W[index]!,
      referenceMassFlow_kgps: referenceFlow,
      referencePlenum_Pa: r.plenum_Pa[index]!,
      referenceDrive_W: r.drive_W[index]!,
      massFlow_kgps: point.m,
      plenum_Pa: point.p,
      drive_W: out.drive_W[index]!,
      frictionFactor: input.frictionFactor,
      stroke_m: input.engine.stroke_m,
    });
    out.power_W.push(power.power_W);
    out.torque_Nm.push(power.torque_Nm);
  }
  heldAt(out, input, points);
  return out;
}
