import { airState } from '../air/state';
import { failure, isFailure, type Failure } from '../failure';
import { compilePath, type CompiledPath } from '../flow/compile';
import { GAMMA, R_DRY } from '../flow/constants';
import { endPressure } from '../flow/ladder';
import type { Path } from '../flow/path';
import { knotCurve, type Knots } from '../numbers/curve';
import { fallingRootNear } from '../numbers/root';
import { sweptRate } from './demand';
import { candidatePower, torqueOf } from './power';

export interface Ambient {
  readonly p_Pa: number;
  readonly T_K: number;
  readonly rh?: number | undefined;
}

/** Crank power of the reference: worked out from its air, or given at each rpm. */
export type ReferencePower = { readonly bsfc_kgpJ: number; readonly afr: number } | { readonly value_W: readonly number[] };

export interface NaEngine {
  readonly ambient: Ambient;
  readonly engine: { readonly displacement_m3: number; readonly compressionRatio: number };
  readonly rpm: readonly number[];
  /** Ambient-referenced volumetric efficiency with the reference path. */
  readonly ve: Knots;
  /** Temperature the charge gains on its way into the cylinder, K. */
  readonly heating_K?: number | undefined;
  readonly inletT_K?: number | undefined;
  /** Exhaust back pressure B at the largest reference flow, Pa. */
  readonly exhaust_Pa?: number | undefined;
  readonly power: ReferencePower;
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
  readonly input: NaEngine;
  readonly result: NaResult;
  /** Largest reference flow, kg/s: the flow at which the exhaust back pressure is B. */
  readonly flowBase_kgps: number;
  readonly density_kgpm3: number;
}

/** Charge heating on the way into the cylinder, K. Airflow basis §8. */
export const CHARGE_HEATING_K = 8;
/** Exhaust back pressure at the largest flow, Pa. Airflow basis §8. */
export const EXHAUST_BACK_PRESSURE_Pa = 15_000;

/** Residual-gas factor φ of a manifold and an exhaust pressure, Pa. Airflow basis §8. */
export function residualFactor(compressionRatio: number, manifold_Pa: number, exhaust_Pa: number): number {
  return (compressionRatio - (exhaust_Pa / manifold_Pa) ** (1 / GAMMA)) / (compressionRatio - 1);
}

const emptyResult = (): NaResult => ({ massFlow_kgps: [], plenum_Pa: [], etaManifold: [], exhaust_Pa: [], power_W: [], torque_Nm: [] });

function engineFailure(input: NaEngine): Failure | null {
  const { displacement_m3, compressionRatio } = input.engine;
  if (!(displacement_m3 > 0)) return failure('bad_input', { where: 'displacement_m3' });
  if (!(compressionRatio > 1)) return failure('bad_input', { where: 'compressionRatio' });
  if (!input.rpm.every((n) => n > 0)) return failure('bad_input', { where: 'rpm' });
  if ('value_W' in input.power && input.power.value_W.length !== input.rpm.length) return failure('bad_input', { where: 'power' });
  return null;
}

/**
 * The naturally aspirated engine as it is: demand from its volumetric efficiency, plenum pressure from its path's
 * ladder, manifold-referenced efficiency from both. `choked` (side reference, at_rpm) where the path cannot pass what
 * the efficiency asks for. Arrays follow `rpm`; kg/s, Pa, W, N·m. Airflow basis §8.
 */
export function solveNaReference(input: NaEngine, path: Path): NaReference | Failure {
  const refused = engineFailure(input);
  if (refused) return refused;
  const air = airState({ p_Pa: input.ambient.p_Pa, T_K: input.ambient.T_K, rh: input.ambient.rh ?? 0 });
  if (isFailure(air)) return air;
  const ve = knotCurve(input.ve);
  if (isFailure(ve)) return { ...ve, where: 've' };
  const compiled = compilePath(path);
  if (isFailure(compiled)) return { ...compiled, side: 'reference' };
  const inletT = input.inletT_K ?? input.ambient.T_K;
  const manifoldT = inletT + (input.heating_K ?? CHARGE_HEATING_K);
  const result = emptyResult();
  for (const rpm of input.rpm) {
    const eta = ve(rpm);
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
    const power = 'value_W' in input.power ? input.power.value_W[i]! : m / (input.power.bsfc_kgpJ * input.power.afr);
    result.exhaust_Pa.push(input.ambient.p_Pa + B * (m / flowBase_kgps) ** 2);
    result.power_W.push(power);
    result.torque_Nm.push(torqueOf(power, rpm));
  });
  return { input, result, flowBase_kgps, density_kgpm3: air.density_kgpm3 };
}

/** Relative tolerance on the candidate's flow (airflow basis §8 asks for 1e-10). */
const FLOW_TOLERANCE = 1e-11;
/** First stride from a guess: about the error of carrying the share over from the rpm before. */
const GUESS_STRIDE = 0.0005;

/** Flow, plenum pressure and efficiency of the candidate at one rpm; NaN flow where it chokes. */
function candidatePoint(
  ref: NaReference,
  compiled: CompiledPath,
  i: number,
  guess: number,
): { m: number; p: number; eta: number; exhaust: number } {
  const { input, result } = ref;
  const inletT = input.inletT_K ?? input.ambient.T_K;
  const manifoldT = inletT + (input.heating_K ?? CHARGE_HEATING_K);
  const rc = input.engine.compressionRatio;
  const B = (input.exhaust_Pa ?? EXHAUST_BACK_PRESSURE_Pa) / ref.flowBase_kgps ** 2;
  const perPressure = sweptRate(input.engine.displacement_m3, input.rpm[i]!) / (R_DRY * manifoldT);
  const etaFresh = result.etaManifold[i]! / residualFactor(rc, result.plenum_Pa[i]!, result.exhaust_Pa[i]!);
  const exhaustAt = (m: number): number => input.ambient.p_Pa + B * m * m;
  const surplus = (m: number): number => {
    const p = endPressure(compiled, m, input.ambient.p_Pa, inletT);
    return etaFresh * residualFactor(rc, p, exhaustAt(m)) * perPressure * p - m;
  };
  const root = fallingRootNear(surplus, guess, 0, guess * 100, GUESS_STRIDE, FLOW_TOLERANCE);
  if (root === null || root.stopped === 'wall') return { m: NaN, p: NaN, eta: NaN, exhaust: NaN };
  const p = endPressure(compiled, root.x, input.ambient.p_Pa, inletT);
  return { m: root.x, p, eta: etaFresh * residualFactor(rc, p, exhaustAt(root.x)), exhaust: exhaustAt(root.x) };
}

/**
 * The same engine on another path: the flow at which engine and ladder agree at each rpm, with the residual gas moved by
 * the new pressures, and the power that follows. `choked` (side candidate, at_rpm) where they cannot. Airflow basis §8.
 */
export function solveNaCandidate(ref: NaReference, path: Path): NaResult | Failure {
  const compiled = compilePath(path);
  if (isFailure(compiled)) return { ...compiled, side: 'candidate' };
  const { input, result: r } = ref;
  const out = emptyResult();
  // The candidate's share over the reference changes little from one rpm to the next: a guess that is nearly right.
  let share = 1;
  for (let i = 0; i < input.rpm.length; i += 1) {
    const rpm = input.rpm[i]!;
    const { m, p, eta, exhaust } = candidatePoint(ref, compiled, i, share * r.massFlow_kgps[i]!);
    share = m / r.massFlow_kgps[i]!;
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
