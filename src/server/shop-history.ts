import { sql } from 'kysely';
import type { StudyLeaves } from '@/core/job/findings';
import { shopHistoryOf, type ShopHistory } from '@/core/inference/shop-history';
import type { ShopSettings } from '@/core/documents/shop';
import type { Db, Trx } from './db/client';
import { isUuid } from './ids';
import { readShop } from './shop';

/** Studies older than this say nothing of how the shop works now, years. */
const COUNTS_FOR_years = 2;

/** The newest state of the tables that histories were worked out of, and those histories by job. A process may lose it. */
let kept: { stamp: string; readonly histories: Map<string, ShopHistory> } = { stamp: '', histories: new Map() };

/** Changes with every transaction that writes a row of them or takes one away: each version of a row carries its number. */
async function stampOf(db: Db): Promise<string> {
  const { rows } = await sql<{ stamp: string }>`
    SELECT concat_ws(' ', current_database(), current_date,
      (SELECT concat(count(*), '/', sum(xmin::text::bigint)) FROM job),
      (SELECT concat(count(*), '/', sum(xmin::text::bigint)) FROM run)) AS stamp`.execute(db);
  return rows[0]!.stamp;
}

/** The shop's own history, worked out anew only where a job or a run has changed since. See `readHistory`. */
export async function shopHistory(db: Db | Trx, exceptJob: string | null): Promise<ShopHistory> {
  const { rigChanged } = await readShop(db);
  // Within a transaction its own rows change without the stamp.
  if (db.isTransaction) return readHistory(db, rigChanged, exceptJob);
  const stamp = `${await stampOf(db)} ${rigChanged.dyno} ${rigChanged.strip}`;
  if (kept.stamp !== stamp) kept = { stamp, histories: new Map() };
  const { histories } = kept;
  const key = exceptJob ?? '';
  const known = histories.get(key);
  if (known) return known;
  const history = await readHistory(db, rigChanged, exceptJob);
  histories.set(key, history);
  return history;
}

/**
 * The shop's own history: what its jobs' studies left, without those before a change of the rig that somebody named, and without
 * `exceptJob`, whose own runs are what is judged. A study that stands in two jobs, one taken in from the other's file, counts once. Testing basis §4.10.
 */
async function readHistory(db: Db | Trx, rigChanged: ShopSettings['rigChanged'], exceptJob: string | null): Promise<ShopHistory> {
  // Told apart by a hash: a study's leaves are long, and comparing all of a shop's with one another takes longer than reading them.
  const { rows } = await sql<{ leaves: StudyLeaves; day: string }>`
    WITH study AS (
      SELECT id, s->'leaves' AS leaves, coalesce(
        (SELECT max(r.doc->>'takenOn') FROM run r WHERE r.job_id = job.id AND r.trashed_at IS NULL),
        to_char(job.saved_at, 'YYYY-MM-DD')) AS day
      FROM job, jsonb_array_elements(finding->'stops') AS s
      WHERE trashed_at IS NULL AND s->>'stop' = 'test' AND jsonb_typeof(s->'leaves') = 'object'
        AND job.saved_at > now() - make_interval(years => ${COUNTS_FOR_years}))
    SELECT (array_agg(leaves))[1] AS leaves, max(day) AS day FROM study
    GROUP BY jsonb_hash_extended(leaves, 1)
    HAVING bool_or(id = ${exceptJob !== null && isUuid(exceptJob) ? exceptJob : null}::uuid) IS NOT TRUE
    ORDER BY min(id::text)`.execute(db);
  const since = (changed: string | null, day: string): boolean => changed === null || day >= changed;
  return shopHistoryOf(
    rows.map(({ leaves, day }) => ({
      ...(leaves.dyno && since(rigChanged.dyno, day) && { dyno: leaves.dyno }),
      ...(leaves.stripTime && since(rigChanged.strip, day) && { stripTime: leaves.stripTime }),
      ...(leaves.stripSpeed && since(rigChanged.strip, day) && { stripSpeed: leaves.stripSpeed }),
    })),
  );
}
