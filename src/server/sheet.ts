import type { SheetEventDoc } from '@/core/documents/sheet';
import { refuseEvent, sheetState, startLocks, type EventRefusal } from '@/core/install/run-sheet';
import { carKind, gatesOf, jobSteps, usualSteps, stepFacts } from '@/core/install/steps';
import { jobDoc } from '@/core/documents/job';
import { type OwnStep } from '@/core/documents/install';
import type { Db, Trx } from './db/client';
import { notFound, ServerProblem } from './errors';
import { isUuid } from './ids';
import { readPicture } from './files/picture';
import { noteInstall, readJob } from './jobs';
import { listSheet } from './sheet-events';

const WORDS: Readonly<Record<EventRefusal, string>> = {
  'no name': 'Say who is at the car.',
  'in the future': 'This is stamped later than the time it is. Set this device’s clock right.',
  'no reason': 'Say why.',
  'bad count': 'A count of fasteners is a whole number from 0 to 200.',
  'unknown step': 'This step is not on this car’s sheet.',
  'unknown check': 'This check is not on this car’s sheet.',
  locked: 'The first start is locked: not every check before it stands as passed.',
  'not started': 'The first start is not ticked yet: tick it when the engine runs.',
  'bad reading': 'No engine turns like that: a reading lies between 0 and 25,000 rpm.',
  'bags open': 'A bag’s fasteners are not all back. Count again, or find the one that is missing.',
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
  const steps = jobSteps(doc);
  if (event.type === 'photo') await readPicture(trx, event.hash);
  const gates = gatesOf(steps);
  const refused = refuseEvent(event, { steps, gates, events }, now_ms);
  if (refused) {
    const locks = refused === 'locked' ? startLocks(sheetState(events, gates), gates) : [];
    throw new ServerProblem(refused === 'locked' || refused === 'bags open' ? 409 : 422, refused, WORDS[refused], { locks });
  }
  await trx
    .insertInto('sheet_event')
    .values({ id: event.id, job_id: jobId, event: JSON.stringify(event) })
    .execute();
  const all = [...events, event];
  await noteInstall(trx, jobId, doc, all);
  return all;
}

/** Own steps of other jobs on the same kind of car, each text once, the newest job's first; those this job has are left out. */
export async function offeredSteps(db: Db | Trx, jobId: string): Promise<OwnStep[]> {
  const { doc } = await readJob(db, jobId);
  const rows = await db.selectFrom('job').select(['id', 'doc']).where('id', '!=', jobId).orderBy('saved_at', 'desc').limit(500).execute();
  const known = new Set(doc.install.own.map((o) => o.text));
  const usual = new Set(usualSteps(stepFacts(doc)).map((s) => s.id));
  const out: OwnStep[] = [];
  for (const row of rows) {
    const other = jobDoc.safeParse(row.doc);
    if (!other.success || carKind(other.data) !== carKind(doc)) continue;
    for (const own of other.data.install.own) {
      if (known.has(own.text)) continue;
      known.add(own.text);
      out.push({ ...own, after: own.after !== null && usual.has(own.after) ? own.after : null });
    }
  }
  return out;
}
