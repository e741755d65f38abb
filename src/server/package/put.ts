/** Writes what an archive holds into the tables, its ids settled. Each in the transaction of the whole. */
import { sql } from 'kysely';
import type { PackageDoc } from '@/core/documents/package';
import type { PlacedBlock } from '@/core/read/packed-block';
import type { Trx } from '../db/client';
import { ServerProblem } from '../errors';
import { putBlocks } from '../log-blocks';
import { personNow } from '../who';

/** The samples of a recording as they came out of the archive. */
export interface Samples {
  readonly rows: number;
  stored(): Iterable<PlacedBlock>;
}

const json = (x: unknown): string => JSON.stringify(x);
const saved = (x: { version: number; savedBy: string; savedAt: string }) => ({
  version: x.version,
  saved_by: x.savedBy,
  saved_at: new Date(x.savedAt),
});
const bin = (trashed: boolean) => ({ trashed_at: trashed ? new Date() : null });

/** The throttles that are not on this shelf: `known` are. */
async function putUnits(trx: Trx, doc: PackageDoc, known: ReadonlySet<string>): Promise<void> {
  for (const u of doc.units.filter((x) => !known.has(x.id)))
    await trx
      .insertInto('unit')
      .values({ id: u.id, doc: json(u.doc), ...saved(u) })
      .execute();
}

async function putJob(trx: Trx, doc: PackageDoc): Promise<void> {
  await trx
    .insertInto('job')
    .values({
      id: doc.job.id,
      doc: json(doc.job.doc),
      finding: json({ stops: [] }),
      ...saved(doc.job),
      saved_at: new Date(),
      saved_by: personNow() || doc.job.savedBy,
      archived_at: null,
    })
    .execute();
}

/** Recordings with their samples, which lie in the archive by the ids they had there. */
async function putLogs(trx: Trx, doc: PackageDoc, tables: ReadonlyMap<string, Samples>, byOld: ReadonlyMap<string, string>): Promise<void> {
  const oldOf = new Map([...byOld].map(([old, now]) => [now, old]));
  for (const log of doc.logs) {
    const table = tables.get(`logs/${oldOf.get(log.id) ?? log.id}.csv`);
    if (log.rows > 0 && table?.rows !== log.rows)
      throw new ServerProblem(422, 'rows_missing', `The samples of “${log.fileName}” are not all in this archive.`);
    await trx
      .insertInto('log')
      .values({
        id: log.id,
        job_id: doc.job.id,
        file_hash: log.fileHash,
        part: log.part,
        file_name: log.fileName,
        columns: json(log.columns),
        report: json(log.report),
        rows: log.rows,
      })
      .execute();
    for (const block of table?.stored() ?? []) await putBlocks(trx, log.id, [block]);
  }
}

async function putRuns(trx: Trx, doc: PackageDoc): Promise<void> {
  for (const r of doc.runs)
    await trx
      .insertInto('run')
      .values({
        id: r.id,
        job_id: doc.job.id,
        log_id: r.logId,
        first_row: r.firstRow,
        last_row: r.lastRow,
        doc: json(r.doc),
        ...saved(r),
        ...bin(r.trashed),
      })
      .execute();
}

async function putStrip(trx: Trx, doc: PackageDoc): Promise<void> {
  for (const v of doc.visits)
    await trx
      .insertInto('strip_visit')
      .values({ id: v.id, job_id: doc.job.id, doc: json(v.doc), ...saved(v), ...bin(v.trashed) })
      .execute();
  for (const p of doc.passes)
    await trx
      .insertInto('strip_pass')
      .values({ id: p.id, visit_id: p.visitId, doc: json(p.doc), ...saved(p), ...bin(p.trashed) })
      .execute();
}

/** What was guessed, ticked and changed. */
async function putRecord(trx: Trx, doc: PackageDoc): Promise<void> {
  for (const g of doc.guesses)
    await sql`INSERT INTO prediction (id, subject, subject_id, title, source, predicted, low, high, measured, made_at, measured_at)
      VALUES (${g.id}, 'dyno', ${doc.job.id}, ${g.title}, ${g.source}, ${g.predicted}, ${g.low}, ${g.high}, ${g.measured}, ${g.madeAt}, ${g.measuredAt})`.execute(
      trx,
    );
  for (const { event, writtenAt } of doc.sheet)
    await sql`INSERT INTO sheet_event (id, job_id, event, written_at) VALUES (${event.id}, ${doc.job.id}, ${json(event)}::jsonb, ${writtenAt})`.execute(
      trx,
    );
  for (const h of doc.history)
    await trx
      .insertInto('document_version')
      .values({ kind: h.kind, doc_id: h.id, doc: json(h.doc), ...saved(h) })
      .execute();
}

async function putPractice(trx: Trx, doc: PackageDoc): Promise<void> {
  for (const p of doc.practice) {
    await trx
      .insertInto('practice')
      .values({
        id: p.id,
        job_id: doc.job.id,
        seed: p.seed,
        setup: json(p.setup),
        truth: json(p.truth),
        decision: p.decision === null ? null : json(p.decision),
      })
      .execute();
    for (const [seq, run] of p.runs.entries())
      await trx
        .insertInto('practice_run')
        .values({ practice_id: p.id, seq, run: json(run) })
        .execute();
  }
}

/**
 * A whole job into the tables. `known`: throttles that stand on this shelf already. `tables`: samples by their files' names.
 * `byOld`: new ids by those of the archive, where they had to change.
 */
export async function putPackage(
  trx: Trx,
  doc: PackageDoc,
  from: { readonly known: ReadonlySet<string>; readonly tables: ReadonlyMap<string, Samples>; readonly byOld: ReadonlyMap<string, string> },
): Promise<void> {
  await putUnits(trx, doc, from.known);
  await putJob(trx, doc);
  await putLogs(trx, doc, from.tables, from.byOld);
  await putRuns(trx, doc);
  await putStrip(trx, doc);
  await putRecord(trx, doc);
  await putPractice(trx, doc);
}
