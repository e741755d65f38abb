import {
  BY_DAY_FACTORS,
  BY_DAY_WEIGHTS,
  DAY_OCTAVES,
  GRID,
  logPrior,
  momentsOf,
  SCATTER_RATIOS,
  SCATTER_WEIGHTS,
  SIZES,
  weightsOf,
  type Size,
} from './grid';
import { heavy, type Mixture } from './mixture';
import { NodeSolver, OUTLIER_VARIANCES, type NodeSizes } from './node';
import type { Components } from './rig';
import { GROUPS, type Group, type Study } from './study';

/** Chance of any one run to be an outlier. */
export const OUTLIER_CHANCE = 0.04;
/** A node is left out with other scatter ratios where it falls this far below the best, in ln. */
const SCREENED_BELOW = 14;
/** Nodes this far below the best, in ln, add nothing to what is averaged over nodes. */
const UNSEEN_BELOW = 40;

/** A node of the posterior: its sizes, its weight, its own mean and its variance without an outlier. */
export interface PosteriorNode {
  readonly sizes: NodeSizes;
  readonly weight: number;
  readonly mean: number;
  readonly variance: number;
}

export interface Posterior {
  readonly mixture: Mixture;
  /** Only with `nodes`: every node with its weight. */
  readonly nodes: readonly PosteriorNode[];
  /** By run: how probable it is an outlier. */
  readonly outlierP: readonly number[];
  /** By run: the estimate is weights·values. */
  readonly weights: readonly number[];
  /** By group, summing to one: what carries the width. */
  readonly shares: Readonly<Record<Group, number>>;
  /** Octaves of run, refit and day after the data. */
  readonly sizes: Readonly<Record<Size, { readonly mean: number; readonly variance: number }>>;
  /** Posterior mean of a column's coefficient that was asked for; null: not asked. */
  readonly coefficient: number | null;
}

/** A node to be looked at: where on the grid, its sizes, ln of its prior weight. */
interface Candidate {
  readonly at: number;
  readonly sizes: NodeSizes;
  readonly logPrior: number;
  readonly screens: boolean;
}

const sizesOf = (row: Components, o: { run: number; refit: number; day: number }, kappa: number, byDay: number): NodeSizes => ({
  run: row.run * 2 ** o.run,
  refit: row.refit * 2 ** o.refit,
  dayFactor: 2 ** o.day,
  kappa,
  byDay,
});

/** ln prior of every node of run × refit with the day's weights added up, by the index of its middle day. */
export function withoutDay(prior: Float64Array): { readonly at: number; readonly log: number }[] {
  const out: { at: number; log: number }[] = [];
  const days = DAY_OCTAVES.length;
  for (let i = 0; i < prior.length; i += days) {
    const own = prior.subarray(i, i + days);
    const top = Math.max(...own);
    out.push({ at: i + (days - 1) / 2, log: top + Math.log(own.reduce((s, v) => s + Math.exp(v - top), 0)) });
  }
  return out;
}

/** Every node of a study, those with equal scatter on both sides first: the others are screened by them. */
function candidates(study: Study, row: Components, prior: Float64Array): Candidate[] {
  const several = study.visits.length > 1;
  const grid = several ? GRID.map((_, at) => ({ at, log: prior[at]! })) : withoutDay(prior);
  const byDay = study.visitsWithBoth >= 2 ? BY_DAY_FACTORS.map((f, i) => [f, BY_DAY_WEIGHTS[i]!] as const) : ([[1, 1]] as const);
  const all = grid.flatMap(({ at, log }) =>
    SCATTER_RATIOS.flatMap((kappa, k) =>
      byDay.map(([factor, weight]) => ({
        at,
        sizes: sizesOf(row, GRID[at]!, kappa, factor),
        logPrior: log + Math.log(SCATTER_WEIGHTS[k]! * weight),
        screens: kappa === 1 && factor === 1,
      })),
    ),
  );
  return [...all.filter((c) => c.screens), ...all.filter((c) => !c.screens)];
}

/**
 * The posterior of B − A: a mixture over the nodes of the grid and, in each, over no outlier or any one run being one. With
 * `coefficientOf` the posterior mean of that column's coefficient comes too. Testing basis §4.4 to §4.6, §4.9.
 */
