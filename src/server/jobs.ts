import { createHash } from 'node:crypto';
import { isAsWritten, lookOf } from '@/core/compare/look';
import { cutText } from '@/core/cut-text';
import { sql } from 'kysely';
import { issuesOf } from '@/core/documents/issue';
import { keptDocument } from '@/core/documents/kept';
import { jobDoc, type JobDoc, type StoredJob } from '@/core/documents/job';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { NO_VERDICT } from '@/core/documents/blank';
import { historyLogs, type ShopHistory } from '@/core/inference/shop-history';
import { NO_COMPARISON } from '@/core/job/comparison';
import { FINDINGS_EDITION, installFinding, type JobFindings } from '@/core/verdict/findings';
import { acceptedChange } from './accept';
import type { Db, Trx } from './db/client';
import { keptStrip } from './job-strip';
import { notFound, stale } from './errors';
import { isUuid } from './ids';
import { jobComparison } from './comparison';
import { scorePredictions } from './predictions';
import { listSheet } from './sheet-events';
import { shopHistory } from './shop-history';
import { readBook } from './strip';
import { listUnits } from './units';
import { personNow } from './who';
import { workOut } from './work/work-out';

export interface BoardJob {
  readonly id: string;
  readonly number: number;
  readonly name: string;
  readonly savedAt: string;
  /** Who saved it last; empty: nobody named. */
  readonly savedBy?: string;
  readonly owner?: string;
  readonly plate?: string;
  readonly archived: boolean;
  readonly version: number;
  readonly tags: readonly string[];
  readonly findings: JobFindings;
}

type Row = { id: string; number: number; version: number; saved_at: Date; archived_at: Date | null; doc: unknown };
const COLUMNS = ['id', 'number', 'version', 'saved_at', 'archived_at', 'doc'] as const;

function stored(row: Row): StoredJob {
  const { doc, amiss } = keptDocument(jobDoc, row.doc);
  return {
    id: row.id,
    number: row.number,
    version: row.version,
    savedAt: row.saved_at.toISOString(),
    archived: row.archived_at !== null,
    doc,
    ...(amiss && { amiss: issuesOf(amiss) }),
  };
}

/** Every job with what it found, the last touched first. Reads no whole documents. */
export async function listJobs(db: Db | Trx): Promise<BoardJob[]> {
  const rows = await db
    .selectFrom('job')
    .select(['id', 'number', 'version', 'saved_at', 'archived_at', 'finding', 'name', 'tags'])
    .where('trashed_at', 'is', null)
    .orderBy('saved_at', 'desc')
    .execute();
  return rows.map((r) => ({
    id: r.id,
    number: r.number,
    name: r.name ?? '',
    version: r.version,
    savedAt: r.saved_at.toISOString(),
    archived: r.archived_at !== null,
    tags: r.tags ?? [],
    findings: r.finding,
  }));
}

/** The jobs that are not archived, by name alone: for choosing one. */
export async function listOpenJobs(db: Db | Trx): Promise<{ id: string; name: string }[]> {
  return db
    .selectFrom('job')
    .select(['id', sql<string>`coalesce(name, '')`.as('name')])
    .where('trashed_at', 'is', null)
    .where('archived_at', 'is', null)
    .orderBy('saved_at', 'desc')
    .execute();
}

export async function readJob(db: Db | Trx, id: string): Promise<StoredJob> {
  const row = isUuid(id)
    ? await db.selectFrom('job').select(COLUMNS).where('id', '=', id).where('trashed_at', 'is', null).executeTakeFirst()
    : undefined;
  if (!row) throw notFound('job');
  return stored(row);
}

/** Units a job speaks of: they stay with it when they are taken off the shelf. */
export const unitsOf = (doc: JobDoc): string[] => [...doc.pick.shown, ...(doc.pick.chosen === null ? [] : [doc.pick.chosen])];

async function findingsOf(trx: Trx, id: string | null, doc: JobDoc): Promise<JobFindings> {
  const history = id === null ? {} : await shopHistory(trx, id);
  const runs = id === null ? NO_COMPARISON : await jobComparison(trx, id, doc, history);
  const events = id === null ? [] : await listSheet(trx, id);
  const strip = id === null ? null : (await keptStrip(trx, doc, await readBook(trx, id), undefined, historyLogs(history))).analysis;
  const mentioned = runs.unitId === null ? unitsOf(doc) : [...unitsOf(doc), runs.unitId];
  const findings = await workOut('findings', doc, await listUnits(trx, mentioned), runs, events, strip);
  return runs.compared || strip ? { ...findings, history: historyMark(history) } : findings;
}

/** Marks of histories, once for each: every page of a job asks for its own. */
const marks = new WeakMap<ShopHistory, string>();

/** A short mark of what a job's answers lean on in other jobs: another mark, other answers. */
function historyMark(history: ShopHistory): string {
  const before = marks.get(history);
  if (before) return before;
  const mark = createHash('sha256').update(JSON.stringify(history)).digest('hex').slice(0, 16);
  marks.set(history, mark);
  return mark;
}

/** A job's finding as it is now: worked out anew where the shop's history has grown since, as its pages do. */
export async function currentFinding(db: Db, id: string): Promise<JobFindings> {
  const [kept, history] = await Promise.all([jobFinding(db, id), shopHistory(db, id)]);
  const fresh = kept.edition === FINDINGS_EDITION && (kept.history === undefined || kept.history === historyMark(history));
  return fresh ? kept : db.transaction().execute((trx) => refreshFinding(trx, id));
}

