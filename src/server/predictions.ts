import { sql, type Selectable } from 'kysely';
import { predictionDoc, type PredictionDoc, type StoredPrediction } from '@/core/documents/prediction';
import type { Db, Trx } from './db/client';
import type { PredictionTable } from './db/tables';
import { notFound, ServerProblem } from './errors';
import { isUuid } from './ids';

const stored = (r: Selectable<PredictionTable>): StoredPrediction => ({
  id: r.id,
  subject: r.subject as PredictionDoc['subject'],
  subjectId: r.subject_id,
  title: r.title,
  source: r.source,
  predicted: r.predicted,
  low: r.low,
  high: r.high,
  measured: r.measured,
  madeAt: r.made_at.toISOString(),
});

/** The ledger of guesses about one kind of thing, or about one thing, the newest first. */
export async function listPredictions(
  db: Db | Trx,
  subject: PredictionDoc['subject'],
  subjectId: string | null = null,
): Promise<StoredPrediction[]> {
  const all = db.selectFrom('prediction').selectAll().where('subject', '=', subject);
  const rows = await (subjectId === null ? all : all.where('subject_id', '=', subjectId))
    // By the millisecond, as an archive has it: two made within one stand in the same order wherever they are.
    .orderBy(sql`date_trunc('milliseconds', made_at)`, 'desc')
    .orderBy('id')
    .limit(500)
    .execute();
  return rows.map(stored);
}

/** A guess about a job's runs is only one before the first run with the new part on. */
async function inTime(db: Db | Trx, p: PredictionDoc): Promise<void> {
  if (p.subject !== 'dyno' || p.subjectId === null) return;
  const seen = await db
    .selectFrom('run')
    .select('id')
    .where('job_id', '=', p.subjectId)
    .where('trashed_at', 'is', null)
    .where(sql<boolean>`doc->'side'->>'kind' = 'unit'`)
    .executeTakeFirst();
  if (seen)
    throw new ServerProblem(409, 'too_late', 'The new part has been run already: a guess made now is none. It would have to come before.');
}

/** Writes the reading beside every guess about a thing that has none yet. */
export async function scorePredictions(
  trx: Trx,
  subject: PredictionDoc['subject'],
  subjectId: string,
  measured: number,
): Promise<StoredPrediction[]> {
  await trx
    .updateTable('prediction')
    .set({ measured, measured_at: new Date() })
    .where('subject', '=', subject)
    .where('subject_id', '=', subjectId)
    .where('measured', 'is', null)
    .execute();
  return listPredictions(trx, subject, subjectId);
}

export async function addPrediction(db: Db | Trx, doc: PredictionDoc): Promise<StoredPrediction> {
  const p = predictionDoc.parse(doc);
  await inTime(db, p);
  const row = await db
    .insertInto('prediction')
    .values({
      subject: p.subject,
      subject_id: p.subjectId,
      title: p.title,
      source: p.source,
      predicted: p.predicted,
      low: p.low,
      high: p.high,
      measured: null,
    })
    .returningAll()
    .executeTakeFirstOrThrow();
  return stored(row);
}

/** Writes the reading beside a guess, once. */
export async function measurePrediction(trx: Trx, id: string, measured: number): Promise<StoredPrediction> {
  const found = isUuid(id) ? await trx.selectFrom('prediction').select('measured').where('id', '=', id).executeTakeFirst() : undefined;
  if (!found) throw notFound('guess');
  if (found.measured !== null) throw new ServerProblem(409, 'measured', 'This guess has its reading already.');
  const row = await trx
    .updateTable('prediction')
    .set({ measured, measured_at: new Date() })
    .where('id', '=', id)
    .returningAll()
    .executeTakeFirstOrThrow();
  return stored(row);
}
