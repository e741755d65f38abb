import type { JobDoc } from '../documents/job';
import type { StripBook } from '../documents/strip';
import type { TestCosts } from '../inference/design';
import { analyseStrip, powerKind } from '../strip/analyse';
import type { StripAnalysis, StripOptions } from '../strip/analysis';
import { comparedUnit } from './compared-unit';

export interface JobStrip {
  readonly unitId: string | null;
  /** Null while no pass has been driven. */
  readonly analysis: StripAnalysis | null;
}

/** What of a job its days at the strip are judged by. */
export type StripJob = {
  readonly car: { readonly induction: Pick<JobDoc['car']['induction'], 'kind'> };
  readonly pick: Pick<JobDoc['pick'], 'chosen'>;
  readonly test: { readonly strip: JobDoc['test']['strip'] };
};

/** Getting to a track and home again, minutes. */
const STRIP_VISIT_min = 90;

/** Minutes and money of passes, swaps and days at the strip. */
export const stripCosts = (
  plan: JobDoc['test']['strip'],
  fees: { readonly entryFee: number; readonly perPassFee: number } | undefined,
): TestCosts => ({
  run_min: plan.perPass_min + plan.coolDown_min,
  refit_min: plan.swap_min,
  visit_min: STRIP_VISIT_min,
  perHour: 0,
  perVisit: fees?.entryFee ?? 0,
  perRun: fees?.perPassFee ?? 0,
});

/** A job's days at the strip: stock against `unitId`, or, left out, the chosen throttle or the first that was run. */
export function jobStrip(
  doc: StripJob,
  book: StripBook,
  unitId: string | null = comparedUnit(doc.pick.chosen, book.passes),
  history?: StripOptions['history'],
): JobStrip {
  const { et_s, trap_mps, sixty_s } = doc.test.strip;
  const last = book.visits.at(-1)?.doc;
  const analysis =
    book.passes.length === 0
      ? null
      : analyseStrip(book, {
          kind: powerKind(doc.car.induction.kind),
          unitId,
          thresholds: { et_s, trap_mps, sixty_s },
          costs: stripCosts(doc.test.strip, last),
          history,
        });
  return { unitId, analysis };
}
