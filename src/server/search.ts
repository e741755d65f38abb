import { sql } from 'kysely';
import type { Db } from './db/client';

export const FOUND_KINDS = ['job', 'unit', 'part', 'run', 'visit', 'pass', 'note'] as const;
export type FoundKind = (typeof FOUND_KINDS)[number];

export interface Found {
  readonly kind: FoundKind;
  readonly id: string;
  readonly title: string;
  /** Where it is: the job's name and id, where it belongs to one. */
  readonly job: { readonly id: string; readonly name: string } | null;
  readonly snippet: string;
}

/** Words longer than this, and more of them, are no search. */
const MOST_WORDS = 8;
const MOST_FOUND = 40;

/** Every word as it stands, wherever it stands in a text. */
const pattern = (word: string): string => `%${word.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;

/** Jobs, units, runs, days and passes at the strip, and notes that hold every word; jobs first. Nothing out of the trash. */
export async function search(db: Db, text: string): Promise<Found[]> {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);
  if (words.length === 0) return [];
  const all = (column: string) =>
    sql.join(
      words.map((w) => sql`${sql.ref(column)} LIKE ${pattern(w)}`),
      sql` AND `,
    );
  const { rows } = await sql<{
    kind: FoundKind;
    id: string;
    title: string;
    job_id: string | null;
    job_name: string | null;
    snippet: string;
  }>`
    (SELECT 'job' AS kind, j.id, j.doc->>'name' AS title, j.id AS job_id, j.doc->>'name' AS job_name, coalesce(j.doc->'car'->>'goal', '') AS snippet, j.saved_at AS at, 0 AS rank
      FROM job j WHERE j.trashed_at IS NULL AND (${all('j.search')} OR j.number::text = ${words[0]}) ORDER BY j.saved_at DESC LIMIT 20)
    UNION ALL (SELECT 'unit', u.id, u.doc->>'name', NULL, NULL, coalesce(u.doc->>'note', ''), u.saved_at, 1 FROM unit u WHERE u.retired_at IS NULL AND ${all('u.search')} LIMIT 15)
    UNION ALL (SELECT 'part', p.id, p.doc->>'name', NULL, NULL, coalesce(p.doc->>'note', ''), p.saved_at, 1 FROM tested_part p WHERE p.retired_at IS NULL AND ${all('p.search')} LIMIT 10)
    UNION ALL (SELECT 'run', r.id, r.doc->>'name', j.id, j.doc->>'name', concat_ws(', ', r.doc->>'takenOn', nullif(r.doc->>'tune', ''), nullif(r.doc->>'otherChanges', '')), r.created_at, 2
      FROM run r JOIN job j ON j.id = r.job_id WHERE r.trashed_at IS NULL AND j.trashed_at IS NULL AND ${all('r.search')} ORDER BY r.created_at DESC LIMIT 15)
    UNION ALL (SELECT 'visit', v.id, concat(v.doc->>'track', ', ', v.doc->>'takenOn'), j.id, j.doc->>'name', coalesce(v.doc->>'note', ''), v.created_at, 2
      FROM strip_visit v JOIN job j ON j.id = v.job_id WHERE v.trashed_at IS NULL AND j.trashed_at IS NULL AND ${all('v.search')} LIMIT 10)
    UNION ALL (SELECT 'pass', p.id, concat('pass at ', p.doc->>'at'), j.id, j.doc->>'name', concat_ws(', ', nullif(p.doc->>'between', ''), nullif(p.doc->>'note', '')), p.created_at, 3
      FROM strip_pass p JOIN strip_visit v ON v.id = p.visit_id JOIN job j ON j.id = v.job_id
      WHERE p.trashed_at IS NULL AND v.trashed_at IS NULL AND j.trashed_at IS NULL AND ${all('p.search')} LIMIT 10)
    UNION ALL (SELECT 'note', e.id, concat(e.event->>'who', ' at the car'), j.id, j.doc->>'name', coalesce(e.event->>'text', ''), e.written_at, 3
      FROM sheet_event e JOIN job j ON j.id = e.job_id WHERE j.trashed_at IS NULL AND e.event->>'type' = 'note' AND ${all('e.search')} ORDER BY e.seq DESC LIMIT 10)
    ORDER BY rank, at DESC LIMIT ${MOST_FOUND}`.execute(db);
  return rows.map((r) => ({
    kind: r.kind,
    id: r.id,
    title: r.title,
    job: r.job_id === null ? null : { id: r.job_id, name: r.job_name ?? '' },
    snippet: r.snippet.slice(0, 160),
  }));
}
