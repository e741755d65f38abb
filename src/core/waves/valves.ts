import { linearTable } from '../numbers/curve';

/** A full four-stroke cycle, rad of crank. */
export const CYCLE_rad = 4 * Math.PI;

/** How a valve is moved: lift over crank angle is a squared sine. Angles rad from firing top dead centre, lengths m. */
export interface Lobe {
  /** Duration at the seat. */
  readonly duration_rad: number;
  readonly lift_m: number;
  /** Crank angle of the largest lift. */
  readonly centre_rad: number;
}

/**
 * Duration at the seat of a lobe told at a lift, rad: a squared sine of `lift_m` that stands above `toldLift_m` for
 * `duration_rad`. Source: docs/basis/waves.md §5.
 */
export function seatDuration(duration_rad: number, toldLift_m: number, lift_m: number): number {
  return duration_rad / (1 - (2 / Math.PI) * Math.asin(Math.sqrt(toldLift_m / lift_m)));
}

/** Lift at a crank angle, m; the angle may be any number of cycles away. */
export function liftAt(lobe: Lobe, angle_rad: number): number {
  const from = angle_rad - (lobe.centre_rad - lobe.duration_rad / 2);
  const into = from - Math.floor(from / CYCLE_rad) * CYCLE_rad;
  if (into <= 0 || into >= lobe.duration_rad) return 0;
  return lobe.lift_m * Math.sin((Math.PI * into) / lobe.duration_rad) ** 2;
}

/** Lift over head diameter → discharge coefficient on the curtain. Source: docs/basis/waves.md §5. */
const LIFT_RATIO = [0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3];
const DISCHARGE = [0.7, 0.7, 0.67, 0.63, 0.59, 0.55, 0.51];
/** Most that passes a valve held out of its own way: share of its head's area, times the discharge there. */
const HEAD_SHARE = 0.75;
const HEAD_DISCHARGE = 0.87;

/** Effective area of `count` valves of a head diameter at a lift, m²; no more than their port's area where one is given. */
export function valveArea(count: number, diameter_m: number, lift_m: number, portArea_m2 = Infinity): number {
  const curtain = linearTable(LIFT_RATIO, DISCHARGE, lift_m / diameter_m) * Math.PI * diameter_m * lift_m;
  const held = HEAD_SHARE * (Math.PI / 4) * diameter_m ** 2 * HEAD_DISCHARGE;
  return Math.min(count * Math.min(curtain, held), portArea_m2);
}

/** What a cylinder's room depends on: one cylinder's swept volume m³, compression ratio, crank radius over rod length. */
export interface CylinderShape {
  readonly swept_m3: number;
  readonly compressionRatio: number;
  readonly lambda: number;
}

/** Volume above the piston at a crank angle, m³: 0 and 2π rad are top dead centre. */
export function cylinderVolume(shape: CylinderShape, angle_rad: number): number {
  const rod = 1 / shape.lambda;
  const sin = Math.sin(angle_rad);
  const clearance = shape.swept_m3 / (shape.compressionRatio - 1);
  return clearance + (shape.swept_m3 / 2) * (1 + rod - Math.cos(angle_rad) - Math.sqrt(rod * rod - sin * sin));
}
