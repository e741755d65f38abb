import { sql } from 'kysely';
import type { StudyLeaves } from '@/core/verdict/findings';
import { shopHistoryOf, type ShopHistory } from '@/core/inference/shop-history';
import type { ShopSettings } from '@/core/documents/shop';
import type { Db, Trx } from './db/client';
import { readShop } from './shop';

/** Studies older than this say nothing of how the shop works now, years. */
const COUNTS_FOR_years = 2;

/** A study that counts, from one job or from copies of it. */
interface Counted {
  /** Of what it left: two of one hash are one study. */
  readonly hash: string;
  /** The day of its last run; of a job without a dated one the day it was saved. */
  readonly day: string;
  /** A job that it stands in, and whether the job that is left out is one of them. */
  readonly job: string;
  readonly own: boolean;
}

const MOST_HISTORIES = 100;
const MOST_LEAVES = 5000;
/** How often what is told apart and what is read may miss one another, while others save, before it is a fault. */
const MOST_TRIES = 5;
/** What studies left, by its hash: true for good, whatever becomes of the job. A process may lose it. */
const known = new Map<string, StudyLeaves>();
/** Histories by the studies they were added up from: most jobs of a shop lean on the same. */
const histories = new Map<string, ShopHistory>();

/** The studies that count now, by their hashes alone, in the order they are added up in. */
async function counted(db: Db | Trx, exceptJob: string | null): Promise<readonly Counted[]> {
  const { rows } = await sql<Counted>`
    SELECT study_hash::text AS hash, max(day) AS day, min(id::text) AS job, coalesce(bool_or(id::text = ${exceptJob}), false) AS own
    FROM (
      SELECT id, study_hash, coalesce(
        (SELECT max(r.doc->>'takenOn') FROM run r WHERE r.job_id = job.id AND r.trashed_at IS NULL),
        to_char(saved_at, 'YYYY-MM-DD')) AS day
      FROM job
      WHERE study_hash IS NOT NULL AND trashed_at IS NULL AND saved_at > now() - make_interval(years => ${COUNTS_FOR_years})
    ) AS studies
    GROUP BY study_hash ORDER BY min(id::text)`.execute(db);
  return rows;
}

/** Reads what studies left that is not known yet, from jobs they stand in, each under the hash it has when it is read. */
async function learn(db: Db | Trx, studies: readonly Counted[]): Promise<void> {
  const missing = studies.filter((s) => !known.has(s.hash)).map((s) => s.job);
  if (missing.length === 0) return;
  const { rows } = await sql<{ hash: string; leaves: StudyLeaves }>`
    SELECT study_hash::text AS hash, s->'leaves' AS leaves FROM job, jsonb_array_elements(finding->'stops') AS s
    WHERE id = ANY(${missing}) AND study_hash IS NOT NULL AND s->>'stop' = 'test'`.execute(db);
  for (const { hash, leaves } of rows) known.set(hash, leaves);
}

/** Those that no longer count are let go of in time, the first learnt first; those that count are learnt again at once. */
function forget(counting: number): void {
  if (known.size > MOST_LEAVES + 2 * counting) for (const hash of [...known.keys()].slice(0, MOST_LEAVES)) known.delete(hash);
}

/** One reading of what is not known for all who ask; a transaction waits for nobody who may be waiting for its connection. */
let learning: Promise<void> | null = null;
async function studiesNow(db: Db | Trx, exceptJob: string | null): Promise<readonly (Counted & { readonly leaves: StudyLeaves })[]> {
  for (let tries = 0; tries < MOST_TRIES; tries += 1) {
    const studies = await counted(db, exceptJob);
    const all = () => studies.flatMap((s) => (known.has(s.hash) ? [{ ...s, leaves: known.get(s.hash)! }] : []));
    if (all().length < studies.length) {
      if (db.isTransaction) await learn(db, studies);
      else {
        await learning?.catch(() => {});
        learning ??= learn(db, studies).finally(() => (learning = null));
        await learning;
      }
    }
    const found = all();
    if (found.length === studies.length) {
      forget(studies.length);
      return found;
    }
    // A study was saved anew between the two questions, or somebody else's reading was waited for: asked again.
  }
  throw new Error('the studies of the shop changed again and again while they were read');
}

/**
 * The shop's own history: what its jobs' studies left, without those before a change of the rig that somebody named, and without
 * `exceptJob`, whose own runs are what is judged. A study that stands in two jobs, one taken in from the other's file, counts once.
 * Worked out anew only where a study has changed since. Testing basis §4.10.
 */
export async function shopHistory(db: Db | Trx, exceptJob: string | null): Promise<ShopHistory> {
  const [{ rigChanged }, studies] = await Promise.all([readShop(db), studiesNow(db, exceptJob)]);
  const others = studies.filter((s) => !s.own);
  const key = JSON.stringify([rigChanged.dyno, rigChanged.strip, others.map((s) => [s.hash, s.day])]);
  const before = histories.get(key);
  if (before) return before;
  const history = addedUp(others, rigChanged);
  if (histories.size >= MOST_HISTORIES) histories.delete(histories.keys().next().value!);
  histories.set(key, history);
  return history;
}

function addedUp(
  studies: readonly { readonly leaves: StudyLeaves; readonly day: string }[],
  rigChanged: ShopSettings['rigChanged'],
): ShopHistory {
  const since = (changed: string | null, day: string): boolean => changed === null || day >= changed;
  return shopHistoryOf(
    studies.map(({ leaves, day }) => ({
      ...(leaves.dyno && since(rigChanged.dyno, day) && { dyno: leaves.dyno }),
      ...(leaves.stripTime && since(rigChanged.strip, day) && { stripTime: leaves.stripTime }),
      ...(leaves.stripSpeed && since(rigChanged.strip, day) && { stripSpeed: leaves.stripSpeed }),
    })),
  );
}
