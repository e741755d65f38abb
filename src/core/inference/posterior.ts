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

/** A column whose coefficient is wanted too: its entries by run, its prior sd. */
interface Wanted {
  readonly entries: Float64Array;
  readonly sd: number;
}

const NO_OUTLIER = (n: number): number => n * Math.log(1 - OUTLIER_CHANCE);
const ONE_OUTLIER = (n: number): number => Math.log(OUTLIER_CHANCE) + (n - 1) * Math.log(1 - OUTLIER_CHANCE);

/**
 * The posterior of one set of values as it grows, node by node: the nodes' components as they are, and averages over the nodes
 * about the best of them so far.
 */
class Growing {
  readonly logs: Float64Array;
  readonly means: Float64Array;
  readonly sds: Float64Array;
  readonly totals: Float64Array;
  readonly nodeMeans: Float64Array;
  readonly variances: Float64Array;
  best = -Infinity;
  sum = 0;
  readonly outlier: Float64Array;
  readonly runWeights: Float64Array;
  readonly parts = new Float64Array(GROUPS.length);
  coefficient = 0;
  private readonly own: Float64Array;
  private readonly vector: Float64Array;
  private readonly projected: Float64Array;
  private readonly byNode = new Map<number, number>();
  private screen = -Infinity;
  private readonly none: number;
  private readonly one: number;

  constructor(
    /** Values less their mean. */
    readonly y: Float64Array,
    nodes: number,
    private readonly several: boolean,
    private readonly wanted: Wanted | null,
  ) {
    const n = y.length;
    const width = n + 1;
    this.logs = new Float64Array(nodes * width).fill(-Infinity);
    this.means = new Float64Array(nodes * width);
    this.sds = new Float64Array(nodes * width);
    this.totals = new Float64Array(nodes).fill(-Infinity);
    this.nodeMeans = new Float64Array(nodes);
    this.variances = new Float64Array(nodes);
    this.outlier = new Float64Array(n);
    this.runWeights = new Float64Array(n);
    this.own = new Float64Array(n);
    this.vector = new Float64Array(n);
    this.projected = new Float64Array(n);
    this.none = NO_OUTLIER(n);
    this.one = ONE_OUTLIER(n);
  }

  /** Whether the node of equal scatter has said that the others of its place need no look. */
  passesOver({ at, screens }: Candidate): boolean {
    return this.several && !screens && this.byNode.get(at)! < this.screen - SCREENED_BELOW;
  }

  /** Takes in node k, which the solver has laid out. */
  add(k: number, { at, sizes, logPrior: before, screens }: Candidate, solver: NodeSolver): void {
    const { logs, means, sds, own, vector, projected, outlier, runWeights, parts, wanted, y } = this;
    const n = y.length;
    solver.fit(y);
    const base = k * (n + 1);
    const level = before + solver.logLikelihood;
    logs[base] = level + this.none;
    means[base] = solver.estimate;
    sds[base] = Math.sqrt(solver.variance);
    let top = logs[base]!;
    for (let i = 0; i < n; i += 1) {
      const d = OUTLIER_VARIANCES * solver.runVariance[i]!;
      const spread = 1 + d * solver.precision[i]!;
      const f = d / spread;
      const [g, u] = [solver.weights[i]!, solver.residual[i]!];
      const log = level + this.one - 0.5 * Math.log(spread) + 0.5 * f * u * u;
      logs[base + 1 + i] = log;
      means[base + 1 + i] = solver.estimate - g * f * u;
      sds[base + 1 + i] = Math.sqrt(solver.variance + f * g * g);
      own[i] = f;
      if (log > top) top = log;
    }
    let total = 0;
    for (let c = base; c <= base + n; c += 1) total += Math.exp(logs[c]! - top);
    const log = top + Math.log(total);
    this.totals[k] = log;
    this.variances[k] = solver.variance;
    if (screens) {
      this.byNode.set(at, log);
      this.screen = Math.max(this.screen, log);
    }
    if (log < this.best - UNSEEN_BELOW) return;
    if (log > this.best) {
      const shrink = Math.exp(this.best - log);
      this.sum *= shrink;
      this.coefficient *= shrink;
      for (const sums of [outlier, runWeights, parts]) for (let i = 0; i < sums.length; i += 1) sums[i]! *= shrink;
      this.best = log;
    }
    const weight = Math.exp(log - this.best);
    this.sum += weight;
    let mean = Math.exp(logs[base]! - log) * means[base]!;
    for (let i = 0; i < n; i += 1) {
      const share = Math.exp(logs[base + 1 + i]! - log);
      mean += share * means[base + 1 + i]!;
      outlier[i]! += weight * share;
      vector[i] = share * solver.weights[i]! * own[i]!;
      // Of h·y less what an outlier takes: the same factor, with h in the place of g.
      own[i] = share * own[i]! * solver.residual[i]!;
    }
    this.nodeMeans[k] = mean;
    solver.share(sizes);
    for (let g = 0; g < parts.length; g += 1) parts[g]! += weight * solver.parts[g]!;
    solver.project(vector, projected);
    for (let i = 0; i < n; i += 1) runWeights[i]! += weight * (solver.weights[i]! - projected[i]!);
    if (wanted) {
      solver.coefficient(wanted.entries, wanted.sd, vector);
      let value = 0;
      for (let i = 0; i < n; i += 1) value += vector[i]! * (y[i]! - own[i]!);
      this.coefficient += weight * value;
    }
  }

