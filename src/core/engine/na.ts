import { airState } from '../air/state';
import { failure, isFailure, type Failure } from '../failure';
import { compilePath, type CompiledPath } from '../flow/compile';
import { GAMMA } from '../flow/constants';
import { compiledCapacity, endPressure } from '../flow/ladder';
import type { Path } from '../flow/path';
import { knotCurve, type Knots } from '../numbers/curve';
import { fallingRoot } from '../numbers/root';
import { sweptRate } from './demand';
import { FlowSearch } from './flow-root';
import {
  chokedAt,
  DEEPEST,
  engineFailure,
  engineGas,
  EXHAUST_BACK_PRESSURE_Pa,
  inletTemperature,
  JUST_WITHIN,
  referencePower,
  type EngineInput,
  type SolvedLimits,
} from './input';
import { candidatePower, torqueOf } from './power';

export interface NaEngine extends EngineInput {
  /** Ambient-referenced volumetric efficiency with the reference path. */
  readonly ve: Knots;
  /** Temperature the charge gains on its way into the cylinder, K. */
  readonly heating_K?: number | undefined;
}

export interface NaResult extends SolvedLimits {
  readonly massFlow_kgps: number[];
  readonly plenum_Pa: number[];
  readonly etaManifold: number[];
  readonly exhaust_Pa: number[];
  readonly power_W: number[];
  readonly torque_Nm: number[];
}

/** A solved reference: what a throttle does not change is held in it for every candidate. */
export interface NaReference {
  readonly kind: 'na';
  readonly input: NaEngine;
  readonly result: NaResult;
  /** Largest reference flow, kg/s: the flow at which the exhaust back pressure is B. */
  readonly flowBase_kgps: number;
  readonly density_kgpm3: number;
}

/** Charge heating on the way into the cylinder, K. Airflow basis §8. */
export const CHARGE_HEATING_K = 8;

/** Behind a path that chokes far too early the formula would leave no room for fresh gas at all: this much is left. */
const LEAST_FRESH = 0.02;

/** Residual-gas factor φ of a manifold and an exhaust pressure, Pa. Airflow basis §8. */
export function residualFactor(compressionRatio: number, manifold_Pa: number, exhaust_Pa: number): number {
  return Math.max(LEAST_FRESH, (compressionRatio - (exhaust_Pa / manifold_Pa) ** (1 / GAMMA)) / (compressionRatio - 1));
}

const emptyResult = (): NaResult => ({ massFlow_kgps: [], plenum_Pa: [], etaManifold: [], exhaust_Pa: [], power_W: [], torque_Nm: [] });

/**
 * The naturally aspirated engine as it is: demand from its volumetric efficiency, plenum pressure from its path's
 * ladder, manifold-referenced efficiency from both. `choked` (side reference, at_rpm) where the path cannot pass what
 * the efficiency asks for. Arrays follow `rpm`; kg/s, Pa, W, N·m. Airflow basis §8.
 */
