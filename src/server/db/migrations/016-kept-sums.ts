import { sql, type Kysely, type Migration } from 'kysely';

/**
 * What took more than a moment to work out, by the hash of all that went in and of the release that did it: any process finds it again,
 * also after a new start. Not logged and not in a backup: what is lost of it is worked out again.
 */
export const keptSums: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`CREATE UNLOGGED TABLE kept_sum (
      key text PRIMARY KEY,
      result bytea NOT NULL,
      kept_at timestamptz NOT NULL DEFAULT now()
    )`.execute(db);
    await sql`CREATE INDEX kept_sum_kept_at ON kept_sum (kept_at)`.execute(db);
  },
};
