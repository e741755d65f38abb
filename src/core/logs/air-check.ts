import { demandByCylinderAir } from '../engine/demand';
import { meanOf } from '../numbers/moments';

export interface AirCrossCheck {
  readonly fromCylinder_kgps: number[];
  /** Cylinder air over the meter's reading, sample by sample. */
  readonly ratio: number[];
  readonly meanRatio: number;
  /** (largest − smallest)/mean of the ratio. */
  readonly wander: number;
  /** A ratio that wanders this much is no scaling error: one of the two channels is late or wrong. */
  readonly flagged: boolean;
}

/** Wander of the ratio from which one of the channels is not to be believed. Testing basis §2. */
const AIR_WANDER_LIMIT = 0.03;

/** Air per cylinder and stroke (kg) against the meter's mass flow (kg/s) over a pull. Four-stroke. Testing basis §2. */
export function airCrossCheck(input: {
  readonly cylinders: number;
  readonly rpm: ArrayLike<number>;
  readonly cylinderAir_kg: ArrayLike<number>;
  readonly massFlow_kgps: ArrayLike<number>;
}): AirCrossCheck {
  const { cylinders, rpm, cylinderAir_kg, massFlow_kgps } = input;
  const fromCylinder_kgps = Array.from(rpm, (n, i) => demandByCylinderAir(cylinderAir_kg[i]!, cylinders, n));
  const ratio = fromCylinder_kgps.map((m, i) => m / massFlow_kgps[i]!);
  const meanRatio = meanOf(ratio);
  const wander = (ratio.reduce((a, b) => Math.max(a, b), -Infinity) - ratio.reduce((a, b) => Math.min(a, b), Infinity)) / meanRatio;
  return { fromCylinder_kgps, ratio, meanRatio, wander, flagged: wander > AIR_WANDER_LIMIT };
}
