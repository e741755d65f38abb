import type { PlanDoc, RunOrder, WrittenPlanDoc } from '../documents/plan';
import { plannedRuns, type DayOrder, type TestCosts } from '../inference/design';
import type { Look } from '../inference/answer';
import { staysOf, type StudyRun } from '../inference/study';

/** The order of a plan as the inference calls it. */
export const dayOrder = (order: RunOrder): DayOrder => (order === 'alternating' ? 'alternate' : order);
export const runOrder = (order: DayOrder): RunOrder => (order === 'alternate' ? 'alternating' : order);

/** Minutes and money of a plan. */
export const costsOf = (plan: PlanDoc): TestCosts => ({
  run_min: plan.minutesPerRun,
  refit_min: plan.minutesPerSwap,
  visit_min: plan.minutesPerVisit,
  perHour: plan.costPerHour,
  perVisit: plan.costPerVisit,
  perRun: plan.costPerRun,
});

/** Runs a stay where nobody said how many: three, of an alternating day six pairs. */
export const usualRuns = (order: RunOrder): number => (order === 'alternating' ? 6 : 3);
export const runsPerStayOf = (plan: Pick<PlanDoc, 'order' | 'runsPerStay'>): number => plan.runsPerStay ?? usualRuns(plan.order);

/** The runs of a plan in their order, without values. */
export const planRuns = (plan: Pick<PlanDoc, 'order' | 'runsPerStay' | 'visits'>): StudyRun[] =>
  plannedRuns(dayOrder(plan.order), runsPerStayOf(plan), plan.visits);

/** The plan as it would be written down now. */
export const writtenNow = (plan: PlanDoc, at: string): Omit<WrittenPlanDoc, 'predicted'> => ({
  at,
  order: plan.order,
  runsPerStay: runsPerStayOf(plan),
  visits: plan.visits,
  decidesOn: plan.decidesOn,
  threshold_pct: plan.threshold_pct,
});

/** Whether the plan is still what was written down. */
export function isAsWritten(plan: PlanDoc): boolean {
  const { written } = plan;
  if (!written) return false;
  const now = writtenNow(plan, written.at);
  return (Object.keys(now) as (keyof typeof now)[]).every((key) => now[key] === written[key]);
}

/**
 * Whether one looks before, at or after the planned end: stay by stay, the last one whole. A plan that was not written down, or
 * was changed since, was none: then every look is after. Testing basis §4.8.
 */
export function lookOf(plan: PlanDoc, runs: readonly StudyRun[]): Look {
  if (!isAsWritten(plan) || runs.length === 0) return 'after';
  const planned = planRuns(plan);
  const stays = staysOf(runs);
  const plannedStays = staysOf(planned);
  const [done, due] = [stays.at(-1)! + 1, plannedStays.at(-1)! + 1];
  if (done > due) return 'after';
  const last = (list: Int32Array): number => list.filter((s) => s === list.at(-1)).length;
  return done < due || last(stays) < last(plannedStays) ? 'before' : 'at';
}
