import { sql } from 'kysely';
import type { StudyLeaves } from '@/core/verdict/findings';
import { shopHistoryOf, type ShopHistory } from '@/core/inference/shop-history';
import type { ShopSettings } from '@/core/documents/shop';
import type { Db, Trx } from './db/client';
import { readShop } from './shop';

/** Studies older than this say nothing of how the shop works now, years. */
const COUNTS_FOR_years = 2;

/** What one job's study left, told from others by a hash of it: leaves are long. */
interface Study {
  readonly jobId: string;
  readonly leaves: StudyLeaves;
  readonly hash: string;
  /** The day of its last run; of a job without a dated one the day it was saved. */
  readonly day: string;
}
/** A job's row and its runs as they were read, and its study then; null: it has none. */
interface Seen {
  readonly version: string;
  readonly study: Study | null;
}
/** Studies that are the same, from two copies of a job, count once. */
interface Group {
  readonly jobIds: ReadonlySet<string>;
  readonly leaves: StudyLeaves;
  readonly hash: string;
  readonly day: string;
}

const MOST_HISTORIES = 100;
/** What was read of each job last, and the groups of the tables' newest state. A process may lose both. */
let seen = new Map<string, Seen>();
let newest: { stamp: string; groups: Promise<readonly Group[]>; read: readonly Group[] | null } | null = null;
/** Histories by the studies they were added up from: most jobs of a shop lean on the same. */
const histories = new Map<string, ShopHistory>();

/** Changes with every transaction that writes a row of them or takes one away: each version of a row carries its number. */
async function stampOf(db: Db | Trx): Promise<string> {
  const { rows } = await sql<{ stamp: string }>`
    SELECT concat_ws(' ', current_database(), current_date,
      (SELECT concat(count(*), '/', sum(xmin::text::bigint)) FROM job),
      (SELECT concat(count(*), '/', sum(xmin::text::bigint)) FROM run)) AS stamp`.execute(db);
  return rows[0]!.stamp;
}

/** The jobs that count, each with the version of its row and its runs, in the order their studies are added up in. */
async function versions(db: Db | Trx): Promise<{ id: string; version: string }[]> {
  const { rows } = await sql<{ id: string; version: string }>`
    SELECT id, concat_ws('/', current_database(), job.xmin, runs.version) AS version
    FROM job LEFT JOIN
      (SELECT job_id, concat(count(*), '/', sum(xmin::text::bigint)) AS version FROM run GROUP BY job_id) AS runs ON runs.job_id = id
    WHERE trashed_at IS NULL AND job.saved_at > now() - make_interval(years => ${COUNTS_FOR_years})
    ORDER BY id::text`.execute(db);
  return rows;
}

async function studies(db: Db | Trx, ids: readonly string[]): Promise<Map<string, Study>> {
  const { rows } = await sql<Study>`
    SELECT id AS "jobId", s->'leaves' AS leaves, jsonb_hash_extended(s->'leaves', 1)::text AS hash, coalesce(
      (SELECT max(r.doc->>'takenOn') FROM run r WHERE r.job_id = job.id AND r.trashed_at IS NULL),
      to_char(job.saved_at, 'YYYY-MM-DD')) AS day
    FROM job, jsonb_array_elements(finding->'stops') AS s
    WHERE id = ANY(${ids}) AND s->>'stop' = 'test' AND jsonb_typeof(s->'leaves') = 'object'`.execute(db);
  return new Map(rows.map((r) => [r.jobId, r]));
}

/** The shop's studies, read anew only of jobs that changed since they were read last. */
async function readGroups(db: Db | Trx): Promise<readonly Group[]> {
  const jobs = await versions(db);
  const before = seen;
  const changed = jobs.filter((j) => before.get(j.id)?.version !== j.version).map((j) => j.id);
  const read = changed.length > 0 ? await studies(db, changed) : new Map<string, Study>();
  const anew = new Set(changed);
  const now = new Map(jobs.map(({ id, version }) => [id, anew.has(id) ? { version, study: read.get(id) ?? null } : before.get(id)!]));
  // What a transaction wrote may never have been; and it may write a row twice under one number.
  if (!db.isTransaction) seen = now;
  const groups = new Map<string, { jobIds: Set<string>; leaves: StudyLeaves; hash: string; day: string }>();
  for (const { study } of now.values()) {
    if (!study) continue;
    const group = groups.get(study.hash);
    if (!group) groups.set(study.hash, { ...study, jobIds: new Set([study.jobId]) });
    else {
      group.jobIds.add(study.jobId);
      if (study.day > group.day) group.day = study.day;
    }
  }
  return [...groups.values()];
}

/** `readGroups`, once for all who ask while no job and no run changes. A transaction's own changes are in its stamp, and nobody else's. */
async function groupsNow(db: Db | Trx): Promise<readonly Group[]> {
  const stamp = await stampOf(db);
  // A transaction waits for nobody who may be waiting for its connection.
  if (db.isTransaction) return newest?.stamp === stamp && newest.read ? newest.read : readGroups(db);
  if (newest?.stamp !== stamp) {
    const reading: NonNullable<typeof newest> = { stamp, groups: readGroups(db), read: null };
    newest = reading;
    reading.groups.then(
      (groups) => (reading.read = groups),
      () => {
        if (newest === reading) newest = null;
      },
    );
  }
  return newest.groups;
}

/**
 * The shop's own history: what its jobs' studies left, without those before a change of the rig that somebody named, and without
 * `exceptJob`, whose own runs are what is judged. A study that stands in two jobs, one taken in from the other's file, counts once.
 * Worked out anew only where a study has changed since. Testing basis §4.10.
 */
export async function shopHistory(db: Db | Trx, exceptJob: string | null): Promise<ShopHistory> {
  const [{ rigChanged }, groups] = await Promise.all([readShop(db), groupsNow(db)]);
  const counted = exceptJob === null ? groups : groups.filter((g) => !g.jobIds.has(exceptJob));
  const key = JSON.stringify([rigChanged.dyno, rigChanged.strip, counted.map((g) => [g.hash, g.day])]);
  const known = histories.get(key);
  if (known) return known;
  const history = addedUp(counted, rigChanged);
  if (histories.size >= MOST_HISTORIES) histories.delete(histories.keys().next().value!);
  histories.set(key, history);
  return history;
}

function addedUp(groups: readonly Group[], rigChanged: ShopSettings['rigChanged']): ShopHistory {
  const since = (changed: string | null, day: string): boolean => changed === null || day >= changed;
  return shopHistoryOf(
    groups.map(({ leaves, day }) => ({
      ...(leaves.dyno && since(rigChanged.dyno, day) && { dyno: leaves.dyno }),
      ...(leaves.stripTime && since(rigChanged.strip, day) && { stripTime: leaves.stripTime }),
      ...(leaves.stripSpeed && since(rigChanged.strip, day) && { stripSpeed: leaves.stripSpeed }),
    })),
  );
}
