import { failure, type Failure } from '../failure';
import { TAPER_LIMIT_rad } from '../flow/losses';

/** Half-angle an adapter's taper is made with where there is room: 7°, little loss without great length. */
export const GOOD_TAPER_rad = (7 * Math.PI) / 180;

export interface AdapterTaper {
  /** Half-angle to the axis that this thickness leads to, rad. */
  readonly halfAngle_rad: number;
  /** Thickness at the good half-angle, and the least at which it still counts as a taper, m. */
  readonly goodLength_m: number;
  readonly leastLength_m: number;
  readonly verdict: 'fits' | 'needs something';
  readonly reason: 'no taper needed' | 'smooth' | 'steep' | 'a step to the air';
}

/** The taper of an adapter plate between two openings, by its thickness. Metres. */
export function adapterTaper(from_m: number, to_m: number, thickness_m: number): AdapterTaper | Failure {
  if (!(from_m > 0) || !(to_m > 0) || !(thickness_m > 0)) return failure('bad_geometry', { reason: 'size_not_positive' });
  const rise = Math.abs(from_m - to_m) / 2;
  const halfAngle_rad = Math.atan(rise / thickness_m);
  const lengthAt = (angle: number): number => rise / Math.tan(angle);
  const out = { halfAngle_rad, goodLength_m: lengthAt(GOOD_TAPER_rad), leastLength_m: lengthAt(TAPER_LIMIT_rad) };
  if (rise === 0) return { ...out, verdict: 'fits', reason: 'no taper needed' };
  if (halfAngle_rad <= GOOD_TAPER_rad + 1e-12) return { ...out, verdict: 'fits', reason: 'smooth' };
  if (halfAngle_rad <= TAPER_LIMIT_rad + 1e-12) return { ...out, verdict: 'fits', reason: 'steep' };
  return { ...out, verdict: 'needs something', reason: 'a step to the air' };
}
