import { failure, type Failure } from '../failure';

export type ThrottleShape = 'single' | 'twin' | 'oval' | 'individual';
export type ShaftEdge = 'round' | 'flattened' | 'knife';

/** Geometry of a throttle. Lengths in metres, angles in radians; several bores are equal and counted together. */
export interface Throttle {
  readonly shape: ThrottleShape;
  readonly bore_m?: number | undefined;
  readonly count?: number | undefined;
  readonly width_m?: number | undefined;
  readonly height_m?: number | undefined;
  readonly shaft_m?: number | undefined;
  readonly edge?: ShaftEdge | undefined;
  readonly K?: number | undefined;
  readonly closedAngle_rad?: number | undefined;
  readonly clearance_m?: number | undefined;
  readonly Cd?: number | undefined;
}

/** Loss coefficient on the net area by the shaft's finish. Airflow basis §6. */
const SHAFT_EDGE_K: Readonly<Record<ShaftEdge, number>> = { round: 0.2, flattened: 0.12, knife: 0.06 };
/** Closed blade angle from square to the bore: 7°. */
export const CLOSED_ANGLE_rad = (7 * Math.PI) / 180;
/** Gap between a shut blade and its bore, m. Airflow basis §9. */
export const BLADE_CLEARANCE_m = 4e-5;
export const THROTTLE_Cd = 0.7;

export interface WideOpen {
  readonly grossArea_m2: number;
  readonly blockedArea_m2: number;
  readonly netArea_m2: number;
  /** Length of all blade edges, m: what leaks when shut. */
  readonly perimeter_m: number;
  readonly K: number;
}

/** Bore of a round bore, height of an oval: the length the shaft's thickness is compared with. */
function acrossShaft(t: Throttle): number {
  return (t.shape === 'oval' ? t.height_m : t.bore_m) ?? NaN;
}

/** First thing that makes the geometry impossible, or null. */
export function throttleFailure(t: Throttle): Failure | null {
  const across = acrossShaft(t);
  const shaft = t.shaft_m ?? 0;
  const count = t.count ?? 1;
  const closed = t.closedAngle_rad ?? CLOSED_ANGLE_rad;
  if (!(across > 0)) return failure('bad_geometry', { reason: 'bore_not_positive' });
  if (t.shape === 'oval' && !((t.width_m ?? NaN) >= across)) return failure('bad_geometry', { reason: 'oval_higher_than_wide' });
  if (!(shaft >= 0)) return failure('bad_geometry', { reason: 'shaft_negative' });
  if (shaft >= across) return failure('bad_geometry', { reason: 'shaft_thicker_than_bore', facts: { shaft_m: shaft, bore_m: across } });
  if (!(count >= 1) || !Number.isInteger(count)) return failure('bad_geometry', { reason: 'count' });
  if (!(closed >= 0) || closed >= Math.PI / 2) return failure('bad_geometry', { reason: 'closed_angle' });
  return null;
}

/** Strip of a circle of diameter `bore_m` hidden by a shaft across it, m². */
function blockedStrip(bore_m: number, shaft_m: number): number {
  const r = bore_m / 2;
  const h = shaft_m / 2;
  return 2 * (r * r * Math.asin(h / r) + h * Math.sqrt(r * r - h * h));
}

/**
 * Areas, edge length and loss coefficient of a throttle held wide open, all bores together.
 * Refuses (`bad_geometry`) a shaft as thick as the bore, an oval higher than wide. Airflow basis §6.
 */
export function throttleWideOpen(t: Throttle): WideOpen | Failure {
  const refused = throttleFailure(t);
  if (refused) return refused;
  const count = t.count ?? 1;
  const shaft = t.shaft_m ?? 0;
  const K = t.K ?? SHAFT_EDGE_K[t.edge ?? 'round'];
  const d = acrossShaft(t);
  const straight = t.shape === 'oval' ? t.width_m! - d : 0;
  const gross = (Math.PI * d * d) / 4 + straight * d;
  const blocked = blockedStrip(d, shaft) + straight * shaft;
  return {
    grossArea_m2: count * gross,
    blockedArea_m2: count * blocked,
    netArea_m2: count * (gross - blocked),
    perimeter_m: count * (Math.PI * d + 2 * straight),
    K,
  };
}

/** Diameter of the circle with this area, m. */
export function equalAreaBore(area_m2: number): number {
  return Math.sqrt((4 * area_m2) / Math.PI);
}

/** The plate angle from which the shaft hides the plate and the area no longer grows, rad. */
export function fullAngle(t: Throttle): number {
  const closed = t.closedAngle_rad ?? CLOSED_ANGLE_rad;
  return Math.acos(((t.shaft_m ?? 0) / acrossShaft(t)) * Math.cos(closed));
}

/**
 * Open area, m², at a plate angle, rad: 0 at and below the closed angle, the net area at and beyond the full angle.
 * Harrington & Bolt (SAE 700082); Heywood eq. 7.18; the oval's straight part added. Airflow basis §6. Valid geometry only.
 */
export function throttleOpenArea(t: Throttle, angle_rad: number): number {
  const closed = t.closedAngle_rad ?? CLOSED_ANGLE_rad;
  if (angle_rad <= closed) return 0;
  const d = acrossShaft(t);
  const shaft = t.shaft_m ?? 0;
  const a = shaft / d;
  const c0 = Math.cos(closed);
  const c = Math.max(Math.cos(angle_rad), a * c0);
  const gross = (Math.PI * d * d) / 4;
  const round = c <= a * c0 ? roundAreaWideOpen(a) : roundAreaShare(a, c, c0);
  const straight = t.shape === 'oval' ? (t.width_m! - d) * (d - Math.max((d * c) / c0, shaft)) : 0;
  return (t.count ?? 1) * (gross * round + straight);
}

function roundAreaShare(a: number, c: number, c0: number): number {
  const shadow = a === 0 ? 0 : (a / c) * Math.sqrt(Math.max(0, c * c - a * a * c0 * c0)) + (c / c0) * Math.asin(Math.min(1, (a * c0) / c));
  return 1 - c / c0 + (2 / Math.PI) * (shadow - a * Math.sqrt(1 - a * a) - Math.asin(a));
}

/** The formula's value where cosψ = a·cosψ₀: 1 − (2/π)(a√(1−a²) + asin a), the net share. */
function roundAreaWideOpen(a: number): number {
  return 1 - (2 / Math.PI) * (a * Math.sqrt(1 - a * a) + Math.asin(a));
}

/** Plate angle, rad, at a percent opening: linear from the closed angle (0) to 90° (100). */
export function openingAngle(t: Throttle, opening_pct: number): number {
  const closed = t.closedAngle_rad ?? CLOSED_ANGLE_rad;
  return closed + (opening_pct / 100) * (Math.PI / 2 - closed);
}

/** Effective area, m²: C_d·(open area + edge length × clearance). Airflow basis §10. */
export function throttleEffectiveArea(t: Throttle, angle_rad: number): number {
  const wide = throttleWideOpen(t);
  const perimeter = 'error' in wide ? NaN : wide.perimeter_m;
  return (t.Cd ?? THROTTLE_Cd) * (throttleOpenArea(t, angle_rad) + perimeter * (t.clearance_m ?? BLADE_CLEARANCE_m));
}
