import type { ThreadedIn } from '../documents/kinds';
import { failure, type Failure } from '../failure';

/** Thread engagement wanted, in bolt diameters. Common practice; the maker's figure holds where there is one. */
const ENGAGEMENT_d: Readonly<Record<ThreadedIn, number>> = { steel: 1, aluminium: 1.5, 'plastic insert': 2 };

/** Lengths under the head that are sold, m. ISO 4762 and ISO 4017. */
export const BOLT_LENGTHS_m = [8, 10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 90, 100, 110, 120].map((mm) => mm / 1000);

/** Coarse pitch by nominal diameter, m. ISO 261. */
export const COARSE_PITCH_m: Readonly<Record<string, number>> = { M4: 7e-4, M5: 8e-4, M6: 1e-3, M8: 1.25e-3, M10: 1.5e-3 };

export interface BoltCheck {
  readonly verdict: 'fits' | 'needs something' | 'does not fit';
  /** Shortest and longest length under the head that does, m. */
  readonly shortest_m: number;
  readonly longest_m: number;
  /** Shortest length sold between them, m; null: none. */
  readonly offered_m: number | null;
  /** Thread the bolt at hand would hold in, m; null: no bolt given. */
  readonly engagement_m: number | null;
  readonly reason: 'fits' | 'too short' | 'bottoms' | 'no bolt yet' | 'hole too shallow';
}

/**
 * The bolt for a stack: everything it clamps (`grip_m`: flange, spacer, adapter, gasket, washer) and the thread under it.
 * It must engage enough and stop a pitch short of the hole's end. Lengths in metres.
 */
export function boltCheck(input: {
  readonly diameter_m: number;
  readonly pitch_m: number;
  readonly grip_m: number;
  /** Full thread from the face to the end of the hole, m. */
  readonly threadDepth_m: number;
  readonly into: ThreadedIn;
  readonly length_m?: number | null | undefined;
}): BoltCheck | Failure {
  const { diameter_m, pitch_m, grip_m, threadDepth_m, into, length_m = null } = input;
  if (!(diameter_m > 0) || !(pitch_m > 0) || !(grip_m >= 0) || !(threadDepth_m > 0) || (length_m !== null && !(length_m > 0)))
    return failure('bad_geometry', { reason: 'size_not_positive' });
  const shortest_m = grip_m + ENGAGEMENT_d[into] * diameter_m;
  const longest_m = grip_m + threadDepth_m - pitch_m;
  const engagement_m = length_m === null ? null : Math.max(0, Math.min(length_m - grip_m, threadDepth_m));
  const offered_m = BOLT_LENGTHS_m.find((l) => l >= shortest_m - 1e-9 && l <= longest_m + 1e-9) ?? null;
  const out = { shortest_m, longest_m, offered_m, engagement_m };
  if (longest_m < shortest_m) return { ...out, offered_m: null, verdict: 'does not fit', reason: 'hole too shallow' };
  if (length_m === null) return { ...out, verdict: 'needs something', reason: 'no bolt yet' };
  if (length_m < shortest_m - 1e-9) return { ...out, verdict: 'needs something', reason: 'too short' };
  if (length_m > longest_m + 1e-9) return { ...out, verdict: 'needs something', reason: 'bottoms' };
  return { ...out, verdict: 'fits', reason: 'fits' };
}