export function solveNaReference(input: NaEngine, path: Path | CompiledPath): NaReference | Failure {
  const refused = engineFailure(input);
  if (refused) return refused;
  const air = airState({ p_Pa: input.ambient.p_Pa, T_K: input.ambient.T_K, rh: input.ambient.rh ?? 0 });
  if (isFailure(air)) return air;
  const ve = knotCurve(input.ve);
  if (isFailure(ve)) return { ...ve, where: 've' };
  const compiled = 'rows' in path ? path : compilePath(path);
  if (isFailure(compiled)) return { ...compiled, side: 'reference' };
  const inletT = inletTemperature(input);
  const manifoldT = inletT + (input.heating_K ?? CHARGE_HEATING_K);
  const R = engineGas(input);
  const result = emptyResult();
  const choked: boolean[] = [];
  let limit: ChokedFlow | null = null;
  for (const rpm of input.rpm) {
    const eta = ve(rpm) * (input.veFactor ?? 1);
    if (!(eta > 0)) return failure('bad_input', { where: 've', at_rpm: rpm });
    const swept = sweptRate(input.engine.displacement_m3, rpm);
    const wanted = eta * swept * air.density_kgpm3;
    const passed = endPressure(compiled, wanted, input.ambient.p_Pa, inletT);
    const chokes = Number.isNaN(passed) || (input.chokedAsLimit === true && passed < USED_UP * input.ambient.p_Pa);
    if (chokes && !input.chokedAsLimit) return failure('choked', { side: 'reference', at_rpm: rpm });
    if (chokes) limit ??= chokedFlow(compiled, input.ambient.p_Pa, inletT);
    if (chokes && limit === null) return failure('choked', { side: 'reference', at_rpm: rpm });
    // The efficiency asked for more than the path passes: the engine's own is the one at which the path just chokes.
    const etaManifold = (wanted * R * manifoldT) / (swept * (chokes ? limit!.p : passed));
    const m = chokes ? limit!.m : wanted;
    choked.push(chokes);
    result.massFlow_kgps.push(m);
    result.plenum_Pa.push(chokes ? (m * R * manifoldT) / (swept * etaManifold) : passed);
    result.etaManifold.push(etaManifold);
  }
  if (input.chokedAsLimit) Object.assign(result, chokedAt(input.rpm, choked));
  const flowBase_kgps = Math.max(...result.massFlow_kgps);
  const B = input.exhaust_Pa ?? EXHAUST_BACK_PRESSURE_Pa;
  input.rpm.forEach((rpm, i) => {
    const m = result.massFlow_kgps[i]!;
    const power = referencePower(input, i, m);
    result.exhaust_Pa.push(input.ambient.p_Pa + B * (m / flowBase_kgps) ** 2);
    result.power_W.push(power);
    result.torque_Nm.push(torqueOf(power, rpm));
  });
  return { kind: 'na', input, result, flowBase_kgps, density_kgpm3: air.density_kgpm3 };
}

/** The largest flow of a path, kg/s, and the pressure at its end there, Pa. */
interface ChokedFlow {
  readonly m: number;
  readonly p: number;
}

/** Losses that grow without a throat choking would use up all the pressure: a path passes no more once this share of it is left. */
const USED_UP = 0.2;

function chokedFlow(path: CompiledPath, p0_Pa: number, T0_K: number): ChokedFlow | null {
  const m = compiledCapacity(path, p0_Pa, T0_K) * JUST_WITHIN;
  if (!(m > 0)) return null;
  const p = endPressure(path, m, p0_Pa, T0_K);
  const least = USED_UP * p0_Pa;
  if (p >= least) return { m, p };
  const { x } = fallingRoot((flow) => endPressure(path, flow, p0_Pa, T0_K) - least, m * 1e-9, m);
  return { m: x, p: endPressure(path, x, p0_Pa, T0_K) };
}

interface NaPoint {
  readonly m: number;
  readonly p: number;
  readonly eta: number;
  readonly exhaust: number;
  readonly choked: boolean;
}
const NO_POINT: NaPoint = { m: NaN, p: NaN, eta: NaN, exhaust: NaN, choked: true };

/** What one candidate's solve remembers from rpm to rpm. */
interface Walk {
  readonly search: FlowSearch;
  readonly gas: number;
  limit: ChokedFlow | null;
}

