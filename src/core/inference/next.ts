import { isFailure, type Failure } from '../failure';
import { normalCdf } from '../numbers/normal';
import {
  LOOK_LIMITS,
  prepareRoad,
  prepareSides,
  prepareStrip,
  type Prepared,
  type RoadInput,
  type SidesInput,
  type StripInput,
} from './answer';
import { effortOf, halfWidthAt, noDifferenceWithin, TEST_COSTS, type Effort, type TestCosts } from './design';
import { mixtureCdf } from './mixture';
import { NodeSolver } from './node';
import { posteriorOf } from './posterior';
import { wordOf, type AnswerWord, type Look } from './answer';
import { studyOf, type StudyRun } from './study';

export const NEXT_STEPS = ['run', 'stay', 'twoStays', 'visit A-B-A', 'visit A-B-A-B'] as const;
export type NextStep = (typeof NEXT_STEPS)[number];

export interface NextOption extends Effort {
  readonly step: NextStep;
  /** Chance that it brings any word, and that the word is "no difference". */
  readonly pWord: number;
  readonly pNoDifference: number;
  /** Half the 95 % interval to expect after it. */
  readonly halfWidth: number;
}

export interface NextAnswer {
  readonly word: AnswerWord;
  readonly options: readonly NextOption[];
  /** Index of the cheapest with an even chance; null: none has. */
  readonly best: number | null;
  /** Index of the best chance of all; null: none has any. */
  readonly bestChance: number | null;
}

export interface NextOptions {
  readonly costs?: Partial<TestCosts> | undefined;
  readonly runsPerStay?: number | undefined;
}

const RUNS_A_STAY = 3;
const EVEN_CHANCE = 0.5;
/** Nodes lighter than this share of the heaviest are not looked at. */
const LIGHTEST_NODE = 0.001;

const meanOf = (values: readonly (number | undefined)[]): number | undefined => {
  const known = values.filter((v): v is number => v !== undefined);
  return known.length === values.length && known.length > 0 ? known.reduce((s, v) => s + v, 0) / known.length : undefined;
};

/** The runs that a step adds behind those there are, how many refits and visits it takes. */
function stepRuns(step: NextStep, runs: readonly StudyRun[], m: number): { added: StudyRun[]; refits: number; visits: number } {
  const last = runs.at(-1)!;
  const start = meanOf(runs.map((r) => r.start_K));
  const air = meanOf(runs.map((r) => r.densityAltitude_m));
  const like: Partial<StudyRun> = {
    ...(start !== undefined && { start_K: start }),
    ...(air !== undefined && { densityAltitude_m: air }),
  };
  const other = last.side === 'A' ? 'B' : 'A';
  const ground = (side: 'A' | 'B', visit: StudyRun['visit']): Partial<StudyRun> => {
    const known = runs.find((r) => r.side === side)?.place;
    return known === undefined ? {} : { place: known, wind: `${String(visit ?? 1)}|${side}|${known}` };
  };
  const stay = (side: 'A' | 'B', visit: StudyRun['visit']): StudyRun[] =>
    Array.from({ length: m }, (_, i) => ({
      ...like,
      ...ground(side, visit),
      side,
      value: 0,
      ...(visit !== undefined && { visit }),
      newStay: i === 0,
    }));
  switch (step) {
    case 'run': {
      const { newStay: _n, value: _v, start_K: _s, densityAltitude_m: _d, readingVariance: _r, ...same } = last;
      return { added: [{ ...same, ...like, value: 0 }], refits: 0, visits: 0 };
    }
    case 'stay':
      return { added: stay(other, last.visit), refits: 1, visits: 0 };
    case 'twoStays':
      return { added: [...stay(other, last.visit), ...stay(last.side, last.visit)], refits: 2, visits: 0 };
    case 'visit A-B-A':
    case 'visit A-B-A-B': {
      const sides = step.slice('visit '.length).split('-') as ('A' | 'B')[];
      return { added: sides.flatMap((side) => stay(side, 'a further visit')), refits: sides.length - 1, visits: 1 };
    }
  }
}

const step01 = (x: number): number => (x > 0 ? 1 : x < 0 ? 0 : 0.5);

