import { sql } from 'kysely';
import type { StudyLeaves } from '@/core/job/findings';
import { shopHistoryOf, type ShopHistory } from '@/core/inference/shop-history';
import type { Db, Trx } from './db/client';
import { isUuid } from './ids';
import { readShop } from './shop';

/** Studies older than this say nothing of how the shop works now, years. */
const COUNTS_FOR_years = 2;

/**
 * The shop's own history: what its jobs' studies left, without those before a change of the rig that somebody named, and without
 * `exceptJob`, whose own runs are what is judged. A study that stands in two jobs, one taken in from the other's file, counts once. Testing basis §4.10.
 */
export async function shopHistory(db: Db | Trx, exceptJob: string | null): Promise<ShopHistory> {
  const { rigChanged } = await readShop(db);
  const { rows } = await sql<{ leaves: StudyLeaves; day: string }>`
    WITH study AS (
      SELECT id, s->'leaves' AS leaves, to_char(coalesce(
        (SELECT max(r.doc->>'takenOn')::date FROM run r WHERE r.job_id = job.id AND r.trashed_at IS NULL),
        job.saved_at::date), 'YYYY-MM-DD') AS day
      FROM job, jsonb_array_elements(finding->'stops') AS s
      WHERE trashed_at IS NULL AND s->>'stop' = 'test' AND jsonb_typeof(s->'leaves') = 'object'
        AND job.saved_at > now() - make_interval(years => ${COUNTS_FOR_years}))
    SELECT leaves, max(day) AS day FROM study
    GROUP BY leaves
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
