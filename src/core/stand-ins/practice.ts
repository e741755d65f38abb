import { thirdOf } from '../compare/compare';
import type { PlanDoc } from '../documents/plan';
import type { PracticeDecision, PracticeRun, PracticeTruth } from '../documents/practice';
import { gaussian, seededRandom } from '../numbers/random';
import type { DynoCurve } from './dyno';

/** Kinds of truth a session may hide: each as likely as the next, so that nobody can guess without running. */
const KINDS = ['nothing', 'a little', 'gain at the top', 'gain', 'loss'] as const;
const LARGEST_DRIFT_pct = 0.25;

/** What a session hides: drawn from its seed. Percent. */
export function practiceTruth(seed: number): PracticeTruth {
  const random = seededRandom(seed);
  const kind = KINDS[Math.floor(random() * KINDS.length)]!;
  const size = 0.8 + 1.8 * random();
  const sign = random() < 0.5 ? -1 : 1;
  const driftPerPull_pct = Math.max(-LARGEST_DRIFT_pct, Math.min(LARGEST_DRIFT_pct, 0.1 * gaussian(random)));
  switch (kind) {
    case 'nothing':
      return { bottom_pct: 0, top_pct: 0, driftPerPull_pct };
    case 'a little':
      return { bottom_pct: 0.15 * sign, top_pct: 0.3 * sign, driftPerPull_pct };
    case 'gain at the top':
      return { bottom_pct: -0.4 * size, top_pct: 1.6 * size, driftPerPull_pct };
    case 'gain':
      return { bottom_pct: size, top_pct: 1.2 * size, driftPerPull_pct };
    case 'loss':
      return { bottom_pct: -0.3 * size, top_pct: -size, driftPerPull_pct };
  }
}

/** A side's true curve in a session. */
export function practiceCurve(stock: DynoCurve, truth: PracticeTruth, side: 'A' | 'B'): DynoCurve {
  if (side === 'A') return stock;
  const [lo, hi] = [stock.rpm[0]!, stock.rpm.at(-1)!];
  const at = (n: number): number => truth.bottom_pct + ((n - lo) / (hi - lo)) * (truth.top_pct - truth.bottom_pct);
  return { rpm: stock.rpm, power_W: stock.power_W.map((w, i) => w * (1 + at(stock.rpm[i]!) / 100)) };
}

/** The true mean effect over the plan's deciding stretch, %. */
export function trueEffect(stock: DynoCurve, truth: PracticeTruth, plan: PlanDoc): number {
  const other = practiceCurve(stock, truth, 'B');
  const [lo, hi] = [stock.rpm[0]!, stock.rpm.at(-1)!];
  const third = { bottom: 0, middle: 1, top: 2 } as const;
  let a = 0;
  let b = 0;
  stock.rpm.forEach((n, i) => {
    const inside = plan.decidesOn in third ? thirdOf(n, lo, hi) === third[plan.decidesOn as 'top'] : true;
    if (!inside) return;
    a += stock.power_W[i]!;
    b += other.power_W[i]!;
  });
  return 100 * (b / a - 1);
}

export interface PracticeScore {
  readonly true_pct: number;
  readonly trueWord: Exclude<PracticeDecision['word'], "can't tell yet">;
  /** Null where the person did not decide. */
  readonly right: boolean | null;
  readonly error_pct: number;
  readonly runs: number;
  readonly minutes: number;
  readonly cost: number;
}

/** Minutes into the session at the end of its runs: rests, pulls and swaps. */
export function practiceMinutes(runs: readonly Pick<PracticeRun, 'side' | 'rest_min'>[], plan: PlanDoc): number {
  return runs.reduce((t, r, i) => {
    const swap = i > 0 && runs[i - 1]!.side !== r.side ? plan.minutesPerSwap : 0;
    // A swap is rest too: only the longer of the two is waited.
    return t + plan.minutesPerRun + Math.max(swap, r.rest_min);
  }, 0);
}

/** How a session went: whether the truth was found, how far off the figure was, and what it took. */
export function practiceScore(
  stock: DynoCurve,
  truth: PracticeTruth,
  plan: PlanDoc,
  decision: PracticeDecision,
  runs: readonly PracticeRun[],
): PracticeScore {
  const true_pct = trueEffect(stock, truth, plan);
  const trueWord = true_pct > plan.threshold_pct ? 'gain' : true_pct < -plan.threshold_pct ? 'loss' : 'no difference that matters';
  return {
    true_pct,
    trueWord,
    right: decision.word === "can't tell yet" ? null : decision.word === trueWord,
    error_pct: decision.estimate_pct - true_pct,
    runs: runs.length,
    minutes: practiceMinutes(runs, plan),
    cost: plan.costPerVisit + runs.length * plan.costPerRun,
  };
}
