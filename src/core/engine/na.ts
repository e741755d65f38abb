import { airState } from '../air/state';
import { failure, isFailure, type Failure } from '../failure';
import { compilePath, type CompiledPath } from '../flow/compile';
import { GAMMA, R_DRY } from '../flow/constants';
import { endPressure } from '../flow/ladder';
import type { Path } from '../flow/path';
import { knotCurve, type Knots } from '../numbers/curve';
import { sweptRate } from './demand';
import { FlowSearch } from './flow-root';
import { engineFailure, EXHAUST_BACK_PRESSURE_Pa, inletTemperature, referencePower, type EngineInput } from './input';
import { candidatePower, torqueOf } from './power';

export interface NaEngine extends EngineInput {
  /** Ambient-referenced volumetric efficiency with the reference path. */
  readonly ve: Knots;
  /** Temperature the charge gains on its way into the cylinder, K. */
  readonly heating_K?: number | undefined;
}

export interface NaResult {
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

/** Residual-gas factor φ of a manifold and an exhaust pressure, Pa. Airflow basis §8. */
export function residualFactor(compressionRatio: number, manifold_Pa: number, exhaust_Pa: number): number {
  return (compressionRatio - (exhaust_Pa / manifold_Pa) ** (1 / GAMMA)) / (compressionRatio - 1);
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
  const result = emptyResult();
  for (const rpm of input.rpm) {
    const eta = ve(rpm) * (input.veFactor ?? 1);
    if (!(eta > 0)) return failure('bad_input', { where: 've', at_rpm: rpm });
    const swept = sweptRate(input.engine.displacement_m3, rpm);
    const m = eta * swept * air.density_kgpm3;
    const p = endPressure(compiled, m, input.ambient.p_Pa, inletT);
    if (Number.isNaN(p)) return failure('choked', { side: 'reference', at_rpm: rpm });
    result.massFlow_kgps.push(m);
    result.plenum_Pa.push(p);
    result.etaManifold.push((m * R_DRY * manifoldT) / (swept * p));
  }
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

interface NaPoint {
  readonly m: number;
  readonly p: number;
  readonly eta: number;
  readonly exhaust: number;
}
const NO_POINT: NaPoint = { m: NaN, p: NaN, eta: NaN, exhaust: NaN };

/** Flow, plenum pressure and efficiency of the candidate at one rpm; NaN flow where it chokes. */
function candidatePoint(ref: NaReference, compiled: CompiledPath, i: number, search: FlowSearch): NaPoint {
  const { input, result } = ref;
  const inletT = inletTemperature(input);
  const manifoldT = inletT + (input.heating_K ?? CHARGE_HEATING_K);
  const rc = input.engine.compressionRatio;
  const B = (input.exhaust_Pa ?? EXHAUST_BACK_PRESSURE_Pa) / ref.flowBase_kgps ** 2;
  const perPressure = sweptRate(input.engine.displacement_m3, input.rpm[i]!) / (R_DRY * manifoldT);
  const etaFresh = result.etaManifold[i]! / residualFactor(rc, result.plenum_Pa[i]!, result.exhaust_Pa[i]!);
  const exhaustAt = (m: number): number => input.ambient.p_Pa + B * m * m;
  const at = (m: number): NaPoint => {
    const p = endPressure(compiled, m, input.ambient.p_Pa, inletT);
    const exhaust = exhaustAt(m);
    return { m, p, exhaust, eta: etaFresh * residualFactor(rc, p, exhaust) };
  };
  // What the engine draws is in proportion to the pressure: from a point close by, the flow tells the pressure.
  const settle = ({ eta, exhaust }: NaPoint, m: number): NaPoint => ({ m, p: m / (eta * perPressure), eta, exhaust });
  return search.point(at, ({ p, eta }, m) => eta * perPressure * p - m, result.massFlow_kgps[i]!, settle) ?? NO_POINT;
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
  const search = new FlowSearch(input.flowStep);
  for (let i = 0; i < input.rpm.length; i += 1) {
    const rpm = input.rpm[i]!;
    const { m, p, eta, exhaust } = candidatePoint(ref, compiled, i, search);
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
      ...(input.frictionFactor !== undefined && { frictionFactor: input.frictionFactor }),
    });
    out.massFlow_kgps.push(m);
    out.plenum_Pa.push(p);
    out.etaManifold.push(eta);
    out.exhaust_Pa.push(exhaust);
    out.power_W.push(power.power_W);
    out.torque_Nm.push(power.torque_Nm);
  }
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
