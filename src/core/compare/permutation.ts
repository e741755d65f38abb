import { failure, type Failure } from '../failure';
import { meanOf } from '../numbers/moments';
import { seededRandom } from '../numbers/random';

export type SideMark = 'A' | 'B';

export interface Permutation {
  /** Mean of B less mean of A, of the values less their own visit's mean. */
  readonly statistic: number;
  readonly splits: number;
  readonly exact: boolean;
  /** Share of splits at least as far from zero as the observed one. */
  readonly p: number;
}

/** All splits up to this many, seeded draws above. */
const MOST_SPLITS = 20_000;
const DEFAULT_SEED = 20_001;

function choose(n: number, k: number): number {
  let c = 1;
  for (let i = 1; i <= k; i += 1) c = (c * (n - k + i)) / i;
  return Math.round(c);
}

/** Sums of every choice of k of the values. */
function sumsOf(values: readonly number[], k: number): number[] {
  const sums: number[] = [];
  const walk = (from: number, left: number, sum: number): void => {
    if (left === 0) {
      sums.push(sum);
      return;
    }
    for (let i = from; i <= values.length - left; i += 1) walk(i + 1, left - 1, sum + values[i]!);
  };
  walk(0, k, 0);
  return sums;
}

/**
 * Exact two-sided permutation test of two sides, permuting within each visit where visits are given. Testing basis §4.
 * `one_side_only` where a side is missing.
 */
export function permutationTest(input: {
  readonly values: readonly number[];
  readonly side: readonly SideMark[];
  readonly visit?: readonly string[] | undefined;
  readonly seed?: number | undefined;
}): Permutation | Failure {
  const { values, side } = input;
  const nB = side.filter((s) => s === 'B').length;
  const nA = side.length - nB;
  if (nA === 0 || nB === 0) return failure('one_side_only');
  const visit = input.visit ?? values.map(() => '');
  const blocks = [...new Set(visit)].map((v) => {
    const at = values.map((_, i) => i).filter((i) => visit[i] === v);
    const mean = meanOf(at.map((i) => values[i]!));
    return { values: at.map((i) => values[i]! - mean), k: at.filter((i) => side[i] === 'B').length, at, mean };
  });
  // Each block's values sum to zero, so the statistic is B's sum alone, scaled.
  const scale = 1 / nA + 1 / nB;
  const observed = blocks.reduce((s, b) => s + b.at.reduce((t, i) => t + (side[i] === 'B' ? values[i]! - b.mean : 0), 0), 0) * scale;
  const splits = blocks.reduce((n, b) => n * choose(b.values.length, b.k), 1);
  const least = Math.abs(observed) - 1e-9 * values.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  if (splits <= MOST_SPLITS) {
    let sums = [0];
    for (const block of blocks) {
      const own = sumsOf(block.values, block.k);
      sums = sums.flatMap((s) => own.map((o) => s + o));
    }
    const count = sums.filter((s) => Math.abs(s * scale) >= least).length;
    return { statistic: observed, splits, exact: true, p: count / splits };
  }
  const random = seededRandom(input.seed ?? DEFAULT_SEED);
  let count = 0;
  for (let d = 0; d < MOST_SPLITS; d += 1) {
    let sum = 0;
    for (const block of blocks) sum += drawnSum(block.values, block.k, random);
    if (Math.abs(sum * scale) >= least) count += 1;
  }
  return { statistic: observed, splits, exact: false, p: (1 + count) / (1 + MOST_SPLITS) };
}

/** Sum of k members drawn without putting back (Fisher–Yates, its first k steps). */
function drawnSum(values: readonly number[], k: number, random: () => number): number {
  const pool = [...values];
  let sum = 0;
  for (let i = 0; i < k; i += 1) {
    const j = i + Math.floor(random() * (pool.length - i));
    [pool[i], pool[j]] = [pool[j]!, pool[i]!];
    sum += pool[i]!;
  }
  return sum;
}
