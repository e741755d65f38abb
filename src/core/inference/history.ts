import { failure, type Failure } from '../failure';
import {
  BY_DAY_FACTORS,
  BY_DAY_WEIGHTS,
  GRID,
  GRID_SIZE,
  isMeasured,
  logPrior,
  momentsOf,
  SCATTER_RATIOS,
  SCATTER_WEIGHTS,
  SIZES,
  weightsOf,
  type Size,
} from './grid';
import { NodeSolver, OUTLIER_VARIANCES } from './node';
import { OUTLIER_CHANCE } from './posterior';
import { rigRow, type RigOptions } from './rig';
import { studyFailure, studyOf, type StudyRun } from './study';

/** ln Σ exp. */
function logSum(values: readonly number[]): number {
  const top = Math.max(...values);
  return top + Math.log(values.reduce((s, v) => s + Math.exp(v - top), 0));
}

/**
 * What a finished study, or a set of repeat baselines of one part, says of the sizes: ln likelihood on the grid, with the
 * part's effect integrated out. Testing basis §4.10.
 */
export function studyLikelihood(runs: readonly StudyRun[], options: RigOptions = {}): number[] | Failure {
  const wrong = studyFailure(runs, true);
  if (wrong) return wrong;
  const row = rigRow(options);
  const study = studyOf(runs, row);
  const solver = new NodeSolver(study);
  const { n } = study;
  const none = n * Math.log(1 - OUTLIER_CHANCE);
  const one = Math.log(OUTLIER_CHANCE) + (n - 1) * Math.log(1 - OUTLIER_CHANCE);
  const byDay = study.visitsWithBoth >= 2 ? BY_DAY_FACTORS.map((f, i) => [f, BY_DAY_WEIGHTS[i]!] as const) : ([[1, 1]] as const);
  const of = (run: number, refit: number, day: number): number =>
    logSum(
      SCATTER_RATIOS.flatMap((kappa, k) =>
        byDay.flatMap(([factor, weight]) => {
          solver.solve({ run: row.run * 2 ** run, refit: row.refit * 2 ** refit, dayFactor: 2 ** day, kappa, byDay: factor });
          const level = Math.log(SCATTER_WEIGHTS[k]! * weight) + solver.logLikelihood;
          const logs = [level + none];
          for (let i = 0; i < n; i += 1) {
            const d = OUTLIER_VARIANCES * solver.runVariance[i]!;
            const spread = 1 + d * solver.precision[i]!;
            logs.push(level + one - 0.5 * Math.log(spread) + (0.5 * d * solver.residual[i]! ** 2) / spread);
          }
          return logs;
        }),
      ),
    );
  const oneVisit = study.visits.length === 1;
  const known = new Map<string, number>();
  return GRID.map(({ run, refit, day }) => {
    // One visit says nothing of the day: the same for all three.
    const key = `${run}/${refit}/${oneVisit ? 0 : day}`;
    if (!known.has(key)) known.set(key, of(run, refit, oneVisit ? 0 : day));
    return known.get(key)!;
  });
}

export interface HistoryAnswer {
  /** Summed ln likelihoods, the largest 0: the prior's weights of the next study. */
  readonly logL: number[];
  /** The shop's own sizes, in the rig's unit. */
  readonly run: number;
  readonly refit: number;
  readonly day: number;
  readonly known: Readonly<Record<Size, 'measured' | 'assumed'>>;
}

/** The shop's own history out of what each study left. */
export function historyOf(
  input: RigOptions & {
    readonly studies?: readonly { readonly runs: readonly StudyRun[] }[];
    readonly logs?: readonly (readonly number[])[];
  },
): HistoryAnswer | Failure {
  const row = rigRow(input);
  const sum = new Float64Array(GRID_SIZE);
  const add = (logs: readonly number[]): void => logs.forEach((v, i) => (sum[i]! += v));
  for (const { runs } of input.studies ?? []) {
    const logs = studyLikelihood(runs, input);
    if (!Array.isArray(logs)) return logs;
    add(logs);
  }
  for (const logs of input.logs ?? []) {
    if (logs.length !== GRID_SIZE || !logs.every(Number.isFinite)) return failure('bad_input');
    add(logs);
  }
  const top = Math.max(...sum);
  const logL = Array.from(sum, (v) => v - top);
  const weights = weightsOf(logPrior(logL));
  const of = (size: Size) => momentsOf(weights, (i) => GRID[i]![size]);
  const [run, refit, day] = SIZES.map(of) as [ReturnType<typeof of>, ReturnType<typeof of>, ReturnType<typeof of>];
  const known = (size: Size, m: { variance: number }) => (isMeasured(size, m.variance) ? 'measured' : 'assumed');
  return {
    logL,
    run: row.run * 2 ** run.mean,
    refit: row.refit * 2 ** refit.mean,
    day: row.day * 2 ** day.mean,
    known: { run: known('run', run), refit: known('refit', refit), day: known('day', day) },
  };
}
