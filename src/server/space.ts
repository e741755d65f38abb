import { sql } from 'kysely';
import { KEPT_UNPOINTED_days } from './files/sweep';
import type { Db } from './db/client';

/** What the record takes, and what is in it. */
export interface Space {
  /** The whole database on its disk. */
  readonly database_bytes: number;
  /** Files as they came in, before they are packed. */
  readonly files: { readonly count: number; readonly bytes: number };
  /** Rows of recordings and runs. */
  readonly recordings: { readonly count: number; readonly rows: number };
  readonly jobs: number;
  /** Of those, in the trash. */
  readonly trashed: number;
  /** A file that nothing points at is swept after so many days. */
  readonly sweptAfter_days: number;
}

/** What this shop's record takes of its database. */
export async function readSpace(db: Db): Promise<Space> {
  const { rows } = await sql<Record<'bytes' | 'files' | 'file_bytes' | 'logs' | 'rows' | 'jobs' | 'trashed', string>>`
    SELECT pg_database_size(current_database()) AS bytes,
      (SELECT count(*) FROM file WHERE hash ~ '^[0-9a-f]{64}$') AS files,
      (SELECT coalesce(sum(size), 0) FROM file WHERE hash ~ '^[0-9a-f]{64}$') AS file_bytes,
      (SELECT count(*) FROM log WHERE file_hash ~ '^[0-9a-f]{64}$') AS logs,
      (SELECT coalesce(sum(rows), 0) FROM log WHERE file_hash ~ '^[0-9a-f]{64}$') AS rows,
      (SELECT count(*) FROM job) AS jobs,
      (SELECT count(*) FROM job WHERE trashed_at IS NOT NULL) AS trashed`.execute(db);
  const r = rows[0]!;
  return {
    database_bytes: Number(r.bytes),
    files: { count: Number(r.files), bytes: Number(r.file_bytes) },
    recordings: { count: Number(r.logs), rows: Number(r.rows) },
    jobs: Number(r.jobs),
    trashed: Number(r.trashed),
    sweptAfter_days: KEPT_UNPOINTED_days,
  };
}
