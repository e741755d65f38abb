import { failure, type Failure } from '../failure';
import { meanOf, varianceOf } from '../numbers/moments';
import { studentCdf, studentQuantile } from '../numbers/student';

export interface Welch {
  /** Mean of b less mean of a, in the unit of what is given. */
  readonly difference: number;
  readonly standardError: number;
  readonly df: number;
  readonly low: number;
  readonly high: number;
  readonly t: number;
  /** Two-sided. */
  readonly p: number;
  readonly nA: number;
  readonly nB: number;
}

/**
 * Difference of two means with unequal variances and its t interval. `too_few_runs` with fewer than two on a side,
 * `no_spread` where neither side scatters. Welch 1947; testing basis §4.
 */
export function welch(a: readonly number[], b: readonly number[], level = 0.95): Welch | Failure {
  if (a.length < 2 || b.length < 2) return failure('too_few_runs');
  const va = varianceOf(a) / a.length;
  const vb = varianceOf(b) / b.length;
  const standardError = Math.sqrt(va + vb);
  if (!(standardError > 0)) return failure('no_spread');
  const df = (va + vb) ** 2 / (va ** 2 / (a.length - 1) + vb ** 2 / (b.length - 1));
  const difference = meanOf(b) - meanOf(a);
  const t = difference / standardError;
  const half = studentQuantile(0.5 + level / 2, df) * standardError;
  return {
    difference,
    standardError,
    df,
    low: difference - half,
    high: difference + half,
    t,
    p: 2 * studentCdf(-Math.abs(t), df),
    nA: a.length,
    nB: b.length,
  };
}
