import { compareSidedRuns, extrasOfSides } from '../../core/job/comparison';
import { jobStrip } from '../../core/job/strip';
import { lookAtLog, type LogLook, type LoggedCar, type LogTraces } from '../../core/logs/compare-logs';
import { traceOf } from '../../core/logs/trace';
import type { Quantity } from '../../core/documents/run';
import { jobFindings } from '../../core/verdict/findings';

/** What a log says by its channels, each sampled at `time_s`. */
function log(time_s: Float64Array, values: ReadonlyMap<Quantity, Float64Array>, car: LoggedCar): LogLook {
  const traces: LogTraces = Object.fromEntries([...values].map(([quantity, v]) => [quantity, traceOf(time_s, v)]));
  return lookAtLog(traces, car);
}

/** What takes more than a moment, by name: what goes in and what comes out can be handed to another thread. */
interface Sums {
  readonly comparison: typeof compareSidedRuns;
  readonly extras: typeof extrasOfSides;
  readonly strip: typeof jobStrip;
  readonly log: typeof log;
  readonly findings: typeof jobFindings;
}
export type Sum = keyof Sums;
export type Given<K extends Sum> = Parameters<Sums[K]>;
export type Result<K extends Sum> = ReturnType<Sums[K]>;

const SUMS: { readonly [K in Sum]: (given: Given<K>) => Result<K> } = {
  comparison: (given) => compareSidedRuns(...given),
  extras: (given) => extrasOfSides(...given),
  strip: (given) => jobStrip(...given),
  log: (given) => log(...given),
  findings: (given) => jobFindings(...given),
};

export interface Asked<K extends Sum> {
  readonly sum: K;
  readonly given: Given<K>;
}

export const workedOut = <K extends Sum>({ sum, given }: Asked<K>): Result<K> => SUMS[sum](given);