/**
 * Works out anew what the board says of jobs whose findings are of older sums, the latest first and for so long at most; what is
 * left is done as each job is opened. Returns how many were done.
 */
export async function refreshOldFindings(db: Db, forAtMost_ms: number): Promise<number> {
  const old = await db
    .selectFrom('job')
    .select('id')
    .where('trashed_at', 'is', null)
    .where(sql<boolean>`(finding ->> 'edition') IS DISTINCT FROM ${String(FINDINGS_EDITION)}`)
    .orderBy('saved_at', 'desc')
    .execute();
  const until = performance.now() + forAtMost_ms;
  let done = 0;
  for (const { id } of old) {
    if (performance.now() > until) break;
    await db.transaction().execute((trx) => refreshFinding(trx, id));
    done += 1;
  }
  return done;
}

export async function addJob(trx: Trx, doc: JobDoc): Promise<StoredJob> {
  const parsed = jobDoc.parse(doc);
  const finding = await findingsOf(trx, null, parsed);
  const row = await trx
    .insertInto('job')
    .values({ doc: JSON.stringify(parsed), finding: JSON.stringify(finding), saved_at: new Date(), saved_by: personNow() })
    .returning(COLUMNS)
    .executeTakeFirstOrThrow();
  return stored(row);
}

/**
 * Has whoever else works out what is found of this job be done first, and see what they wrote: of two that changed its runs at
 * once each would know its own change alone, and the later one's finding would stay. Rows that point at the job may be written
 * meanwhile. Its version and document; null: there is no such job.
 */
async function inTurn(trx: Trx, id: string): Promise<{ version: number; doc: unknown } | null> {
  const held = isUuid(id)
    ? await trx.selectFrom('job').select(['version', 'doc']).where('id', '=', id).forNoKeyUpdate().executeTakeFirst()
    : null;
  return held ?? null;
}

/** Saves a job if it is still at `version`; a newer one is returned with the refusal. */
export async function saveJob(trx: Trx, id: string, version: number, doc: JobDoc): Promise<{ job: StoredJob; findings: JobFindings }> {
  const held = await inTurn(trx, id);
  if (held?.version !== version) throw stale(await readJob(trx, id), { findings: await jobFinding(trx, id) });
  const parsed = acceptedChange(jobDoc, held.doc, doc);
  const findings = await findingsOf(trx, id, parsed);
  const row = await trx
    .updateTable('job')
    .set({
      doc: JSON.stringify(parsed),
      finding: JSON.stringify(findings),
      version: version + 1,
      saved_at: new Date(),
      saved_by: personNow(),
    })
    .where('id', '=', id)
    .returning(COLUMNS)
    .executeTakeFirstOrThrow();
  return { job: stored(row), findings };
}

/** Works the finding out anew, after the runs of a job have changed. The document and its version stay. */
export async function refreshFinding(trx: Trx, id: string): Promise<JobFindings> {
  await inTurn(trx, id);
  const job = await readJob(trx, id);
  const findings = await findingsOf(trx, id, job.doc);
  await trx
    .updateTable('job')
    .set({ finding: JSON.stringify(findings) })
    .where('id', '=', id)
    .execute();
  await scoreGuesses(trx, id, job.doc);
  return findings;
}

/** Guesses about a job's runs are scored by themselves, once, when the plan that was written down is done. */
async function scoreGuesses(trx: Trx, id: string, doc: JobDoc): Promise<void> {
  const { plan } = doc.test;
  const { compared } = isAsWritten(plan) ? await jobComparison(trx, id, doc) : { compared: null };
  if (compared && lookOf(plan, compared.study) !== 'before') await scorePredictions(trx, 'dyno', id, compared.deciding.mean_pct);
}

/** Brings a job's finding up to what now stands on its run-sheet: the rest of it hangs on nothing there. */
export async function noteInstall(trx: Trx, id: string, doc: JobDoc, events: readonly SheetEventDoc[]): Promise<void> {
  const kept = await jobFinding(trx, id);
  const install = installFinding(doc, doc.pick.chosen !== null, events);
  const finding: JobFindings = { ...kept, stops: kept.stops.map((s) => (s.stop === 'install' ? install : s)) };
  await trx
    .updateTable('job')
    .set({ finding: JSON.stringify(finding) })
    .where('id', '=', id)
    .execute();
}

export async function jobFinding(db: Db | Trx, id: string): Promise<JobFindings> {
  const row = await db.selectFrom('job').select('finding').where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('job');
  return row.finding;
}

export async function setArchived(trx: Trx, id: string, archived: boolean): Promise<void> {
  const done = await trx
    .updateTable('job')
    .set({ archived_at: archived ? new Date() : null })
    .where('id', '=', id)
    .executeTakeFirst();
  if (done.numUpdatedRows === 0n) throw notFound('job');
}

/** A copy of a job's documents under a new name; its runs stay with the original. */
export async function duplicateJob(trx: Trx, id: string): Promise<StoredJob> {
  const { doc } = await readJob(trx, id);
  return addJob(trx, { ...doc, name: cutText(`${doc.name} (copy)`, 80), verdict: NO_VERDICT });
}
