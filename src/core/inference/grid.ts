/**
 * The sizes that are not known exactly, as a grid: run, refit and day in octaves about the rig's own figures, log-normal
 * with a log-sd of one half, run and refit correlated 0.4; order: run slowest, then refit, then day. Testing basis §4.4.
 */
const RUN_OCTAVES = [-2.4, -1.8, -1.2, -0.6, 0, 0.6, 1.2, 1.8, 2.4] as const;
const REFIT_OCTAVES = [-2, -1, 0, 1, 2] as const;
export const DAY_OCTAVES = [-1.25, 0, 1.25] as const;
export const GRID_SIZE = RUN_OCTAVES.length * REFIT_OCTAVES.length * DAY_OCTAVES.length;

/** Octaves in units of the log-sd. */
const U = Math.LN2 / 0.5;
const RUN_WITH_REFIT = 0.4;

/** B's scatter over A's, and the chances of each. */
export const SCATTER_RATIOS = [1 / 3, 1, 3] as const;
export const SCATTER_WEIGHTS = [0.15, 0.7, 0.15] as const;
/** Factors on the part's change from day to day, and their chances, where two days had both parts. */
export const BY_DAY_FACTORS = [1, 3] as const;
export const BY_DAY_WEIGHTS = [0.7, 0.3] as const;

export interface Octaves {
  readonly run: number;
  readonly refit: number;
  readonly day: number;
}

/** The octaves of every node. */
export const GRID: readonly Octaves[] = RUN_OCTAVES.flatMap((run) =>
  REFIT_OCTAVES.flatMap((refit) => DAY_OCTAVES.map((day) => ({ run, refit, day }))),
);

export const SIZES = ['run', 'refit', 'day'] as const;
export type Size = (typeof SIZES)[number];

/** ln of the prior weight of every node, not normalised; a shop's own history is added where there is one. */
export function logPrior(history?: readonly number[]): Float64Array {
  return Float64Array.from(GRID, (o, i) => {
    const [r, f, d] = [o.run * U, o.refit * U, o.day * U];
    return -0.5 * (r * r + (f - RUN_WITH_REFIT * r) ** 2 / (1 - RUN_WITH_REFIT ** 2) + d * d) + (history?.[i] ?? 0);
  });
}

/** Normalised weights out of logarithms. */
export function weightsOf(logs: ArrayLike<number>): Float64Array {
  const top = Math.max(...Array.from(logs));
  const out = Float64Array.from(logs, (v) => Math.exp(v - top));
  const sum = out.reduce((s, v) => s + v, 0);
  return out.map((v) => v / sum);
}

/** Weighted mean and variance of an octave. */
export function momentsOf(weights: ArrayLike<number>, octave: (i: number) => number): { readonly mean: number; readonly variance: number } {
  let [sum, mean, square] = [0, 0, 0];
  for (let i = 0; i < weights.length; i += 1) {
    const [w, k] = [weights[i]!, octave(i)];
    sum += w;
    mean += w * k;
    square += w * k * k;
  }
  return { mean: mean / sum, variance: square / sum - (mean / sum) ** 2 };
}

/** Below this share of the prior's variance a size counts as measured, not assumed. */
const MEASURED_SHARE = 0.5;

/** Whether a size is known by measurement: its octave's variance against that of the prior without any history. */
export function isMeasured(size: Size, variance: number): boolean {
  const prior = momentsOf(weightsOf(logPrior()), (i) => GRID[i]![size]).variance;
  return variance < MEASURED_SHARE * prior;
}