  /** What all nodes say together. Ends it: its lists are turned into weights in place. */
  posterior(nodes: readonly Candidate[], prior: Float64Array): Posterior {
    const { logs: weight, totals: nodeWeight, means, sds, best, sum, parts } = this;
    // In place, and by hand: there are tens of thousands, most of nodes that were never looked at.
    for (const list of [weight, nodeWeight])
      for (let i = 0; i < list.length; i += 1) list[i] = list[i] === -Infinity ? 0 : Math.exp(list[i]! - best) / sum;
    const carried = parts.reduce((s, v) => s + v, 0);
    const day = this.several ? null : momentsOf(weightsOf(prior), (i) => GRID[i]!.day);
    const moments = (size: Size) => (size === 'day' && day ? day : momentsOf(nodeWeight, (k) => GRID[nodes[k]!.at]![size]));
    return {
      mixture: heavy(weight, means, sds),
      nodes: nodes.map(({ sizes }, k) => ({
        sizes,
        weight: nodeWeight[k]!,
        mean: this.nodeMeans[k]!,
        variance: this.variances[k]!,
      })),
      outlierP: Array.from(this.outlier, (v) => v / sum),
      weights: Array.from(this.runWeights, (v) => v / sum),
      shares: Object.fromEntries(GROUPS.map((g, i) => [g, carried > 0 ? parts[i]! / carried : 0])) as Record<Group, number>,
      sizes: Object.fromEntries(SIZES.map((s) => [s, moments(s)])) as Posterior['sizes'],
      coefficient: this.wanted ? this.coefficient / sum : null,
    };
  }
}

/**
 * The posteriors of several sets of values of the same runs, each less its own mean: what a node takes most time for, how the
 * runs lie, is worked once for all of them. Of each set what `posteriorOf` gives, to the last bit.
 */
export function posteriorsOf(
  study: Study,
  values: readonly Float64Array[],
  row: Components,
  history?: readonly number[],
  coefficientOf: Wanted | null = null,
): Posterior[] {
  const prior = logPrior(history);
  const nodes = candidates(study, row, prior);
  const solver = new NodeSolver(study);
  const growing = values.map((y) => new Growing(y, nodes.length, study.visits.length > 1, coefficientOf));
  nodes.forEach((node, k) => {
    const looking = growing.filter((g) => !g.passesOver(node));
    if (looking.length === 0) return;
    solver.lay(node.sizes);
    for (const g of looking) g.add(k, node, solver);
  });
  return growing.map((g) => g.posterior(nodes, prior));
}

/**
 * The posterior of B − A: a mixture over the nodes of the grid and, in each, over no outlier or any one run being one. With
 * `coefficientOf` the posterior mean of that column's coefficient comes too. Testing basis §4.4 to §4.6, §4.9.
 */
export const posteriorOf = (study: Study, row: Components, history?: readonly number[], coefficientOf: Wanted | null = null): Posterior =>
  posteriorsOf(study, [study.y], row, history, coefficientOf)[0]!;
