import { C_P, GAMMA } from '../flow/constants';

/** Exponent of an ideal compression, (γ−1)/γ. */
const COMPRESSION = (GAMMA - 1) / GAMMA;

/** A charge cooler: how much of the heat above its coolant it takes out, and what it costs at the largest flow. */
export interface Cooler {
  readonly effectiveness?: number | undefined;
  readonly coolant_K?: number | undefined;
  readonly loss_Pa?: number | undefined;
}

/** Airflow basis §8. */
export const COOLER_DEFAULTS = { effectiveness: 0.72, coolant_K: 315, loss_Pa: 4000 } as const;
/** Manifold-referenced volumetric efficiency of a boosted engine until its own is known. Airflow basis §8. */
export const MANIFOLD_VE = 0.92;
/** Adiabatic efficiency by kind of compressor. Airflow basis §8. */
export const ADIABATIC_EFFICIENCY = { roots: 0.62, screw: 0.7, centrifugal: 0.72, turbo: 0.72 } as const;
/** Share of the crank's drive power that reaches a belt-driven compressor. Airflow basis §8. */
export const BELT_EFFICIENCY = 0.95;

export interface CoolerFigures {
  readonly effectiveness: number;
  readonly coolant_K: number;
  readonly loss_Pa: number;
}

export function coolerFigures(c: Cooler | undefined): CoolerFigures {
  return {
    effectiveness: c?.effectiveness ?? COOLER_DEFAULTS.effectiveness,
    coolant_K: c?.coolant_K ?? COOLER_DEFAULTS.coolant_K,
    loss_Pa: c?.loss_Pa ?? COOLER_DEFAULTS.loss_Pa,
  };
}

/** Temperature, K, after a compression by `pressureRatio` from T₁ at an adiabatic efficiency. Airflow basis §8. */
export function compressedT(T1_K: number, pressureRatio: number, etaAd: number): number {
  return T1_K * (1 + (pressureRatio ** COMPRESSION - 1) / etaAd);
}

/** Charge temperature, K, after the cooler: T₂ − ε·(T₂ − T_c). Airflow basis §8. */
export function cooledT(T2_K: number, c: CoolerFigures): number {
  return T2_K - c.effectiveness * (T2_K - c.coolant_K);
}

/** Power, W, that a compressor takes off the crank. Airflow basis §8. */
export function drivePower(massFlow_kgps: number, T1_K: number, T2_K: number, beltEfficiency: number): number {
  return (massFlow_kgps * C_P * (T2_K - T1_K)) / beltEfficiency;
}
