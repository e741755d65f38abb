import type { SheetEventDoc } from '@/core/documents/sheet';
import { refuseEvent, sheetState, startLocks, type EventRefusal } from '@/core/install/run-sheet';
import { carKind, gatesOf, jobSteps, usualSteps, stepFacts } from '@/core/install/steps';
import { jobDoc, type JobDoc } from '@/core/documents/job';
import type { RelearnPlan } from '@/core/install/relearn';
import { type OwnStep } from '@/core/documents/install';
import type { Db, Trx } from './db/client';
import { notFound, ServerProblem } from './errors';
import { isUuid } from './ids';
import { readPicture } from './files/picture';
import { noteInstall, readJob } from './jobs';
import { listSheet } from './sheet-events';

const WORDS: Readonly<Record<EventRefusal, string>> = {
  'no name': 'Say who is at the car.',
  'no reason': 'Say why.',
  'bad count': 'A count of fasteners is a whole number from 0 to 200.',
  'unknown step': 'This step is not on this car’s sheet.',
  'unknown check': 'This check is not on this car’s sheet.',
  'unknown event': 'What is to be taken back is not on this car’s sheet.',
  locked: 'The first start is locked: not every check before it stands as passed.',
  'not started': 'The first start is not ticked yet: tick it when the engine runs.',
  'cure first': 'Do the work again that this check is about and tick it; then the check can be passed.',
  'relearn not clean': 'This relearn is not clean: run it again, or say why it is done all the same.',
  'bad reading': 'No engine turns like that: a reading lies between 0 and 25,000 rpm.',
  'bags open': 'A bag’s fasteners are not all back. Count again, or find the one that is missing.',
};

/** Refusals that come from what stands on the sheet, not from the event itself. */
const CONFLICTS: ReadonlySet<EventRefusal> = new Set(['locked', 'bags open', 'cure first', 'relearn not clean']);

const planOf = ({ install: { relearn } }: JobDoc): RelearnPlan => ({
  cycles: relearn.cycles,
  run_s: relearn.run_s,
  rest_s: relearn.rest_s,
  band_rpm: [relearn.low_rpm, relearn.high_rpm],
});

/** Clocks of two devices are never quite the same: below this, ms, it is not worth a word. */
const CLOCK_SLACK_ms = 2000;

/**
 * An event with its time by this clock, the device's own beside it where the two differ. `sent_ms` is what the device's clock
 * said as it sent; null: not told, and the stamp is believed as far as now.
 */
function stamped(event: SheetEventDoc, sent_ms: number | null, now_ms: number): SheetEventDoc {
  const fast = sent_ms === null ? 0 : sent_ms - now_ms;
  const at_ms = Math.max(0, Math.min(now_ms, Math.abs(fast) > CLOCK_SLACK_ms ? event.at_ms - fast : event.at_ms));
  const { phone_ms: _phone, kept_ms: _kept, ...rest } = event;
  return {
    ...rest,
    at_ms,
    ...(Math.abs(at_ms - event.at_ms) > CLOCK_SLACK_ms && { phone_ms: event.at_ms }),
    kept_ms: now_ms,
  } as SheetEventDoc;
}

/**
 * Writes one event down, or refuses it. The job is held meanwhile, so that two windows cannot go round the lock; an event
 * that is there already is left as it is. Resolves with the whole sheet.
 */
export async function writeSheet(
  trx: Trx,
  jobId: string,
  written: SheetEventDoc,
  now_ms: number,
  sent_ms: number | null = null,
): Promise<SheetEventDoc[]> {
  const event = stamped(written, sent_ms, now_ms);
  const held = isUuid(jobId)
    ? await trx.selectFrom('job').select('id').where('id', '=', jobId).forNoKeyUpdate().executeTakeFirst()
    : undefined;
  if (!held) throw notFound('job');
  const events = await listSheet(trx, jobId);
  if (events.some((e) => e.id === event.id)) return events;
  const { doc } = await readJob(trx, jobId);
  const steps = jobSteps(doc);
  if (event.type === 'photo') await readPicture(trx, event.hash);
  const gates = gatesOf(steps);
  const refused = refuseEvent(event, { steps, gates, events, relearn: planOf(doc) }, now_ms);
  if (refused) {
    const locks = refused === 'locked' ? startLocks(sheetState(events, gates), gates) : [];
    throw new ServerProblem(CONFLICTS.has(refused) ? 409 : 422, refused, WORDS[refused], { locks });
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
