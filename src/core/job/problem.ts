import { airState } from '../air/state';
import type { JobDoc } from '../documents/job';
import { veFromMassFlow } from '../engine/demand';
import type { EngineProblem } from '../engine/induction';
import type { Ambient } from '../engine/input';
import { powerOf, torqueOf } from '../engine/power';
import { driveRatio } from '../engine/pulley';
import { failure, isFailure, type Failure } from '../failure';
import { knotCurve, type Curve, type Knots } from '../numbers/curve';
import { strokeOf } from './path';

type Car = JobDoc['car'];

/** Measured power over rpm as a curve that is read off as torque: beyond its ends the torque stays, not the power. */
function powerCurve(measured: { readonly rpm: readonly number[]; readonly value: readonly number[] }): Curve | Failure {
  const torque = knotCurve({ rpm: measured.rpm, value: measured.value.map((w, i) => torqueOf(w, measured.rpm[i]!)) });
  return isFailure(torque) ? torque : (rpm) => powerOf(torque(rpm), rpm);
}

/** Ambient-referenced efficiency worked back from a measured crank power: the power school turned round. Airflow basis §3. */
export function veFromPower(
  power_W: number,
  bsfc_kgpJ: number,
  afr: number,
  displacement_m3: number,
  rpm: number,
  density_kgpm3: number,
): number | Failure {
  return veFromMassFlow(power_W * bsfc_kgpJ * afr, displacement_m3, rpm, density_kgpm3);
}

/** Points at which a measured curve is worked back into an efficiency. */
const WORKED_BACK_POINTS = 24;

/** So many points of a long curve at most: an efficiency wants its shape, not a log's every sample. */
function thinned<T>(list: readonly T[], most = WORKED_BACK_POINTS): T[] {
  if (list.length <= most) return [...list];
  return Array.from({ length: most }, (_, i) => list[Math.round((i * (list.length - 1)) / (most - 1))]!);
}

/** The efficiency curve (of ambient air) that this job's reference stands on: its table, or worked back. */
export function jobVe(car: Car): Knots | Failure {
  const { efficiency } = car.from;
  const curve = efficiency === 'power' ? car.measured.power : efficiency === 'air' ? car.measured.air : null;
  if (!curve) return car.ve;
  const air = airState(car.weather);
  if (isFailure(air)) return air;
  const rpm = thinned(curve.rpm);
  const value: number[] = [];
  for (const n of rpm) {
    const v = curve.value[curve.rpm.indexOf(n)]!;
    const flow = efficiency === 'power' ? v * car.power.bsfc_kgpJ * car.power.afr : v;
    const ve = veFromMassFlow(flow, car.engine.displacement_m3, n, air.density_kgpm3);
    if (isFailure(ve) || !(ve > 0)) return failure('bad_input', { where: 've', at_rpm: n, reason: 'worked_back' });
    value.push(ve);
  }
  return { rpm, value };
}

/** What a wanted change of boost does to the problem: more of a pulley, a ratio, a target. */
export interface BoostChange {
  readonly pulley_m?: number | null | undefined;
  readonly pressureRatio?: number | null | undefined;
  readonly boost_Pa?: number | null | undefined;
}

/** The solver's problem of a job at these engine speeds; `change` with more (or less) boost. */
export function jobProblem(car: Car, rpm: readonly number[], change: BoostChange = {}): EngineProblem | Failure {
  const { engine, induction, weather } = car;
  const measuredPower = car.from.power === 'measured' && car.measured.power ? powerCurve(car.measured.power) : null;
  if (isFailure(measuredPower)) return { ...measuredPower, where: 'power' };
  const ambient: Ambient = weather;
  const common = {
    ambient,
    engine: { displacement_m3: engine.displacement_m3, compressionRatio: engine.compressionRatio, stroke_m: strokeOf(engine) },
    rpm,
    chokedAsLimit: true,
    moistAir: true,
    exhaust_Pa: induction.exhaust_Pa,
    power: measuredPower ? { value_W: rpm.map(measuredPower) } : car.power,
  };
  switch (induction.kind) {
    case 'na':
    case 'individual': {
      const ve = jobVe(car);
      if (isFailure(ve)) return ve;
      return { kind: 'na', input: { ...common, ve, heating_K: induction.heating_K } };
    }
    case 'drawThrough': {
      const { blower } = induction;
      const drive = change.pulley_m ? { ...blower, blowerPulley_m: change.pulley_m } : blower;
      const boost = car.from.efficiency === 'boost' && car.measured.boost ? knotCurve(car.measured.boost) : null;
      if (isFailure(boost)) return { ...boost, where: 'boost_Pa' };
      return {
        kind: 'drawThrough',
        input: {
          ...common,
          blower: {
            displacement_m3: blower.displacement_m3,
            ratio: driveRatio(drive),
            eta0: blower.eta0,
            k: blower.k,
            slipAt_rpm: blower.slipAt_rpm,
            etaAd: blower.etaAd,
            beltEfficiency: blower.beltEfficiency,
          },
          cooler: induction.cooler,
          manifoldVe: car.manifoldVe,
          ...(boost && !change.pulley_m && { boost_Pa: rpm.map(boost) }),
        },
      };
    }
    case 'centrifugal':
      return {
        kind: 'centrifugal',
        input: {
          ...common,
          compressor: {
            pressureRatio: change.pressureRatio ?? induction.compressor.pressureRatio,
            rpm: induction.compressor.rpm,
            etaAd: induction.compressor.etaAd,
            beltEfficiency: induction.compressor.beltEfficiency,
          },
          cooler: induction.cooler,
          manifoldVe: car.manifoldVe,
        },
      };
    case 'turbo': {
      const boost = knotCurve(induction.compressor.boost);
      if (isFailure(boost)) return { ...boost, where: 'target' };
      const { targetAt, etaAd } = induction.compressor;
      // A wanted boost moves the whole target curve so that its highest point is the wanted one.
      const shift = change.boost_Pa == null ? 0 : change.boost_Pa - Math.max(...induction.compressor.boost.value);
      return {
        kind: 'turbo',
        input: {
          ...common,
          compressor: { target_Pa: rpm.map((n) => weather.p_Pa + Math.max(0, boost(n) + shift)), targetAt, etaAd },
          cooler: induction.cooler,
          manifoldVe: car.manifoldVe,
        },
      };
    }
  }
}
