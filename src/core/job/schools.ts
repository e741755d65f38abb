import { airState } from '../air/state';
import { FUELLING } from '../engine/demand';
import { isFailure } from '../failure';
import { BENCH_DENSITY_kgpm3, R_DRY } from '../flow/constants';
import { boreByBench } from '../sizing/own-loss';
import type { JobBounds } from './bounds';
import { type JobModel } from './model';
import { jobPulsation, type SizedJob } from './path';
import { CHAIN_DEPRESSION_Pa } from './restriction';

export type SchoolKey = 'displacement' | 'power' | 'meter' | 'bench rating' | 'gas speed' | 'loss' | 'power left';

/** One way of sizing: what it says the engine needs, and the smallest bore that follows from it. */
export interface School {
  readonly key: SchoolKey;
  /** Flow it works with, kg/s; null: it does not work with one. */
  readonly massFlow_kgps: number | null;
  /** Smallest bore, m; null: it cannot say (no figure, or no bore does). */
  readonly bore_m: number | null;
}

/**
 * What every school of sizing says of a job at the engine speed where the throttle works hardest, side by side. The three
 * demand schools are carried to a bore by the job's own loss limit; "bench rating" is the habit of taking the catalogue
 * figure at 28 inH₂O equal to the demand. Airflow basis §3, §7, §9.
 */
export function jobSchools(doc: SizedJob, model: JobModel, bounds: JobBounds): School[] {
  const { worst, limits } = bounds;
  const { shaft_m, edge, count } = doc.car.stock.throttle;
  const pulsation = jobPulsation(doc);
  const problem = { p0_Pa: worst.p0_Pa, T0_K: worst.T0_K, shaft_m, edge, count };
  const limit_Pa = limits.loss_Pa / (pulsation?.own ?? 1);
  const bore = (massFlow_kgps: number | null, at_Pa: number): number | null => {
    if (massFlow_kgps === null) return null;
    const found = boreByBench({ ...problem, massFlow_kgps, limit_Pa: at_Pa, benchRatio: limits.benchRatio });
    return isFailure(found) ? null : found;
  };
  const boosted = model.problem.kind !== 'na';
  const { bsfc_kgpJ, afr } = doc.car.power;
  const at = model.rpm.indexOf(worst.rpm);
  const power_W = model.reference.result.power_W[at]!;
  const byPower =
    doc.car.from.power === 'measured'
      ? power_W * bsfc_kgpJ * afr
      : power_W *
        (boosted ? FUELLING['boosted-intercooled'].bsfc_kgpJ : FUELLING.na.bsfc_kgpJ) *
        (boosted ? FUELLING['boosted-intercooled'].afr : FUELLING.na.afr);
  const meter = doc.car.measured.air;
  const byMeter = meter ? meter.value.reduce((a, b) => Math.max(a, b), 0) : null;
  const air = airState(doc.car.weather);
  const byDisplacement = isFailure(air) ? null : worst.massFlow_kgps;
  return [
    { key: 'displacement', massFlow_kgps: byDisplacement, bore_m: bore(byDisplacement, limit_Pa) },
    { key: 'power', massFlow_kgps: byPower, bore_m: bore(byPower, limit_Pa) },
    { key: 'meter', massFlow_kgps: byMeter, bore_m: bore(byMeter, limit_Pa) },
    { key: 'bench rating', massFlow_kgps: worst.massFlow_kgps, bore_m: bore(worst.massFlow_kgps, CHAIN_DEPRESSION_Pa) },
    { key: 'gas speed', massFlow_kgps: worst.massFlow_kgps, bore_m: bounds.gasSpeed_m },
    { key: 'loss', massFlow_kgps: worst.massFlow_kgps, bore_m: bounds.loss_m },
    { key: 'power left', massFlow_kgps: null, bore_m: bounds.power_m },
  ];
}

/** Demand carried to bench air, m³/s: ṁ/√(ρ·ρ_bench), ρ at the throttle's inlet. Airflow basis §9.3. */
export const demandOnBench = (massFlow_kgps: number, p0_Pa: number, T0_K: number): number =>
  massFlow_kgps / Math.sqrt((p0_Pa / (R_DRY * T0_K)) * BENCH_DENSITY_kgpm3);
