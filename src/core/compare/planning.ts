import { failure, type Failure } from '../failure';
import { noncentralTCdf } from '../numbers/noncentral';
import { studentQuantile } from '../numbers/student';

export interface RunsNeeded {
  readonly runsPerSide: number;
  /** Chance of telling the effect with that many. */
  readonly powerAtN: number;
}

/** More than anybody drives; beyond it the answer is "not with this scatter". */
export const MOST_RUNS = 100_000;

/** Chance that n runs a side tell an effect from noise of SD `sd` at a two-sided level `alpha`: noncentral t, both tails. */
export function powerWith(n: number, effect: number, sd: number, alpha = 0.05): number {
  const df = 2 * n - 2;
  const delta = Math.abs(effect) / (sd * Math.sqrt(2 / n));
  const limit = studentQuantile(1 - alpha / 2, df);
  return 1 - noncentralTCdf(limit, df, delta) + noncentralTCdf(-limit, df, delta);
}

/**
 * Runs a side that tell an effect from the scatter of single runs, both in one unit. `bad_input` for an effect or scatter
 * of nothing or one that no number of runs would tell. Testing basis §4.
 */
export function runsPerSide(input: {
  readonly effect: number;
  readonly sd: number;
  readonly power?: number | undefined;
  readonly alpha?: number | undefined;
}): RunsNeeded | Failure {
  const { effect, sd, power = 0.8, alpha = 0.05 } = input;
  if (!(Math.abs(effect) > 0) || !(sd > 0)) return failure('bad_input');
  const chance = (n: number): number => powerWith(n, effect, sd, alpha);
  let high = 2;
  while (chance(high) < power) {
    high *= 2;
    if (high > MOST_RUNS) return failure('bad_input', { reason: 'effect_too_small' });
  }
  let low = Math.max(1, Math.floor(high / 2));
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (middle >= 2 && chance(middle) >= power) high = middle;
    else low = middle;
  }
  return { runsPerSide: high, powerAtN: chance(high) };
}
