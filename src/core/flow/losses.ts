import { failure, type Failure } from '../failure';
import { linearTable } from '../numbers/curve';

/** Edge radius over bore → K of an open end. Crane TP-410; airflow basis §5. */
const ENTRY_RADIUS = [0, 0.02, 0.04, 0.06, 0.1, 0.15];
const ENTRY_K = [0.5, 0.28, 0.24, 0.15, 0.09, 0.04];

/** Loss coefficient of an open end of `bore_m` with an edge radius, both m. */
export function entryK(bore_m: number, edgeRadius_m: number): number {
  return linearTable(ENTRY_RADIUS, ENTRY_K, edgeRadius_m / bore_m);
}

/** Bend radius over bore → K of 90°. 0.5 is the mitre; airflow basis §5. */
const BEND_RATIO = [0.5, 1, 1.5, 2, 3];
const BEND_K90 = [0.9, 0.3, 0.21, 0.18, 0.18];

export interface Bend {
  readonly angle_rad: number;
  readonly radiusRatio?: number | undefined;
  readonly mitred?: boolean | undefined;
}

/** Loss coefficient of one bend; refuses a radius ratio below 0.5 (the inner walls would cross). */
export function bendK(bend: Bend): number | Failure {
  const ratio = bend.mitred ? 0.5 : (bend.radiusRatio ?? 1.5);
  if (!(ratio >= 0.5)) return failure('bad_geometry', { reason: 'bend_too_tight' });
  if (!(bend.angle_rad >= 0)) return failure('bad_geometry', { reason: 'bend_angle' });
  return linearTable(BEND_RATIO, BEND_K90, ratio) * (bend.angle_rad / (Math.PI / 2));
}

/** Dynamic viscosity of air, Pa·s, by Sutherland's law (1.716e-5 Pa·s at 273.15 K, 110.4 K). */
export function airViscosity(T_K: number): number {
  const share = T_K / 273.15;
  return 1.716e-5 * share * Math.sqrt(share) * ((273.15 + 110.4) / (T_K + 110.4));
}

/** Below this Reynolds number pipe flow is laminar. */
const LAMINAR_REYNOLDS = 2300;
/** Below this nothing moves. */
const STILL_REYNOLDS = 1e-6;

/** The wall's share in Haaland's formula, (ε/D/3.7)^1.11: it does not depend on the flow. */
export function haalandRoughness(roughness_m: number, bore_m: number): number {
  return (roughness_m / bore_m / 3.7) ** 1.11;
}

/** Darcy friction factor: 64/Re when laminar, Haaland 1983 above; `wall` from haalandRoughness. */
export function frictionFactor(reynolds: number, wall: number): number {
  // At (nearly) no flow 64/Re runs away while the head it multiplies is nothing: their product is nothing too.
  if (reynolds < STILL_REYNOLDS) return 0;
  if (reynolds < LAMINAR_REYNOLDS) return 64 / reynolds;
  const root = -1.8 * Math.log10(wall + 6.9 / reynolds);
  return 1 / (root * root);
}

/** Reynolds number of ṁ (kg/s) in one pipe of `bore_m`, viscosity in Pa·s. */
function pipeReynolds(massFlow_kgps: number, bore_m: number, viscosity_Pas: number): number {
  return (4 * massFlow_kgps) / (Math.PI * bore_m * viscosity_Pas);
}

export interface PipeLoss {
  readonly viscosity_Pas: number;
  readonly reynolds: number;
  readonly frictionFactor: number;
  readonly bendK: number;
  readonly K: number;
}

/** Friction and bends of a pipe at a flow. Lengths m, ṁ kg/s (of this pipe alone), T₀ K. Airflow basis §5. */
export function pipeLoss(
  pipe: { bore_m: number; length_m: number; roughness_m?: number | undefined; bends?: readonly Bend[] | undefined },
  massFlow_kgps: number,
  T0_K: number,
): PipeLoss | Failure {
  if (!(pipe.bore_m > 0) || !(pipe.length_m >= 0)) return failure('bad_geometry', { reason: 'pipe_size' });
  let bends = 0;
  for (const bend of pipe.bends ?? []) {
    const K = bendK(bend);
    if (typeof K !== 'number') return K;
    bends += K;
  }
  const viscosity_Pas = airViscosity(T0_K);
  const reynolds = pipeReynolds(massFlow_kgps, pipe.bore_m, viscosity_Pas);
  const f = frictionFactor(reynolds, haalandRoughness(pipe.roughness_m ?? SMOOTH_ROUGHNESS_m, pipe.bore_m));
  return { viscosity_Pas, reynolds, frictionFactor: f, bendK: bends, K: (f * pipe.length_m) / pipe.bore_m + bends };
}

/** Wall roughness by kind of hose, m. */
export const SMOOTH_ROUGHNESS_m = 1.5e-6;
export const SILICONE_ROUGHNESS_m = 1e-5;
export const CONVOLUTED_ROUGHNESS_m = 2e-3;

/** Half-angle up to which a transition is a taper and not a step: 22.5°. */
export const TAPER_LIMIT_rad = (22.5 * Math.PI) / 180;

/**
 * Loss coefficient of the change from one area to the next, on the dynamic head in the smaller one.
 * `halfAngle_rad` π/2 is a bare step; a radius on the edge (m) scales a narrowing by the open-end table. Airflow basis §5.
 */
export function junctionK(upArea_m2: number, downArea_m2: number, halfAngle_rad = Math.PI / 2, edgeRadius_m = 0): number {
  if (upArea_m2 === downArea_m2) return 0;
  const sin = Math.sin(halfAngle_rad);
  const gentle = halfAngle_rad <= TAPER_LIMIT_rad;
  if (downArea_m2 > upArea_m2) {
    const full = (1 - upArea_m2 / downArea_m2) ** 2;
    return gentle ? Math.min(full, 2.6 * sin * full) : full;
  }
  const rest = 1 - downArea_m2 / upArea_m2;
  const K = gentle ? 0.8 * sin * rest : 0.5 * rest * Math.sqrt(sin);
  return K * (entryK(Math.sqrt((4 * downArea_m2) / Math.PI), edgeRadius_m) / ENTRY_K[0]!);
}

/** Area common to two circles whose centres are `offset_m` apart, m²; 0 where they miss each other. */
export function lensArea(boreA_m: number, boreB_m: number, offset_m: number): number {
  const a = boreA_m / 2;
  const b = boreB_m / 2;
  const s = Math.abs(offset_m);
  if (s >= a + b) return 0;
  if (s <= Math.abs(a - b)) return Math.PI * Math.min(a, b) ** 2;
  const fromA = Math.acos((s * s + a * a - b * b) / (2 * s * a));
  const fromB = Math.acos((s * s + b * b - a * a) / (2 * s * b));
  const kite = 0.5 * Math.sqrt((-s + a + b) * (s + a - b) * (s - a + b) * (s + a + b));
  return a * a * fromA + b * b * fromB - kite;
}
