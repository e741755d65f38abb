import { normalCdf, normalDensity } from '../numbers/normal';
import { BY_DAY_FACTORS, BY_DAY_WEIGHTS, GRID, logPrior, weightsOf } from './grid';
import { risingRoot } from './mixture';
import { NodeSolver, type NodeSizes } from './node';
import { withoutDay } from './posterior';
import { rigRow, type RigOptions, type RigRow } from './rig';
import { studyOf, type StudyRun } from './study';

/** Orders of a day: what is on the car, stay by stay; `alternate` changes the part after every run. */
export const DAY_ORDERS = ['A-B', 'A-B-A', 'A-B-B-A', 'A-B-A-B', 'alternate'] as const;
export type DayOrder = (typeof DAY_ORDERS)[number];

/** Minutes and money of testing; money in any currency. */
export interface TestCosts {
  readonly run_min: number;
  /** Taking the part off and on, and strapping down. */
  readonly refit_min: number;
  /** Getting there, warming up, going home. */
  readonly visit_min: number;
  readonly perHour: number;
  readonly perVisit: number;
  readonly perRun: number;
}
export const TEST_COSTS: TestCosts = { run_min: 6, refit_min: 30, visit_min: 45, perHour: 0, perVisit: 0, perRun: 0 };

/** The sides of the stays of one day; A-B-B-A straps down anew between its two B. */
function staysOfOrder(order: DayOrder, runsPerStay: number): readonly ('A' | 'B')[] {
  if (order === 'alternate') return Array.from({ length: 2 * runsPerStay }, (_, i) => (i % 2 === 0 ? 'A' : 'B'));
  return order.split('-') as ('A' | 'B')[];
}

/** The runs of a plan, without values: stays of `runsPerStay` (alternating: pairs of single runs), the order anew each visit. */
export function plannedRuns(order: DayOrder, runsPerStay: number, visits: number): StudyRun[] {
  const each = order === 'alternate' ? 1 : runsPerStay;
  return Array.from({ length: visits }, (_, visit) =>
    staysOfOrder(order, runsPerStay).flatMap((side) =>
      Array.from({ length: each }, (_n, i): StudyRun => ({ side, value: 0, visit: `planned ${visit + 1}`, newStay: i === 0 })),
    ),
  ).flat();
}

export interface Effort {
  readonly runs: number;
  readonly hours: number;
  readonly money: number;
}

/** Hours and money of so many runs, refits and visits. */
export function effortOf(runs: number, refits: number, visits: number, costs: TestCosts): Effort {
  const hours = (runs * costs.run_min + refits * costs.refit_min + visits * costs.visit_min) / 60;
  return { runs, hours, money: hours * costs.perHour + visits * costs.perVisit + runs * costs.perRun };
}

/** Weighted standard deviations of an estimate over the nodes. */
export interface Widths {
  readonly weight: Float64Array;
  readonly sd: Float64Array;
}

/** The half width of the interval at a one-sided limit: Σ w Φ(q/sd) = limit. */
export function halfWidthAt({ weight, sd }: Widths, limit: number): number {
  const of = (f: (z: number, i: number) => number) => (x: number) => {
    let sum = 0;
    for (let i = 0; i < weight.length; i += 1) sum += weight[i]! * f(x / sd[i]!, i);
    return sum;
  };
  const scale = sd.reduce((s, v, i) => s + v * weight[i]!, 0);
  return risingRoot(
    of(normalCdf),
    of((z, i) => normalDensity(z) / sd[i]!),
    limit,
    2 * scale,
    scale,
  );
}

/** The largest estimate at which a difference is still sure, at `limit`, to be smaller than matters; −1: none is. */
export function noDifferenceWithin({ weight, sd }: Widths, threshold: number, limit: number): number {
  const inside = (m: number): number => {
    let sum = 0;
    for (let i = 0; i < weight.length; i += 1)
      sum += weight[i]! * (normalCdf((threshold - m) / sd[i]!) - normalCdf((-threshold - m) / sd[i]!));
    return sum;
  };
  if (inside(0) < limit) return -1;
  const slope = (m: number): number => {
    let sum = 0;
    for (let i = 0; i < weight.length; i += 1)
      sum += (weight[i]! * (normalDensity((threshold - m) / sd[i]!) - normalDensity((-threshold - m) / sd[i]!))) / sd[i]!;
    return sum;
  };
  return Math.max(
    0,
    risingRoot((m) => 1 - inside(m), slope, 1 - limit, threshold / 2, threshold / 2),
  );
}

