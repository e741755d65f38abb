import { sql, type Kysely, type Migration } from 'kysely';

/** What a job's study left to the shop's history, in its finding. */
const LEAVES = `jsonb_path_query_first(finding, '$.stops[*] ? (@.stop == "test").leaves ? (@.type() == "object")')`;

/**
 * What lists of jobs show stands beside the document: unfolding the documents of a whole shop to read its tags took most of a
 * board's time. And a hash of what each study left stands beside the finding, so that the shop's history is told to be the same
 * without reading it.
 */
export const headings: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`ALTER TABLE job
      ADD COLUMN name text GENERATED ALWAYS AS (doc->>'name') STORED,
      ADD COLUMN owner text GENERATED ALWAYS AS (doc#>>'{about,owner}') STORED,
      ADD COLUMN plate text GENERATED ALWAYS AS (doc#>>'{about,plate}') STORED,
      ADD COLUMN tags jsonb GENERATED ALWAYS AS (doc->'tags') STORED,
      ADD COLUMN study_hash bigint GENERATED ALWAYS AS (jsonb_hash_extended(${sql.raw(LEAVES)}, 1)) STORED`.execute(db);
  },
};
