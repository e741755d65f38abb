import { NORMAL_975 } from '../numbers/normal';
import { NodeSolver, type NodeSizes } from './node';
import type { SidesAnswer } from './answer';
import type { RigRow } from './rig';
import { studyOf, type Covariate, type StudyRun } from './study';

/** So uncertain that a run with it says nothing. */
const SAYS_NOTHING = 1e9;

export interface Prediction {
  readonly value: number;
  /** 95 % of single runs lie within. */
  readonly low: number;
  readonly high: number;
}

/**
 * The next run: what these runs and the sizes they leave say of one more, and how far single ones scatter about that. `runs` end
 * with the run that is asked about, its value unknown.
 */
export function predictRun(
  runs: readonly StudyRun[],
  row: RigRow,
  answer: Pick<SidesAnswer, 'sizes'>,
  covariates: readonly Covariate[] = [],
): Prediction {
  const known = runs.slice(0, -1);
  const mean = known.reduce((s, r) => s + r.value, 0) / known.length;
  const study = studyOf([...known, { ...runs.at(-1)!, value: mean, readingVariance: SAYS_NOTHING * row.run ** 2 }], row, covariates);
  const solver = new NodeSolver(study);
  const { run, refit, day } = answer.sizes;
  const sizes: NodeSizes = { run: run.sd, refit: refit.sd, dayFactor: row.day > 0 ? day.sd / row.day : 1, kappa: 1, byDay: 1 };
  solver.solve(sizes);
  const last = study.n - 1;
  // A stay of its own is not a column: its refit is added here.
  const opensStay = study.stay.filter((s) => s === study.stay[last]).length === 1;
  const half = NORMAL_975 * Math.sqrt(solver.spread[last]! + run.sd ** 2 + (opensStay ? refit.sd ** 2 : 0));
  const value = mean + solver.level[last]!;
  return { value, low: value - half, high: value + half };
}
