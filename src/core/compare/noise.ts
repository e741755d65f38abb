import { failure, type Failure } from '../failure';
import { studentQuantile } from '../numbers/student';

/** Scatter of one run about the true figure when nobody has measured it, %. Testing basis §4. */
export const ASSUMED_RUN_SD_pct = 0.8;
/** Standard normal 97.5 % point. */
const NORMAL_975 = 1.959963984540054;

export interface RunNoise {
  readonly sd: number;
  /** Degrees of freedom of the pooled SD; null when it is an assumption. */
  readonly df: number | null;
  /** How far apart two single runs of the same thing may lie by noise alone, 95 %: quantile·√2·SD. */
  readonly halfRange: number;
}

/**
 * Run-to-run noise from repeated baselines (pooled), or from an assumed SD. The unit is that of what is given.
 * `too_few_runs` where no baseline has been repeated. Testing basis §4.
 */
export function runNoise(input: {
  baselines?: readonly (readonly number[])[] | undefined;
  assumedSd?: number | undefined;
}): RunNoise | Failure {
  if (!input.baselines) {
    const sd = input.assumedSd ?? ASSUMED_RUN_SD_pct;
    return sd > 0 ? { sd, df: null, halfRange: NORMAL_975 * Math.SQRT2 * sd } : failure('bad_input');
  }
  let squares = 0;
  let df = 0;
  for (const runs of input.baselines) {
    if (runs.length === 0) continue;
    const mean = runs.reduce((s, v) => s + v, 0) / runs.length;
    squares += runs.reduce((s, v) => s + (v - mean) ** 2, 0);
    df += runs.length - 1;
  }
  if (df < 1) return failure('too_few_runs');
  const sd = Math.sqrt(squares / df);
  return { sd, df, halfRange: studentQuantile(0.975, df) * Math.SQRT2 * sd };
}
