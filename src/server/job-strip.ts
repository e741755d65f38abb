import { createHash } from 'node:crypto';
import type { StripBook } from '@/core/documents/strip';
import type { JobStrip, StripJob } from '@/core/job/strip';
import type { StripOptions } from '@/core/strip/analysis';
import { Known } from './known';
import { workOut } from './work/work-out';

/** Answers by everything they hang on: a page read again, and most saves of a job, change nothing of its days at the strip. */
const known = new Known<JobStrip>(100);

/** `jobStrip`, which takes a tenth of a second for a day's passes, worked out once for what it is told. */
export async function keptStrip(
  doc: StripJob,
  book: StripBook,
  unitId: string | null | undefined,
  history: StripOptions['history'],
): Promise<JobStrip> {
  const { kind } = doc.car.induction;
  const job: StripJob = { car: { induction: { kind } }, pick: { chosen: doc.pick.chosen }, test: { strip: doc.test.strip } };
  const told = [job, book, unitId === undefined ? 'the chosen' : [unitId], history];
  const key = createHash('sha256').update(JSON.stringify(told)).digest('base64');
  return known.orBegin(key, () => workOut('strip', job, book, unitId, history));
}
