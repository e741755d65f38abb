import { failure, type Failure } from '../failure';

export interface BoringStep {
  readonly opening_m: number;
  /** Metal left round the opening after this bite, m; null: nobody measured it. */
  readonly wall_m: number | null;
  /** Gain over the opening as it was, %, and what this bite alone brings per millimetre of diameter; null: it cannot be solved. */
  readonly gain_pct: number | null;
  readonly perMillimetre_pct: number | null;
}

export interface BoringPlan {
  /** The opening before the first bite, and what the throttle brings on it. */
  readonly start: { readonly opening_m: number; readonly gain_pct: number | null };
  readonly steps: readonly BoringStep[];
  /** Why the plan ends where it does. */
  readonly endedBy: 'target' | 'wall' | 'no more gain';
}

/** A bite that brings less than this per millimetre is not worth the metal, %. Ours. */
export const LEAST_GAIN_pct_per_mm = 0.02;

/**
 * Opening a manifold in bites: each bite with the wall it leaves and the gain the model predicts. Ends at the target, where
 * the wall would become thinner than allowed, or where a whole millimetre brings next to nothing. Metres of diameter.
 */
export function boringPlan(input: {
  readonly from_m: number;
  readonly to_m: number;
  readonly bite_m: number;
  readonly wall_m?: number | null | undefined;
  readonly leastWall_m: number;
  readonly gainAt: (opening_m: number) => number | null;
}): BoringPlan | Failure {
  const { from_m, to_m, bite_m, wall_m = null, leastWall_m, gainAt } = input;
  if (!(from_m > 0) || !(to_m >= from_m) || !(bite_m > 0) || !(leastWall_m >= 0))
    return failure('bad_geometry', { reason: 'size_not_positive' });
  if (wall_m !== null && !(wall_m > 0)) return failure('bad_geometry', { reason: 'wall' });
  const steps: BoringStep[] = [];
  const start = { opening_m: from_m, gain_pct: gainAt(from_m) };
  let last = { opening: start.opening_m, gain: start.gain_pct };
  const bites = Math.ceil((to_m - from_m) / bite_m - 1e-9);
  for (let i = 1; i <= bites; i += 1) {
    const opening = Math.min(to_m, from_m + i * bite_m);
    const left = wall_m === null ? null : wall_m - (opening - from_m) / 2;
    if (left !== null && left < leastWall_m - 1e-12) return { start, steps, endedBy: 'wall' };
    const gain = gainAt(opening);
    const per = gain === null || last.gain === null ? null : (gain - last.gain) / ((opening - last.opening) * 1000);
    if (per !== null && per < LEAST_GAIN_pct_per_mm) return { start, steps, endedBy: 'no more gain' };
    steps.push({ opening_m: opening, wall_m: left, gain_pct: gain, perMillimetre_pct: per });
    last = { opening, gain };
  }
  return { start, steps, endedBy: 'target' };
}
