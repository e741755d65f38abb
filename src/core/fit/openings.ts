import { failure, isFailure, type Failure } from '../failure';
import { throttleWideOpen, type Throttle } from '../flow/throttle';

export interface OpeningCheck {
  readonly verdict: 'fits' | 'needs something' | 'does not fit';
  /** How far the throttle's bore stands over the opening all round, m; negative: the opening is the wider one. */
  readonly overhang_m: number;
  /** Ring of metal in the way of the air (unit wider), or ledge behind it (opening wider), m². */
  readonly lip_m2: number;
  readonly lipSide: 'into the flow' | 'behind the bore' | 'none';
}

/** Openings closer than this are one and the same to the air, m. */
const SAME_m = 0.00025;

/**
 * A throttle's bore set against the opening it bolts to, both centred: overhang, lip and whether the opening must be worked.
 * `largest_m` is the largest manifold bore its flange or the manifold's wall allows (null: not known). Sizes in metres.
 */
export function openingCheck(throttle: Throttle, bore_m: number, opening_m: number, largest_m: number | null): OpeningCheck | Failure {
  const wide = throttleWideOpen(throttle);
  if (isFailure(wide)) return wide;
  if (!(opening_m > 0)) return failure('bad_geometry', { where: 'opening', reason: 'size_not_positive' });
  const overhang_m = (bore_m - opening_m) / 2;
  const lip_m2 = Math.abs(wide.grossArea_m2 - (Math.PI / 4) * opening_m ** 2);
  if (Math.abs(overhang_m) <= SAME_m) return { verdict: 'fits', overhang_m, lip_m2, lipSide: 'none' };
  if (overhang_m < 0) return { verdict: 'fits', overhang_m, lip_m2, lipSide: 'behind the bore' };
  const tooFar = largest_m !== null && bore_m > largest_m;
  return { verdict: tooFar ? 'does not fit' : 'needs something', overhang_m, lip_m2, lipSide: 'into the flow' };
}
