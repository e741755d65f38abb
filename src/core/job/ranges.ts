import { problemAt } from '../engine/at-speeds';
import type { EngineProblem } from '../engine/induction';
import type { Path } from '../flow/path';
import { peakIndex } from '../numbers/peak';
import { isFailure } from '../failure';
import type { JobModel } from './model';
import { oneBench } from './path';

/** The model's own error as a share of a gain, by how many cylinders smooth the flow at the throttle. Airflow basis §9. */
function modelErrorOf(cylinders: number, individual: boolean): number {
  if (individual || cylinders <= 3) return 0.5;
  return cylinders <= 5 ? 0.3 : 0.2;
}

/** What the ranges of a job's gains are drawn from. */
export interface RangeProblem {
  readonly problem: EngineProblem;
  readonly before: Path | null;
  readonly reference: Path;
  readonly candidates: readonly Path[];
  /** Whether each candidate's throttle coefficient is drawn apart from stock's. */
  readonly apart: readonly boolean[];
  readonly modelError: number;
}

/** One engine speed in this many is enough for a mean over a third, and the peaks are kept. */
const EVERY = 3;

/**
 * A job's model made ready for its ranges: every third engine speed with the peaks among them, the throttles' coefficients
 * apart unless one bench read both, and the model's own error for this number of cylinders. Airflow basis §9.
 */
export function rangeProblem(model: JobModel, cylinders: number): RangeProblem {
  const sides = [model.stock, ...model.candidates];
  const peaks = sides.flatMap((s) => (isFailure(s.solved) ? [] : [peakIndex(s.solved.power_W)]));
  const last = model.rpm.length - 1;
  const indices = model.rpm.flatMap((_, i) => (i % EVERY === 0 || i === last || peaks.includes(i) ? [i] : []));
  return {
    problem: problemAt(model.problem, indices),
    before: model.before?.path ?? null,
    reference: model.stock.path,
    candidates: model.candidates.map((c) => c.path),
    apart: model.candidates.map((c) => !oneBench(model.stock.fitted, c.fitted)),
    modelError: modelErrorOf(cylinders, model.stock.fitted.throttle.shape === 'individual'),
  };
}