export function posteriorOf(
  study: Study,
  row: Components,
  history?: readonly number[],
  coefficientOf: { readonly entries: Float64Array; readonly sd: number } | null = null,
): Posterior {
  const { n } = study;
  const prior = logPrior(history);
  const list = candidates(study, row, prior);
  const several = study.visits.length > 1;
  const solver = new NodeSolver(study);
  const none = n * Math.log(1 - OUTLIER_CHANCE);
  const one = Math.log(OUTLIER_CHANCE) + (n - 1) * Math.log(1 - OUTLIER_CHANCE);
  const width = n + 1;
  const logs = new Float64Array(list.length * width).fill(-Infinity);
  const means = new Float64Array(list.length * width);
  const sds = new Float64Array(list.length * width);
  const totals = new Float64Array(list.length).fill(-Infinity);
  const nodeMeans = new Float64Array(list.length);
  const variances = new Float64Array(list.length);
  // Averages over the nodes as they come, about the best of them so far.
  let best = -Infinity;
  let sum = 0;
  const outlier = new Float64Array(n);
  const runWeights = new Float64Array(n);
  const parts = new Float64Array(GROUPS.length);
  let coefficient = 0;
  const own = new Float64Array(n);
  const vector = new Float64Array(n);
  const projected = new Float64Array(n);
  const byNode = new Map<number, number>();
  let screen = -Infinity;
  list.forEach(({ at, sizes, logPrior: before, screens }, k) => {
    if (several && !screens && byNode.get(at)! < screen - SCREENED_BELOW) return;
    solver.solve(sizes);
    const base = k * width;
    const level = before + solver.logLikelihood;
    logs[base] = level + none;
    means[base] = solver.estimate;
    sds[base] = Math.sqrt(solver.variance);
    let top = logs[base]!;
    for (let i = 0; i < n; i += 1) {
      const d = OUTLIER_VARIANCES * solver.runVariance[i]!;
      const spread = 1 + d * solver.precision[i]!;
      const f = d / spread;
      const [g, u] = [solver.weights[i]!, solver.residual[i]!];
      const log = level + one - 0.5 * Math.log(spread) + 0.5 * f * u * u;
      logs[base + 1 + i] = log;
      means[base + 1 + i] = solver.estimate - g * f * u;
      sds[base + 1 + i] = Math.sqrt(solver.variance + f * g * g);
      own[i] = f;
      if (log > top) top = log;
    }
    let total = 0;
    for (let c = base; c < base + width; c += 1) total += Math.exp(logs[c]! - top);
    const log = top + Math.log(total);
    totals[k] = log;
    variances[k] = solver.variance;
    if (screens) {
      byNode.set(at, log);
      screen = Math.max(screen, log);
    }
    if (log < best - UNSEEN_BELOW) return;
    if (log > best) {
      const shrink = Math.exp(best - log);
      sum *= shrink;
      coefficient *= shrink;
      for (const sums of [outlier, runWeights, parts]) for (let i = 0; i < sums.length; i += 1) sums[i]! *= shrink;
      best = log;
    }
    const weight = Math.exp(log - best);
    sum += weight;
    let mean = Math.exp(logs[base]! - log) * means[base]!;
    for (let i = 0; i < n; i += 1) {
      const share = Math.exp(logs[base + 1 + i]! - log);
      mean += share * means[base + 1 + i]!;
      outlier[i]! += weight * share;
      vector[i] = share * solver.weights[i]! * own[i]!;
      // Of h·y less what an outlier takes: the same factor, with h in the place of g.
      own[i] = share * own[i]! * solver.residual[i]!;
    }
    nodeMeans[k] = mean;
    solver.share(sizes);
    for (let g = 0; g < parts.length; g += 1) parts[g]! += weight * solver.parts[g]!;
    solver.project(vector, projected);
    for (let i = 0; i < n; i += 1) runWeights[i]! += weight * (solver.weights[i]! - projected[i]!);
    if (coefficientOf) {
      solver.coefficient(coefficientOf.entries, coefficientOf.sd, vector);
      let value = 0;
      for (let i = 0; i < n; i += 1) value += vector[i]! * (study.y[i]! - own[i]!);
      coefficient += weight * value;
    }
  });
  // In place, and by hand: there are tens of thousands, most of nodes that were never looked at.
  for (const list of [logs, totals])
    for (let i = 0; i < list.length; i += 1) list[i] = list[i] === -Infinity ? 0 : Math.exp(list[i]! - best) / sum;
  const [weight, nodeWeight] = [logs, totals];
  const carried = parts.reduce((s, v) => s + v, 0);
  const day = several ? null : momentsOf(weightsOf(prior), (i) => GRID[i]!.day);
  const moments = (size: Size) => (size === 'day' && day ? day : momentsOf(nodeWeight, (k) => GRID[list[k]!.at]![size]));
  return {
    mixture: heavy(weight, means, sds),
    nodes: list.map(({ sizes }, k) => ({ sizes, weight: nodeWeight[k]!, mean: nodeMeans[k]!, variance: variances[k]! })),
    outlierP: Array.from(outlier, (v) => v / sum),
    weights: Array.from(runWeights, (v) => v / sum),
    shares: Object.fromEntries(GROUPS.map((g, i) => [g, carried > 0 ? parts[i]! / carried : 0])) as Record<Group, number>,
    sizes: Object.fromEntries(SIZES.map((s) => [s, moments(s)])) as Posterior['sizes'],
    coefficient: coefficientOf ? coefficient / sum : null,
  };
}
