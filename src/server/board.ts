import { sql, type SqlBool } from 'kysely';
import { z } from 'zod';
import { ADVICE } from '@/core/documents/kinds';
import type { Db } from './db/client';
import type { BoardJob } from './jobs';

/** Where a job stands, as the board filters by it. */
export const BOARD_STATES = ['needs a look', 'not tested', 'tested', 'decided', 'archived'] as const;
export type BoardState = (typeof BOARD_STATES)[number];

const BOARD_SORTS = ['saved', 'number', 'name'] as const;
/** Jobs on one page of the board. */
const BOARD_PAGE = 25;

const optional = <T extends z.ZodType>(kind: T) => kind.optional().catch(undefined);

/** What the board shows, as its address says it; what is no filter is left out. */
export const boardQuery = z.object({
  q: optional(z.string().trim().max(80)),
  tag: optional(z.string().max(30)),
  state: optional(z.enum(BOARD_STATES)),
  verdict: optional(z.enum(ADVICE)),
  who: optional(z.string().max(60)),
  /** Touched on or after this day. */
  since: optional(z.iso.date()),
  sort: optional(z.enum(BOARD_SORTS)),
  up: optional(z.literal('1')),
  page: optional(z.coerce.number().int().min(1).max(100_000)),
});
export type BoardQuery = z.infer<typeof boardQuery>;

export interface BoardPage {
  readonly jobs: readonly BoardJob[];
  /** Jobs that meet the filters; and all on the board, whatever the filters. */
  readonly total: number;
  readonly all: number;
  readonly archived: number;
  readonly tags: readonly string[];
  readonly people: readonly string[];
}

const stopSays = (stop: string, what: string) =>
  sql<SqlBool>`EXISTS (SELECT 1 FROM jsonb_array_elements(finding->'stops') s WHERE s->>'stop' = ${stop} AND ${sql.raw(what)})`;
const TESTED = `(s->>'kind' IS NOT NULL OR jsonb_typeof(s->'strip') = 'object')`;
const DECIDED = `jsonb_typeof(s->'word') = 'string'`;

/** Every word as it stands, wherever it stands in a text. */
const pattern = (word: string): string => `%${word.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;

function conditions(query: BoardQuery, since: Date | null) {
  const { q, tag, state, verdict, who } = query;
  const found = [
    sql<SqlBool>`trashed_at IS NULL`,
    state === 'archived' ? sql<SqlBool>`archived_at IS NOT NULL` : sql<SqlBool>`archived_at IS NULL`,
  ];
  for (const word of (q ?? '').toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8))
    found.push(sql<SqlBool>`(search LIKE ${pattern(word)} OR number::text = ${word})`);
  if (tag) found.push(sql<SqlBool>`tags ? ${tag}`);
  if (state === 'needs a look')
    found.push(sql<SqlBool>`EXISTS (SELECT 1 FROM jsonb_array_elements(finding->'stops') s WHERE s->>'state' = 'needs a look')`);
  if (state === 'tested') found.push(stopSays('test', TESTED));
  if (state === 'not tested') found.push(sql<SqlBool>`NOT ${stopSays('test', TESTED)}`);
  if (state === 'decided') found.push(stopSays('verdict', DECIDED));
  if (verdict)
    found.push(
      sql<SqlBool>`EXISTS (SELECT 1 FROM jsonb_array_elements(finding->'stops') s WHERE s->>'stop' = 'verdict' AND s->>'word' = ${verdict})`,
    );
  if (who) found.push(sql<SqlBool>`saved_by = ${who}`);
  if (since) found.push(sql<SqlBool>`saved_at >= ${since}`);
  return sql.join(found, sql` AND `);
}

const ORDER: Readonly<Record<(typeof BOARD_SORTS)[number], string>> = { saved: 'saved_at', number: 'number', name: `lower(name)` };

/**
 * One page of the board, filtered and sorted by the database. Reads no whole documents. `since` is when the day asked for
 * begins where the reader is: the database's own day may begin hours apart from it.
 */
export async function boardPage(db: Db, query: BoardQuery, since: Date | null): Promise<BoardPage> {
  const where = conditions(query, since);
  const { sort = 'saved', up } = query;
  const order = sql.raw(`${ORDER[sort]} ${up ? 'ASC' : 'DESC'}, number DESC`);
  const [rows, counts, tags, people] = await Promise.all([
    sql<{
      id: string;
      number: number;
      version: number;
      saved_at: Date;
      saved_by: string;
      archived: boolean;
      finding: BoardJob['findings'];
      name: string | null;
      owner: string | null;
      plate: string | null;
      tags: string[] | null;
    }>`SELECT id, number, version, saved_at, saved_by, archived_at IS NOT NULL AS archived, finding, name, owner, plate, tags
      FROM job WHERE ${where} ORDER BY ${order} LIMIT ${BOARD_PAGE} OFFSET ${((query.page ?? 1) - 1) * BOARD_PAGE}`.execute(db),
    sql<{ total: string; all: string; archived: string }>`SELECT count(*) FILTER (WHERE ${where}) AS total,
        count(*) FILTER (WHERE archived_at IS NULL) AS all, count(*) FILTER (WHERE archived_at IS NOT NULL) AS archived
      FROM job WHERE trashed_at IS NULL`.execute(db),
    sql<{
      tag: string;
    }>`SELECT DISTINCT jsonb_array_elements_text(tags) AS tag FROM job WHERE trashed_at IS NULL ORDER BY 1 LIMIT 200`.execute(db),
    sql<{ who: string }>`SELECT DISTINCT saved_by AS who FROM job WHERE trashed_at IS NULL AND saved_by <> '' ORDER BY 1 LIMIT 100`.execute(
      db,
    ),
  ]);
  const [count] = counts.rows;
  return {
    jobs: rows.rows.map((r) => ({
      id: r.id,
      number: r.number,
      name: r.name ?? '',
      version: r.version,
      savedAt: r.saved_at.toISOString(),
      savedBy: r.saved_by,
      archived: r.archived,
      owner: r.owner ?? '',
      plate: r.plate ?? '',
      tags: r.tags ?? [],
      findings: r.finding,
    })),
    total: Number(count!.total),
    all: Number(count!.all),
    archived: Number(count!.archived),
    tags: tags.rows.map((t) => t.tag),
    people: people.rows.map((p) => p.who),
  };
}
