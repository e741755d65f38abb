import { readKept } from '@/core/documents/kept';
import {
  stripPassDoc,
  stripVisitDoc,
  type StoredPass,
  type StoredVisit,
  type StripBook,
  type StripPassDoc,
  type StripVisitDoc,
  type WeatherReadingDoc,
} from '@/core/documents/strip';
import { nightOrder } from '@/core/strip/air-of-day';
import { acceptedChange } from './accept';
import type { Db, Trx } from './db/client';
import { notFound, ServerProblem, stale } from './errors';
import { isUuid } from './ids';
import { personNow } from './who';

const VISIT = ['id', 'job_id', 'version', 'doc'] as const;
const PASS = ['id', 'visit_id', 'version', 'doc'] as const;

const visitOf = (r: { id: string; job_id: string; version: number; doc: unknown }): StoredVisit => ({
  id: r.id,
  jobId: r.job_id,
  version: r.version,
  doc: readKept(stripVisitDoc, r.doc),
});
const passOf = (r: { id: string; visit_id: string; version: number; doc: unknown }): StoredPass => ({
  id: r.id,
  visitId: r.visit_id,
  version: r.version,
  doc: readKept(stripPassDoc, r.doc),
});

/** Everything a job did at the strip, visits by day and passes in the order they were driven. */
export async function readBook(db: Db | Trx, jobId: string): Promise<StripBook> {
  const visits = await db
    .selectFrom('strip_visit')
    .select(VISIT)
    .where('job_id', '=', jobId)
    .where('trashed_at', 'is', null)
    .orderBy('created_at')
    .execute();
  const passes = await db
    .selectFrom('strip_pass')
    .innerJoin('strip_visit', 'strip_visit.id', 'strip_pass.visit_id')
    .select(['strip_pass.id', 'strip_pass.visit_id', 'strip_pass.version', 'strip_pass.doc'])
    .where('strip_visit.job_id', '=', jobId)
    .where('strip_pass.trashed_at', 'is', null)
    .where('strip_visit.trashed_at', 'is', null)
    .orderBy('strip_pass.created_at')
    .execute();
  const book = { visits: visits.map(visitOf), passes: passes.map(passOf) };
  return {
    visits: book.visits.toSorted((a, b) => a.doc.takenOn.localeCompare(b.doc.takenOn)),
    passes: nightOrder(book.passes),
  };
}

export async function readVisit(db: Db | Trx, id: string): Promise<StoredVisit> {
  const row = isUuid(id) ? await db.selectFrom('strip_visit').select(VISIT).where('id', '=', id).executeTakeFirst() : undefined;
  if (!row) throw notFound('visit');
  return visitOf(row);
}

export async function readPass(db: Db | Trx, id: string): Promise<StoredPass> {
  const row = isUuid(id) ? await db.selectFrom('strip_pass').select(PASS).where('id', '=', id).executeTakeFirst() : undefined;
  if (!row) throw notFound('pass');
  return passOf(row);
}

/** The job a pass was run in. */
export async function jobOfPass(db: Db | Trx, id: string): Promise<string> {
  return (await readVisit(db, (await readPass(db, id)).visitId)).jobId;
}

/** A day at a strip. With an id made where it was written, one that is sent twice is one. */
export async function addVisit(trx: Trx, jobId: string, doc: StripVisitDoc, id?: string): Promise<StoredVisit> {
  const row = await trx
    .insertInto('strip_visit')
    .values({ ...(id !== undefined && { id }), job_id: jobId, doc: JSON.stringify(stripVisitDoc.parse(doc)), saved_by: personNow() })
    .onConflict((c) => c.column('id').doNothing())
    .returning(VISIT)
    .executeTakeFirst();
  const visit = row ? visitOf(row) : await readVisit(trx, id ?? '');
  if (visit.jobId !== jobId) throw new ServerProblem(409, 'taken', 'This day belongs to another job.');
  return visit;
}

/** Readings of a day's air put into it, each at its time of day: whoever saved the day meanwhile keeps what they wrote. */
export async function addWeather(trx: Trx, visitId: string, readings: readonly WeatherReadingDoc[]): Promise<StoredVisit> {
  const held = isUuid(visitId)
    ? await trx.selectFrom('strip_visit').select(VISIT).where('id', '=', visitId).forUpdate().executeTakeFirst()
    : undefined;
  if (!held) throw notFound('visit');
  const visit = visitOf(held);
  const times = new Set(readings.map((r) => r.at));
  const weather = [...visit.doc.weather.filter((r) => !times.has(r.at)), ...readings].sort((a, b) => a.at.localeCompare(b.at));
  return saveVisit(trx, visitId, visit.version, { ...visit.doc, weather });
}

export async function saveVisit(trx: Trx, id: string, version: number, doc: StripVisitDoc): Promise<StoredVisit> {
  const before = await readVisit(trx, id);
  if (before.version !== version) throw stale(before);
  const parsed = acceptedChange(stripVisitDoc, before.doc, doc);
  const row = isUuid(id)
    ? await trx
        .updateTable('strip_visit')
        .set({ doc: JSON.stringify(parsed), version: version + 1, saved_by: personNow(), saved_at: new Date() })
        .where('id', '=', id)
        .where('version', '=', version)
        .returning(VISIT)
        .executeTakeFirst()
    : undefined;
  if (!row) throw stale(await readVisit(trx, id));
  return visitOf(row);
}

/** Passes of a visit, all or none. One with an id made where it was written is taken once, however often it is sent. */
export async function addPasses(
  trx: Trx,
  visitId: string,
  docs: readonly (StripPassDoc & { readonly id?: string | undefined })[],
): Promise<StoredPass[]> {
  await readVisit(trx, visitId);
  const added: StoredPass[] = [];
  for (const { id, ...doc } of docs) {
    const row = await trx
      .insertInto('strip_pass')
      .values({ ...(id !== undefined && { id }), visit_id: visitId, doc: JSON.stringify(stripPassDoc.parse(doc)), saved_by: personNow() })
      .onConflict((c) => c.column('id').doNothing())
      .returning(PASS)
      .executeTakeFirst();
    const pass = row ? passOf(row) : await readPass(trx, id ?? '');
    if (pass.visitId !== visitId) throw new ServerProblem(409, 'taken', 'This pass belongs to another day.');
    added.push(pass);
  }
  return added;
}

export async function savePass(trx: Trx, id: string, version: number, doc: StripPassDoc): Promise<StoredPass> {
  const before = await readPass(trx, id);
  if (before.version !== version) throw stale(before);
  const parsed = acceptedChange(stripPassDoc, before.doc, doc);
  const row = isUuid(id)
    ? await trx
        .updateTable('strip_pass')
        .set({ doc: JSON.stringify(parsed), version: version + 1, saved_by: personNow(), saved_at: new Date() })
        .where('id', '=', id)
        .where('version', '=', version)
        .returning(PASS)
        .executeTakeFirst()
    : undefined;
  if (!row) throw stale(await readPass(trx, id));
  return passOf(row);
}
