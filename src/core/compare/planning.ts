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
  // The normal answer is near: a few steps from it find the exact one.
  const z = studentQuantile(1 - alpha / 2, 1e6) + studentQuantile(power, 1e6);
  const guess = Math.ceil(2 * ((z * sd) / effect) ** 2);
  if (guess > MOST_RUNS) return failure('bad_input', { reason: 'effect_too_small' });
  let high = Math.max(2, guess);
  if (chance(high) >= power) while (high > 2 && chance(high - 1) >= power) high -= 1;
  else {
    do high += 1;
    while (chance(high) < power);
  }
  return { runsPerSide: high, powerAtN: chance(high) };
}