export interface DesignInput extends RigOptions {
  /** The difference that is expected, in the rig's unit. */
  readonly effect: number;
  readonly visits?: readonly number[] | undefined;
  readonly orders?: readonly DayOrder[] | undefined;
  readonly runsPerStay?: readonly number[] | undefined;
  readonly costs?: Partial<TestCosts> | undefined;
  /** Chance of the right word that a plan must have to be recommended. */
  readonly target?: number | undefined;
  readonly history?: readonly number[] | undefined;
}

export interface DesignPlan extends Effort {
  readonly order: DayOrder;
  readonly runsPerStay: number;
  readonly visits: number;
  readonly stays: number;
  /** Chance that the study says the right word. */
  readonly pRight: number;
  /** Half the 95 % interval to expect. */
  readonly halfWidth: number;
}

export interface Design {
  readonly plans: readonly DesignPlan[];
  /** Index of the cheapest that has the chance asked for; null: none has. */
  readonly recommended: number | null;
  /** Index of the best chance; null: none has any. */
  readonly best: number | null;
}

const CHANCE_ASKED = 0.8;

/** Widths that a layout of runs would have at every node of the prior. */
function widthsOf(runs: readonly StudyRun[], row: RigRow, nodes: readonly { at: number; weight: number }[]): Widths {
  const study = studyOf(runs, row);
  const solver = new NodeSolver(study);
  const byDay = study.visitsWithBoth >= 2 ? BY_DAY_FACTORS.map((f, i) => [f, BY_DAY_WEIGHTS[i]!] as const) : ([[1, 1]] as const);
  const [weight, sd]: [number[], number[]] = [[], []];
  for (const node of nodes)
    for (const [factor, share] of byDay) {
      const { run, refit } = GRID[node.at]!;
      const sizes: NodeSizes = { run: row.run * 2 ** run, refit: row.refit * 2 ** refit, dayFactor: 1, kappa: 1, byDay: factor };
      solver.solve(sizes);
      weight.push(node.weight * share);
      sd.push(Math.sqrt(solver.variance));
    }
  return { weight: Float64Array.from(weight), sd: Float64Array.from(sd) };
}

function chanceOfRight(widths: Widths, effect: number, threshold: number, halfWidth: number): number {
  const { weight, sd } = widths;
  const none = noDifferenceWithin(widths, threshold, 0.95);
  const sum = (f: (i: number) => number): number => weight.reduce((s, w, i) => s + w * f(i), 0);
  if (Math.abs(effect) > threshold) {
    const cut = Math.max(halfWidth, none);
    return sum((i) => normalCdf((Math.abs(effect) - cut) / sd[i]!));
  }
  if (none < 0) return 0;
  return sum((i) => normalCdf((none - Math.abs(effect)) / sd[i]!) - normalCdf((-none - Math.abs(effect)) / sd[i]!));
}

/** Orders of the day with their chance to say the right word, hours and money, before anything is paid for. Testing basis §4.14. */
export function designStudy(input: DesignInput): Design {
  const { effect, visits = [1, 2], orders = DAY_ORDERS, runsPerStay = [2, 3, 4, 6], target = CHANCE_ASKED, history } = input;
  const row = rigRow(input);
  const costs = { ...TEST_COSTS, ...input.costs };
  const prior = withoutDay(logPrior(history));
  const weights = weightsOf(prior.map((n) => n.log));
  const nodes = prior.map(({ at }, i) => ({ at, weight: weights[i]! }));
  const plans = visits.flatMap((v) =>
    orders.flatMap((order) =>
      runsPerStay.map((m): DesignPlan => {
        const runs = plannedRuns(order, m, v);
        const stays = staysOfOrder(order, m).length * v;
        const widths = widthsOf(runs, row, nodes);
        const halfWidth = halfWidthAt(widths, 0.975);
        const pRight = chanceOfRight(widths, effect, row.threshold, halfWidth);
        return { order, runsPerStay: m, visits: v, stays, pRight, halfWidth, ...effortOf(runs.length, stays - v, v, costs) };
      }),
    ),
  );
  const right = plans.flatMap((p, i) => (p.pRight >= target ? [i] : []));
  const cheaper = (a: number, b: number): number =>
    plans[a]!.money - plans[b]!.money || plans[a]!.hours - plans[b]!.hours || plans[a]!.runs - plans[b]!.runs || a - b;
  const best = plans.reduce((most, p, i) => (p.pRight > plans[most]!.pRight ? i : most), 0);
  return { plans, recommended: right.sort(cheaper)[0] ?? null, best: plans[best]!.pRight > 0 ? best : null };
}
