import {
  stripPassDoc,
  stripVisitDoc,
  type StoredPass,
  type StoredVisit,
  type StripBook,
  type StripPassDoc,
  type StripVisitDoc,
} from '@/core/documents/strip';
import { nightOrder } from '@/core/strip/air-of-day';
import type { Db, Trx } from './db/client';
import { notFound, stale } from './errors';
import { isUuid } from './ids';
import { personNow } from './who';

const VISIT = ['id', 'job_id', 'version', 'doc'] as const;
const PASS = ['id', 'visit_id', 'version', 'doc'] as const;

const visitOf = (r: { id: string; job_id: string; version: number; doc: unknown }): StoredVisit => ({
  id: r.id,
  jobId: r.job_id,
  version: r.version,
  doc: stripVisitDoc.parse(r.doc),
});
const passOf = (r: { id: string; visit_id: string; version: number; doc: unknown }): StoredPass => ({
  id: r.id,
  visitId: r.visit_id,
  version: r.version,
  doc: stripPassDoc.parse(r.doc),
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

/** The job a pass was driven in. */
export async function jobOfPass(db: Db | Trx, id: string): Promise<string> {
  return (await readVisit(db, (await readPass(db, id)).visitId)).jobId;
}

export async function addVisit(trx: Trx, jobId: string, doc: StripVisitDoc): Promise<StoredVisit> {
  const row = await trx
    .insertInto('strip_visit')
    .values({ job_id: jobId, doc: JSON.stringify(stripVisitDoc.parse(doc)), saved_by: personNow() })
    .returning(VISIT)
    .executeTakeFirstOrThrow();
  return visitOf(row);
}

export async function saveVisit(trx: Trx, id: string, version: number, doc: StripVisitDoc): Promise<StoredVisit> {
  const row = isUuid(id)
    ? await trx
        .updateTable('strip_visit')
        .set({ doc: JSON.stringify(stripVisitDoc.parse(doc)), version: version + 1, saved_by: personNow(), saved_at: new Date() })
        .where('id', '=', id)
        .where('version', '=', version)
        .returning(VISIT)
        .executeTakeFirst()
    : undefined;
  if (!row) throw stale(await readVisit(trx, id));
  return visitOf(row);
}

/** Passes of a visit, all or none. */
export async function addPasses(trx: Trx, visitId: string, docs: readonly StripPassDoc[]): Promise<StoredPass[]> {
  await readVisit(trx, visitId);
  const added: StoredPass[] = [];
  for (const doc of docs) {
    const row = await trx
      .insertInto('strip_pass')
      .values({ visit_id: visitId, doc: JSON.stringify(stripPassDoc.parse(doc)), saved_by: personNow() })
      .returning(PASS)
      .executeTakeFirstOrThrow();
    added.push(passOf(row));
  }
  return added;
}

export async function savePass(trx: Trx, id: string, version: number, doc: StripPassDoc): Promise<StoredPass> {
  const row = isUuid(id)
    ? await trx
        .updateTable('strip_pass')
        .set({ doc: JSON.stringify(stripPassDoc.parse(doc)), version: version + 1, saved_by: personNow(), saved_at: new Date() })
        .where('id', '=', id)
        .where('version', '=', version)
        .returning(PASS)
        .executeTakeFirst()
    : undefined;
  if (!row) throw stale(await readPass(trx, id));
  return passOf(row);
}
