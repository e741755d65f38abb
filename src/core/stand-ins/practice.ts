import { thirdOf } from '../numbers/thirds';
import { costsOf } from '../compare/look';
import type { SideRun } from '../runs/side-run';
import { compareSides, type SideComparison } from '../compare/sides';
import type { PlanDoc } from '../documents/plan';
import type { PracticeDecision, PracticeRun, PracticeSetup, PracticeTruth } from '../documents/practice';
import type { AnswerWord } from '../inference/answer';
import { designStudy, type DesignPlan } from '../inference/design';
import { RIG_ROWS } from '../inference/rig';
import type { StudyRun } from '../inference/study';
import type { Failure } from '../failure';
import { gaussian, seededRandom } from '../numbers/random';
import type { DynoCurve } from './dyno';

/** Kinds of truth a session may hide: each as likely as the next, so that nobody can guess without running. */
const KINDS = ['nothing', 'a little', 'gain at the top', 'gain', 'loss'] as const;
const LARGEST_DRIFT_pct = 0.25;

/** What a session hides: drawn from its seed. Percent. */
export function practiceTruth(seed: number): PracticeTruth {
  const random = seededRandom(seed);
  const kind = KINDS[Math.floor(random() * KINDS.length)]!;
  const size = 1.2 + 2 * random();
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

/** What came before a run in a session, as far as luck goes by it. */
export type PracticeStep = Pick<PracticeRun, 'side' | 'newStay' | 'day'>;

/** Practice hides what the inference assumes of a shop: refits, days, and now and then a run gone wrong. */
const { run: RUN_pct, refit: REFIT_pct, day: DAY_pct } = RIG_ROWS.dyno;
const OUTLIER_CHANCE = 0.04;
const OUTLIER_TIMES = 5;

/** Which stay of the session the last of these steps belongs to. */
function stayOf(steps: readonly PracticeStep[]): number {
  return steps.filter((s, i) => i === 0 || s.side !== steps[i - 1]!.side || s.day !== steps[i - 1]!.day || s.newStay).length;
}

/** What luck does to the last of these runs, in units of each size: its stay's refit, its day, and the run itself. */
function luckOf(seed: number, steps: readonly PracticeStep[]): { refit: number; day: number; wrong: number } {
  const stay = seededRandom(seed * 31 + 101 * stayOf(steps));
  const day = seededRandom(seed * 17 + 211 * steps.at(-1)!.day);
  const run = seededRandom(seed * 53 + 307 * steps.length);
  const wrong = run() < OUTLIER_CHANCE ? -OUTLIER_TIMES * (0.6 + 0.8 * run()) : 0;
  return { refit: gaussian(stay), day: gaussian(day), wrong };
}

/** A pull's luck at the dyno, %: as large as it is at a usual shop. */
export function pullLuck(seed: number, steps: readonly PracticeStep[]): { readonly runSd_pct: number; readonly offset_pct: number } {
  const { refit, day, wrong } = luckOf(seed, steps);
  return { runSd_pct: RUN_pct, offset_pct: REFIT_pct * refit + DAY_pct * day + RUN_pct * wrong };
}

/** The practice car over a quarter of a mile, as it runs with stock in the reference air. */
const PASS_s = 13.6;
const PASS_mps = 45.6;
/** A third of a change of power goes to the trap speed, and as much off the time. */
const TO_SPEED = 1 / 300;
/** The air of a night: it starts up here and sinks from pass to pass, m. */
const NIGHT_m = { start: 420, between_days: 180, a_pass: -22, wander: 6 } as const;
const PER_METRE = 3.5e-5;

/** What a pass of the session's last step reads. */
export function practicePass(seed: number, truth: PracticeTruth, steps: readonly PracticeStep[]): NonNullable<PracticeRun['pass']> {
  const step = steps.at(-1)!;
  const { refit, day, wrong } = luckOf(seed, steps);
  const k = steps.filter((s) => s.day === step.day).length - 1;
  const random = seededRandom(seed * 71 + 409 * steps.length);
  const night = seededRandom(seed * 13 + 97 * step.day);
  const densityAltitude_m = NIGHT_m.start + NIGHT_m.between_days * gaussian(night) + NIGHT_m.a_pass * k + NIGHT_m.wander * gaussian(random);
  const [time, speed] = [RIG_ROWS.stripTime, RIG_ROWS.stripSpeed];
  const share = step.side === 'B' ? truth.top_pct * TO_SPEED : 0;
  const of = (row: typeof time, r: number): number => row.run * (r + wrong) + row.refit * refit + row.day * day;
  const [a, b] = [gaussian(random), gaussian(random)];
  return {
    densityAltitude_m,
    trap_mps: PASS_mps * (1 + share - PER_METRE * densityAltitude_m) + of(speed, a),
    et_s: PASS_s * (1 - share + PER_METRE * densityAltitude_m) - of(time, 0.5 * a + 0.87 * b),
  };
}

/** The passes of a session as the inference takes them: their speed over the line. */
export const practicePasses = (runs: readonly PracticeRun[]): StudyRun[] =>
  runs.flatMap((r): StudyRun[] =>
    r.pass === null || r.leftOut !== null
      ? []
      : [{ side: r.side, visit: r.day, newStay: r.newStay, value: r.pass.trap_mps, densityAltitude_m: r.pass.densityAltitude_m }],
  );

/** Minutes into the session at the end of its runs: rests, pulls, swaps and days. */
export function practiceMinutes(runs: readonly (PracticeStep & Pick<PracticeRun, 'rest_min'>)[], plan: PlanDoc): number {
  return runs.reduce((t, r, i) => {
    const last = runs[i - 1];
    const day = last && last.day !== r.day ? plan.minutesPerVisit : 0;
    const swap = last && (last.side !== r.side || r.newStay) ? plan.minutesPerSwap : 0;
    // A swap is rest too: only the longer of the two is waited.
    return t + day + plan.minutesPerRun + Math.max(swap, r.rest_min);
  }, 0);
}

export interface PracticeScore {
  /** The true effect, in the rig's unit: % of power, m/s over the line. */
  readonly true_value: number;
  readonly true_pct: number;
  readonly trueWord: Exclude<PracticeDecision['word'], "can't tell yet">;
  /** Null where the person did not decide. */
  readonly right: boolean | null;
  /** What the runs could carry, and whether that is what was said. */
  readonly carried: AnswerWord;
  readonly honest: boolean;
  readonly error_pct: number;
  readonly runs: number;
  readonly stays: number;
  readonly minutes: number;
  readonly cost: number;
  /** The cheapest day that would as a rule have told; null: no usual day would. */
  readonly lesson: DesignPlan | null;
}

/** The true effect of a session in its rig's unit, and the smallest that matters there. */
function truthOf(stock: DynoCurve, truth: PracticeTruth, { rig, plan }: PracticeSetup): { value: number; pct: number; threshold: number } {
  if (rig === 'strip') return { value: PASS_mps * truth.top_pct * TO_SPEED, pct: truth.top_pct, threshold: RIG_ROWS.stripSpeed.threshold };
  const pct = trueEffect(stock, truth, plan);
  return { value: pct, pct, threshold: plan.threshold_pct };
}

/**
 * How a session went: whether the word was right, whether it was what the runs carry, how far off the figure was, what it took in
 * time and money, and the cheapest day that would have told. `carried` is what the inference says of the runs.
 */
export function practiceScore(
  stock: DynoCurve,
  truth: PracticeTruth,
  setup: PracticeSetup,
  decision: PracticeDecision,
  runs: readonly PracticeRun[],
  carried: AnswerWord,
): PracticeScore {
  const { plan, rig } = setup;
  const { value, pct, threshold } = truthOf(stock, truth, setup);
  const trueWord = value > threshold ? 'gain' : value < -threshold ? 'loss' : 'no difference that matters';
  const minutes = practiceMinutes(runs, plan);
  const { plans, recommended } = designStudy({
    rig: rig === 'dyno' ? 'dyno' : 'stripSpeed',
    effect: value,
    threshold,
    costs: costsOf(plan),
  });
  return {
    true_value: value,
    true_pct: pct,
    trueWord,
    right: decision.word === "can't tell yet" ? null : decision.word === trueWord,
    carried,
    honest: decision.word === carried,
    error_pct: decision.estimate_pct - pct,
    runs: runs.length,
    stays: runs.length === 0 ? 0 : stayOf(runs),
    minutes,
    cost: plan.costPerVisit * new Set(runs.map((r) => r.day)).size + runs.length * plan.costPerRun + (minutes / 60) * plan.costPerHour,
    lesson: recommended === null ? null : plans[recommended]!,
  };
}

/** The smoothing that a session's pulls are compared at, rpm. */
const PRACTICE_FWHM_rpm = 100;

/** A session's pulls compared, by its own plan. */
export function practiceComparison(setup: PracticeSetup, runs: readonly PracticeRun[]): SideComparison | Failure {
  const counted = runs.map((r, order) => ({ ...r, order })).filter((r) => r.leftOut === null && r.pass === null);
  const side = (s: 'A' | 'B'): SideRun[] =>
    counted
      .filter((r) => r.side === s)
      .map(({ rpm, power_W, order, newStay, day, inletStart_K }) => ({
        rpm,
        power_W,
        order,
        newStay,
        visit: `day ${day}`,
        start_K: inletStart_K,
      }));
  const { threshold_pct, decidesOn } = setup.plan;
  return compareSides(side('A'), side('B'), { fwhm_rpm: PRACTICE_FWHM_rpm, threshold_pct, decidesOn, costs: costsOf(setup.plan) });
}
