import { isFailure, type Failure } from '../failure';
import { varianceOf } from '../numbers/moments';
import { studentCdf, studentQuantile } from '../numbers/student';
import { runsPerSide } from './planning';
import { welch } from './welch';

export const ANSWERS = ['gain', 'loss', 'no difference that matters', "can't tell yet"] as const;
export type AnswerWord = (typeof ANSWERS)[number];
export type Better = 'higher' | 'lower';

/** An estimated difference with what decides about it: its standard error and degrees of freedom. */
export interface Estimate {
  readonly difference: number;
  readonly standardError: number;
  readonly df: number;
}

export interface Answer extends Estimate {
  /** 95 % interval. */
  readonly low: number;
  readonly high: number;
  /** One-sided p against −threshold and +threshold; both below 0.05: the difference is smaller than matters. */
  readonly pLower: number;
  readonly pUpper: number;
  readonly equivalent: boolean;
  readonly answer: AnswerWord;
  /** Only with "can't tell yet"; null where no number of runs would tell. */
  readonly moreRunsPerSide?: number | null;
}

/** One of the four answers from an estimate and the smallest difference that matters. Testing basis §4. */
export function answerFrom(e: Estimate, threshold: number, better: Better = 'higher'): Omit<Answer, 'moreRunsPerSide'> {
  const half = studentQuantile(0.975, e.df) * e.standardError;
  const low = e.difference - half;
  const high = e.difference + half;
  const pLower = 1 - studentCdf((e.difference + threshold) / e.standardError, e.df);
  const pUpper = studentCdf((e.difference - threshold) / e.standardError, e.df);
  const equivalent = pLower < 0.05 && pUpper < 0.05;
  const up = better === 'higher' ? 'gain' : 'loss';
  const down = better === 'higher' ? 'loss' : 'gain';
  const answer: AnswerWord = low > 0 ? up : high < 0 ? down : equivalent ? 'no difference that matters' : "can't tell yet";
  return { ...e, low, high, pLower, pUpper, equivalent, answer };
}

/** How many more runs each side would need to tell a difference of the threshold from scatter `sd`; null: no number would. */
export function moreRuns(threshold: number, sd: number, smallerSide: number): number | null {
  const needed = runsPerSide({ effect: threshold, sd });
  return isFailure(needed) ? null : Math.max(1, needed.runsPerSide - smallerSide);
}

/** Two sides' values, the smallest difference that matters, and which way is better: one of four answers. Testing basis §4. */
export function fourAnswers(input: {
  readonly a: readonly number[];
  readonly b: readonly number[];
  readonly threshold: number;
  readonly better?: Better | undefined;
}): Answer | Failure {
  const w = welch(input.a, input.b);
  if (isFailure(w)) return w;
  const found = answerFrom(w, input.threshold, input.better);
  if (found.answer !== "can't tell yet") return found;
  const sd = Math.sqrt((varianceOf(input.a) + varianceOf(input.b)) / 2);
  return { ...found, moreRunsPerSide: moreRuns(input.threshold, sd, Math.min(input.a.length, input.b.length)) };
}
