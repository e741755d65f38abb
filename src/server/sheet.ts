import { sheetEventDoc, type SheetEventDoc } from '@/core/documents/sheet';
import { refuseEvent, sheetState, startLocks, type EventRefusal } from '@/core/install/run-sheet';
import { gatesOf, installSteps } from '@/core/install/steps';
import type { Db, Trx } from './db/client';
import { notFound, ServerProblem } from './errors';
import { isUuid } from './ids';
import { readJob } from './jobs';

/** Everything written down on a job's run-sheet, in the order it was. */
export async function listSheet(db: Db | Trx, jobId: string): Promise<SheetEventDoc[]> {
  if (!isUuid(jobId)) return [];
  const rows = await db.selectFrom('sheet_event').select('event').where('job_id', '=', jobId).orderBy('seq').execute();
  return rows.map((r) => sheetEventDoc.parse(r.event) as SheetEventDoc);
}

const WORDS: Readonly<Record<EventRefusal, string>> = {
  'no name': 'Say who is at the car.',
  'in the future': 'This is stamped later than the time it is. Set this device’s clock right.',
  'no reason': 'Say why.',
  'bad count': 'A count of fasteners is a whole number from 0 to 200.',
  'unknown step': 'This step is not on this car’s sheet.',
  'unknown check': 'This check is not on this car’s sheet.',
  locked: 'The first start is locked: not every check before it stands as passed.',
};

/**
 * Writes one event down, or refuses it. The job is held meanwhile, so that two windows cannot go round the lock; an event
 * that is there already is left as it is. Resolves with the whole sheet.
 */
export async function writeSheet(trx: Trx, jobId: string, event: SheetEventDoc, now_ms: number): Promise<SheetEventDoc[]> {
  const held = isUuid(jobId) ? await trx.selectFrom('job').select('id').where('id', '=', jobId).forUpdate().executeTakeFirst() : undefined;
  if (!held) throw notFound('job');
  const events = await listSheet(trx, jobId);
  if (events.some((e) => e.id === event.id)) return events;
  const { doc } = await readJob(trx, jobId);
  const steps = installSteps(doc.car.controls.kind, doc.pick.opening === 'matched');
  const gates = gatesOf(steps);
  const refused = refuseEvent(event, { steps, gates, events }, now_ms);
  if (refused) {
    const locks = refused === 'locked' ? startLocks(sheetState(events, gates), gates) : [];
    throw new ServerProblem(refused === 'locked' ? 409 : 422, refused, WORDS[refused], { locks });
  }
  await trx
    .insertInto('sheet_event')
    .values({ id: event.id, job_id: jobId, event: JSON.stringify(event) })
    .execute();
  return [...events, event];
}
