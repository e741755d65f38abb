import { failure, type Failure } from '../failure';
import { NORMAL_975 } from '../numbers/normal';
import { sortedQuantile } from '../numbers/quantile';
import { seededRandom } from '../numbers/random';
import { studentQuantile } from '../numbers/student';

export const BAND_DRAWS = 2000;

export interface Band {
  /** Difference of the side means, % of A's mean, at each grid point. */
  readonly difference_pct: number[];
  /** The whole curve lies within this of the truth, 95 %. */
  readonly halfWidth_pct: number;
  /** t quantile over the normal one. */
  readonly stretch: number;
}

type Curve = ArrayLike<number>;

function meanCurve(runs: readonly Curve[]): Float64Array {
  const out = new Float64Array(runs[0]!.length);
  for (const run of runs) for (let i = 0; i < out.length; i += 1) out[i]! += run[i]! / runs.length;
  return out;
}

/** Each run's stretched deviation from its side's mean, % of A's mean. */
function deviations(runs: readonly Curve[], mean: Float64Array, of: Float64Array): Float64Array[] {
  const stretch = Math.sqrt(runs.length / (runs.length - 1));
  return runs.map((run) => mean.map((m, i) => (100 * stretch * (run[i]! - m)) / of[i]!));
}

/**
 * Simultaneous 95 % band of constant width on the difference of two sides' mean curves: whole runs drawn again within
 * their side, stretched for the few there are. All runs on one grid. `too_few_runs` with one run on a side. Testing basis §4.
 */
export function differenceBand(input: {
  readonly a: readonly Curve[];
  readonly b: readonly Curve[];
  readonly draws?: number | undefined;
  readonly seed?: number | undefined;
}): Band | Failure {
  const { a, b, draws = BAND_DRAWS, seed = 1 } = input;
  if (a.length < 2 || b.length < 2) return failure('too_few_runs');
  const meanA = meanCurve(a);
  const meanB = meanCurve(b);
  const devA = deviations(a, meanA, meanA);
  const devB = deviations(b, meanB, meanA);
  const random = seededRandom(seed);
  const n = meanA.length;
  const largest = new Float64Array(draws);
  const sum = new Float64Array(n);
  for (let d = 0; d < draws; d += 1) {
    sum.fill(0);
    addDrawn(sum, devB, 1 / b.length, random);
    addDrawn(sum, devA, -1 / a.length, random);
    let most = 0;
    for (let i = 0; i < n; i += 1) {
      const d = sum[i]!;
      if (d > most) most = d;
      else if (-d > most) most = -d;
    }
    largest[d] = most;
  }
  largest.sort();
  const stretch = studentQuantile(0.975, a.length + b.length - 2) / NORMAL_975;
  return {
    difference_pct: Array.from(meanA, (m, i) => (100 * (meanB[i]! - m)) / m),
    halfWidth_pct: sortedQuantile(largest, 0.95) * stretch,
    stretch,
  };
}

function addDrawn(sum: Float64Array, deviation: readonly Float64Array[], weight: number, random: () => number): void {
  for (let k = 0; k < deviation.length; k += 1) {
    const run = deviation[Math.floor(random() * deviation.length)]!;
    for (let i = 0; i < sum.length; i += 1) sum[i]! += weight * run[i]!;
  }
}
