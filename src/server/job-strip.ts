import type { StripBook } from '@/core/documents/strip';
import type { JobStrip, StripJob } from '@/core/job/strip';
import type { StripOptions } from '@/core/strip/analysis';
import type { Db, Trx } from './db/client';
import { KnownSums } from './known-sums';
import { workOut } from './work/work-out';

/** Answers by everything they hang on: a page read again, and most saves of a job, change nothing of its days at the strip. */
const known = new KnownSums<JobStrip>('strip', 100);

/** `jobStrip`, which takes a tenth of a second for a day's passes, worked out once for what it is told. */
export function keptStrip(
  db: Db | Trx,
  doc: StripJob,
  book: StripBook,
  unitId: string | null | undefined,
  history: StripOptions['history'],
): Promise<JobStrip> {
  const { kind } = doc.car.induction;
  const job: StripJob = { car: { induction: { kind } }, pick: { chosen: doc.pick.chosen }, test: { strip: doc.test.strip } };
  const told = [job, book, unitId === undefined ? 'the chosen' : [unitId], history];
  return known.get(db, told, () => Promise.resolve(() => workOut('strip', job, book, unitId, history)));
}
