import { sql } from 'kysely';
import type { Db } from '../db/client';
import { INCOMING } from './store';

/** A file that nothing has pointed at for so long is swept, days: a form may be open, a draft wait in a browser, an undo be wanted. */
export const KEPT_UNPOINTED_days = 30;
/** Looked at in one go: what is left over is swept at the next start. */
const TOGETHER = 200;

/** Every column of every table in which the name of a file may stand: documents of whatever kind, and texts. */
async function placesOf(db: Db): Promise<{ table: string; column: string }[]> {
  const { rows } = await sql<{ table: string; column: string }>`
    SELECT c.table_name AS table, c.column_name AS column
    FROM information_schema.columns c JOIN information_schema.tables t USING (table_schema, table_name)
    WHERE c.table_schema = 'public' AND t.table_type = 'BASE TABLE' AND c.data_type IN ('text', 'jsonb', 'json', 'character varying')
      AND c.table_name NOT IN ('file', 'file_chunk') AND c.table_name NOT LIKE 'kysely%'`.execute(db);
  return rows;
}

/**
 * Takes away files that nothing points at and that have lain there for long: what was refused, given up, or whose place has another
 * now. Former versions and what is in the trash count as pointing. Resolves with how many went.
 */
export async function sweepUnpointed(db: Db, days = KEPT_UNPOINTED_days): Promise<number> {
  const { rows: candidates } = await sql<{ hash: string }>`
    SELECT hash FROM file
    WHERE created_at < clock_timestamp() - make_interval(days => ${days}) AND hash NOT LIKE ${`${INCOMING}%`} AND hash NOT LIKE 'work-%'
      AND NOT EXISTS (SELECT 1 FROM log WHERE log.file_hash = file.hash)
    ORDER BY created_at LIMIT ${TOGETHER}`.execute(db);
  let left = candidates.map((c) => c.hash);
  for (const { table, column } of left.length > 0 ? await placesOf(db) : []) {
    if (left.length === 0) break;
    const { rows } = await sql<{ hash: string }>`
      SELECT h AS hash FROM unnest(${left}::text[]) AS h
      WHERE EXISTS (SELECT 1 FROM ${sql.table(table)} WHERE strpos(${sql.ref(column)}::text, h) > 0)`.execute(db);
    const pointed = new Set(rows.map((r) => r.hash));
    left = left.filter((h) => !pointed.has(h));
  }
  if (left.length === 0) return 0;
  // One that came to be pointed at by a recording in the meantime stays.
  const gone = await sql`
    DELETE FROM file WHERE hash = ANY(${left}::text[]) AND NOT EXISTS (SELECT 1 FROM log WHERE log.file_hash = file.hash)`.execute(db);
  return Number(gone.numAffectedRows ?? 0);
}