/** Flow, plenum pressure and efficiency of the candidate at one rpm; NaN flow where it chokes and that is no limit. */
function candidatePoint(ref: NaReference, compiled: CompiledPath, i: number, walk: Walk): NaPoint {
  const { input, result } = ref;
  const inletT = inletTemperature(input);
  const manifoldT = inletT + (input.heating_K ?? CHARGE_HEATING_K);
  const rc = input.engine.compressionRatio;
  const B = (input.exhaust_Pa ?? EXHAUST_BACK_PRESSURE_Pa) / ref.flowBase_kgps ** 2;
  const perPressure = sweptRate(input.engine.displacement_m3, input.rpm[i]!) / (walk.gas * manifoldT);
  const etaFresh = result.etaManifold[i]! / residualFactor(rc, result.plenum_Pa[i]!, result.exhaust_Pa[i]!);
  const exhaustAt = (m: number): number => input.ambient.p_Pa + B * m * m;
  const at = (m: number): NaPoint => {
    const p = endPressure(compiled, m, input.ambient.p_Pa, inletT);
    const exhaust = exhaustAt(m);
    return { m, p, exhaust, eta: etaFresh * residualFactor(rc, p, exhaust), choked: false };
  };
  /** What the path passes, and the plenum at which the engine swallows just that; null: the path passes what is asked of it. */
  const limited = (): NaPoint | null => {
    if (!input.chokedAsLimit) return null;
    walk.limit ??= chokedFlow(compiled, input.ambient.p_Pa, inletT);
    if (walk.limit === null) return null;
    const { m, p: most } = walk.limit;
    const exhaust = exhaustAt(m);
    const short = (p: number): number => m - etaFresh * residualFactor(rc, p, exhaust) * perPressure * p;
    if (!(short(most) < 0)) return null;
    const p = fallingRoot(short, most * DEEPEST, most).x;
    return { m, p, exhaust, eta: m / (perPressure * p), choked: true };
  };
  if (walk.limit) {
    const known = limited();
    if (known) return known;
  }
  // What the engine draws is in proportion to the pressure: from a point close by, the flow tells the pressure.
  const settle = ({ eta, exhaust }: NaPoint, m: number): NaPoint => ({ m, p: m / (eta * perPressure), eta, exhaust, choked: false });
  const found = walk.search.point(at, ({ p, eta }, m) => eta * perPressure * p - m, result.massFlow_kgps[i]!, settle);
  if (found !== null && !(input.chokedAsLimit && found.p < USED_UP * input.ambient.p_Pa)) return found;
  return limited() ?? found ?? NO_POINT;
}

/**
 * The same engine on another path: the flow at which engine and ladder agree at each rpm, with the residual gas moved by
 * the new pressures, and the power that follows. `choked` (side candidate, at_rpm) where they cannot. Airflow basis §8.
 */
export function solveNaCandidate(ref: NaReference, path: Path | CompiledPath): NaResult | Failure {
  const compiled = 'rows' in path ? path : compilePath(path);
  if (isFailure(compiled)) return { ...compiled, side: 'candidate' };
  const { input, result: r } = ref;
  const out = emptyResult();
  const walk: Walk = { search: new FlowSearch(input.flowStep), gas: engineGas(input), limit: null };
  const chokes: boolean[] = [];
  for (let i = 0; i < input.rpm.length; i += 1) {
    const rpm = input.rpm[i]!;
    const { m, p, eta, exhaust, choked } = candidatePoint(ref, compiled, i, walk);
    chokes.push(choked);
    if (Number.isNaN(m)) return failure('choked', { side: 'candidate', at_rpm: rpm });
    const power = candidatePower({
      aspiration: 'na',
      displacement_m3: input.engine.displacement_m3,
      rpm,
      referencePower_W: r.power_W[i]!,
      referenceMassFlow_kgps: r.massFlow_kgps[i]!,
      referencePlenum_Pa: r.plenum_Pa[i]!,
      massFlow_kgps: m,
      plenum_Pa: p,
      frictionFactor: input.frictionFactor,
      stroke_m: input.engine.stroke_m,
    });
    out.massFlow_kgps.push(m);
    out.plenum_Pa.push(p);
    out.etaManifold.push(eta);
    out.exhaust_Pa.push(exhaust);
    out.power_W.push(power.power_W);
    out.torque_Nm.push(power.torque_Nm);
  }
  if (input.chokedAsLimit) Object.assign(out, chokedAt(input.rpm, chokes));
  return out;
}

/** Reference and candidate in one call. Airflow basis §8. */
export function solveNa(
  input: NaEngine & { readonly reference: Path; readonly candidate: Path },
): { reference: NaResult; candidate: NaResult } | Failure {
  const reference = solveNaReference(input, input.reference);
  if (isFailure(reference)) return reference;
  const candidate = solveNaCandidate(reference, input.candidate);
  return isFailure(candidate) ? candidate : { reference: reference.result, candidate };
}
