import { failure, type Failure } from '../failure';
import { leastSquares } from '../numbers/least-squares';
import { meanOf } from '../numbers/moments';
import { studentQuantile } from '../numbers/student';
import type { Estimate } from './answer';
import type { SideMark } from './permutation';

export interface Drift extends Estimate {
  /** Change from run to run that has nothing to do with the side. */
  readonly driftPerRun: number;
  readonly low: number;
  readonly high: number;
  /** Difference of the plain means, drift left in. */
  readonly rawDifference: number;
}

/** Whether the first part was run again after the other: without it a drift cannot be told from the part. */
export function returnsToA(side: readonly SideMark[]): boolean {
  const firstB = side.indexOf('B');
  return firstB > 0 && side.lastIndexOf('A') > firstB;
}

/**
 * A-B-A: values in run order as side + b·order, fitted together so that the interval pays for both. `no_return` without an
 * A run before and after the first B run; `too_few_runs` without a degree of freedom. Testing basis §4.
 */
export function driftEffect(input: { readonly values: readonly number[]; readonly side: readonly SideMark[] }): Drift | Failure {
  const { values, side } = input;
  if (!returnsToA(side)) return failure('no_return');
  const fit = leastSquares([values.map(() => 1), side.map((s) => (s === 'B' ? 1 : 0)), values.map((_, i) => i)], values);
  if (!fit || fit.df < 1) return failure('too_few_runs');
  const of = (mark: SideMark): number => meanOf(values.filter((_, i) => side[i] === mark));
  const difference = fit.coefficients[1]!;
  const standardError = fit.standardErrors[1]!;
  const half = studentQuantile(0.975, fit.df) * standardError;
  return {
    driftPerRun: fit.coefficients[2]!,
    difference,
    standardError,
    df: fit.df,
    low: difference - half,
    high: difference + half,
    rawDifference: of('B') - of('A'),
  };
}
