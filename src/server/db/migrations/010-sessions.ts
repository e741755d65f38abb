import { sql, type Kysely, type Migration } from 'kysely';

/** Sessions that were signed out before they ran out: they open nothing any more, whoever has a copy. */
export const sessions: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`CREATE TABLE session_end (
      id text PRIMARY KEY,
      at timestamptz NOT NULL DEFAULT clock_timestamp()
    )`.execute(db);
    await sql`CREATE INDEX session_end_age ON session_end (at)`.execute(db);
  },
};
