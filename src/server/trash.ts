import { sql } from 'kysely';
import type { Db, Trx } from './db/client';
import { notFound } from './errors';
import { isUuid } from './ids';

/** What can be thrown away and brought back. */
export const TRASHABLE = ['job', 'run', 'strip_visit', 'strip_pass', 'unit', 'tested_part'] as const;
export type Trashable = (typeof TRASHABLE)[number];

export interface Trashed {
  readonly kind: Trashable;
  readonly id: string;
  readonly name: string;
  /** The job it belongs to, where it belongs to one. */
  readonly job: string | null;
  readonly trashedAt: string;
}

/** Everything in the trash, the last thrown away first. A job's own things lie in the trash with it and are not listed apart. */
export async function listTrash(db: Db): Promise<Trashed[]> {
  const { rows } = await sql<{ kind: Trashable; id: string; name: string; job: string | null; at: Date }>`
    SELECT 'job' AS kind, id, doc->>'name' AS name, NULL AS job, trashed_at AS at FROM job WHERE trashed_at IS NOT NULL
    UNION ALL SELECT 'run', r.id, r.doc->>'name', j.doc->>'name', r.trashed_at FROM run r JOIN job j ON j.id = r.job_id
      WHERE r.trashed_at IS NOT NULL AND j.trashed_at IS NULL
    UNION ALL SELECT 'strip_visit', v.id, concat(v.doc->>'track', ', ', v.doc->>'takenOn'), j.doc->>'name', v.trashed_at
      FROM strip_visit v JOIN job j ON j.id = v.job_id WHERE v.trashed_at IS NOT NULL AND j.trashed_at IS NULL
    UNION ALL SELECT 'strip_pass', p.id, concat('pass at ', coalesce(p.doc->>'at', 'no time'), ', ', v.doc->>'track'), j.doc->>'name', p.trashed_at
      FROM strip_pass p JOIN strip_visit v ON v.id = p.visit_id JOIN job j ON j.id = v.job_id
      WHERE p.trashed_at IS NOT NULL AND v.trashed_at IS NULL AND j.trashed_at IS NULL
    UNION ALL SELECT 'unit', id, doc->>'name', NULL, retired_at FROM unit WHERE retired_at IS NOT NULL
    UNION ALL SELECT 'tested_part', id, doc->>'name', NULL, retired_at FROM tested_part WHERE retired_at IS NOT NULL
    ORDER BY at DESC LIMIT 1000`.execute(db);
  return rows.map((r) => ({ kind: r.kind, id: r.id, name: r.name, job: r.job, trashedAt: r.at.toISOString() }));
}

/** Throws something away, or brings it back. Resolves with the job it belongs to; null for what stands by itself. */
export async function setTrashed(trx: Trx, kind: Trashable, id: string, trashed: boolean): Promise<string | null> {
  if (!isUuid(id)) throw notFound('document');
  const column = kind === 'unit' || kind === 'tested_part' ? 'retired_at' : 'trashed_at';
  const job =
    kind === 'run' || kind === 'strip_visit'
      ? sql<string | null>`job_id`
      : kind === 'strip_pass'
        ? sql<string | null>`(SELECT job_id FROM strip_visit WHERE strip_visit.id = strip_pass.visit_id)`
        : kind === 'job'
          ? sql<string | null>`id`
          : sql<string | null>`NULL::uuid`;
  const { rows } = await sql<{ job: string | null }>`
    UPDATE ${sql.table(kind)} SET ${sql.ref(column)} = ${trashed ? new Date() : null} WHERE id = ${id} RETURNING ${job} AS job`.execute(
    trx,
  );
  if (rows.length === 0) throw notFound('document');
  return rows[0]!.job;
}
