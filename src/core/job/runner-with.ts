import type { JobDoc } from '../documents/job';

/** Runners that can be tried, m. */
const SHORTEST_RUNNER_m = 0.04;
const LONGEST_RUNNER_m = 1.5;

/**
 * How much longer the runner becomes with a throttle of another length on it, m, and how long it then is: individual throttles
 * are part of their runners. `unit_m` with what goes under it. Null where that is not so, or a length is not known.
 */
export function runnerWith(
  car: Pick<JobDoc['car'], 'induction' | 'stock'>,
  runner_m: number,
  unit_m: number | null,
): { stock_m: number; unit_m: number; longer_m: number; length_m: number } | null {
  const stock_m = car.stock.fittings.length_m;
  if (car.induction.kind !== 'individual' || unit_m === null || stock_m === null) return null;
  const longer_m = unit_m - stock_m;
  const length_m = runner_m + longer_m;
  return length_m >= SHORTEST_RUNNER_m && length_m <= LONGEST_RUNNER_m ? { stock_m, unit_m, longer_m, length_m } : null;
}
