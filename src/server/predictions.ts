import type { Selectable } from 'kysely';
import { predictionDoc, type PredictionDoc, type StoredPrediction } from '@/core/documents/prediction';
import type { Db, Trx } from './db/client';
import type { PredictionTable } from './db/tables';
import { notFound, ServerProblem } from './errors';
import { isUuid } from './ids';

const stored = (r: Selectable<PredictionTable>): StoredPrediction => ({
  id: r.id,
  subject: 'bench',
  subjectId: r.subject_id,
  title: r.title,
  source: r.source,
  predicted: r.predicted,
  low: r.low,
  high: r.high,
  measured: r.measured,
  madeAt: r.made_at.toISOString(),
});

/** The ledger of guesses about one kind of thing, the newest first. */
export async function listPredictions(db: Db | Trx, subject: PredictionDoc['subject']): Promise<StoredPrediction[]> {
  const rows = await db.selectFrom('prediction').selectAll().where('subject', '=', subject).orderBy('made_at', 'desc').limit(500).execute();
  return rows.map(stored);
}

export async function addPrediction(db: Db | Trx, doc: PredictionDoc): Promise<StoredPrediction> {
  const p = predictionDoc.parse(doc);
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