/** What one step more would bring, from the posterior of now. Testing basis §4.15. */
function nextFrom(
  prepared: Prepared,
  lay: (runs: readonly StudyRun[]) => Prepared['study'],
  input: { readonly look?: Look | undefined; readonly history?: readonly number[] | undefined } & NextOptions,
): NextAnswer {
  const { study, row } = prepared;
  const look = input.look ?? 'at';
  const limits = LOOK_LIMITS[look];
  const costs = { ...TEST_COSTS, ...input.costs };
  const posterior = posteriorOf(study, row, input.history);
  const below = mixtureCdf(posterior.mixture, 0);
  const pGain = row.better === 'higher' ? 1 - below : below;
  const within = mixtureCdf(posterior.mixture, row.threshold) - mixtureCdf(posterior.mixture, -row.threshold);
  const heaviest = Math.max(...posterior.nodes.map((n) => n.weight));
  const kept = posterior.nodes.filter((n) => n.weight >= LIGHTEST_NODE * heaviest);
  const total = kept.reduce((s, n) => s + n.weight, 0);
  const weight = Float64Array.from(kept, (n) => n.weight / total);
  const options = NEXT_STEPS.map((step): NextOption => {
    const { added, refits, visits } = stepRuns(step, study.runs, input.runsPerStay ?? RUNS_A_STAY);
    const solver = new NodeSolver(lay([...study.runs, ...added]));
    const after = Float64Array.from(kept, (n) => {
      solver.solve(n.sizes);
      return solver.variance;
    });
    const widths = { weight, sd: after.map(Math.sqrt) };
    const none = noDifferenceWithin(widths, row.threshold, limits.none);
    const cut = Math.max(halfWidthAt(widths, limits.side), none);
    let [up, down, nothing] = [0, 0, 0];
    kept.forEach((n, i) => {
      const D = Math.sqrt(Math.max(0, n.variance - after[i]!));
      const phi = (x: number): number => (D > 0 ? normalCdf(x / D) : step01(x));
      up += weight[i]! * phi(n.mean - cut);
      down += weight[i]! * phi(-cut - n.mean);
      if (none >= 0) nothing += weight[i]! * (phi(none - n.mean) - phi(-none - n.mean));
    });
    return {
      step,
      ...effortOf(added.length, refits, visits, costs),
      pWord: up + down + nothing,
      pNoDifference: nothing,
      halfWidth: halfWidthAt(widths, 0.975),
    };
  });
  const even = options.flatMap((o, i) => (o.pWord >= EVEN_CHANCE ? [i] : []));
  even.sort((a, b) => options[a]!.money - options[b]!.money || options[a]!.hours - options[b]!.hours || a - b);
  const most = options.reduce((top, o, i) => (o.pWord > options[top]!.pWord ? i : top), 0);
  return {
    word: wordOf({ pGain, pLoss: 1 - pGain, pMatters: 1 - within }, look),
    options,
    best: even[0] ?? null,
    bestChance: options[most]!.pWord > 0 ? most : null,
  };
}

/** For one more run, one more stay, two, or a new visit: the chance that it brings a word, with hours and money. */
export function nextStay(input: SidesInput & NextOptions): NextAnswer | Failure {
  const prepared = prepareSides(input);
  return isFailure(prepared) ? prepared : nextFrom(prepared, (runs) => studyOf(runs, prepared.row), input);
}

/** The same at the strip, in the air of the passes so far. */
export function nextStripStay(input: StripInput & NextOptions): NextAnswer | Failure {
  const prepared = prepareStrip(input);
  if (isFailure(prepared)) return prepared;
  const lay = (runs: readonly StudyRun[]) =>
    studyOf(runs, prepared.row, [{ values: runs.map((r) => r.densityAltitude_m!), sd: prepared.air.sd }]);
  return nextFrom(prepared, lay, input);
}

/** The same on the road, each side on the ground it was run on. */
export function nextRoadStay(input: RoadInput & NextOptions): NextAnswer | Failure {
  const prepared = prepareRoad(input);
  return isFailure(prepared) ? prepared : nextFrom(prepared, (runs) => studyOf(runs, prepared.row), input);
}
