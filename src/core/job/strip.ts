import type { JobDoc } from '../documents/job';
import type { StripBook } from '../documents/strip';
import { analyseStrip, powerKind, type StripAnalysis } from '../strip/analyse';
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
  readonly test: { readonly strip: Pick<JobDoc['test']['strip'], 'et_s' | 'trap_mps' | 'sixty_s'> };
};

/** A job's days at the strip: stock against `unitId`, or, left out, the chosen unit or the first that was driven. */
export function jobStrip(doc: StripJob, book: StripBook, unitId: string | null = comparedUnit(doc.pick.chosen, book.passes)): JobStrip {
  const { et_s, trap_mps, sixty_s } = doc.test.strip;
  const analysis =
    book.passes.length === 0
      ? null
      : analyseStrip(book, { kind: powerKind(doc.car.induction.kind), unitId, thresholds: { et_s, trap_mps, sixty_s } });
  return { unitId, analysis };
}
