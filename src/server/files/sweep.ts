import { sql } from 'kysely';
import type { Db } from '../db/client';

/** A file that nothing has pointed at for so long is swept, days: a form may be open, a draft wait in a browser, an undo be wanted. */
export const KEPT_UNPOINTED_days = 30;

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
  const old = sql`created_at < clock_timestamp() - make_interval(days => ${days}) AND NOT EXISTS (SELECT 1 FROM log WHERE log.file_hash = file.hash)`;
  const { rows: candidates } = await sql<{ hash: string }>`SELECT hash FROM file WHERE hash ~ '^[0-9a-f]{64}$' AND ${old}`.execute(db);
  const left = new Set(candidates.map((c) => c.hash));
  for (const { table, column } of left.size > 0 ? await placesOf(db) : []) {
    const { rows } = await sql<{ hash: string }>`
      SELECT DISTINCT found[1] AS hash FROM ${sql.table(table)}, regexp_matches(${sql.ref(column)}::text, '[0-9a-f]{64}', 'g') AS found`.execute(
      db,
    );
    for (const { hash } of rows) left.delete(hash);
  }
  if (left.size === 0) return 0;
  // One that was sent again or came to be a recording's in the meantime stays.
  const gone = await sql`DELETE FROM file WHERE hash = ANY(${[...left]}::text[]) AND ${old}`.execute(db);
  return Number(gone.numAffectedRows ?? 0);
}
