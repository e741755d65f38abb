import { sql, type Kysely, type Migration } from 'kysely';

/** Long work that a worker does, with how far it is and what came of it. What it is done on lies in the file store meanwhile. */
export const work: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`CREATE TABLE work (
      id uuid PRIMARY KEY,
      kind text NOT NULL,
      state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed', 'cancelled')),
      share real NOT NULL DEFAULT 0 CHECK (share BETWEEN 0 AND 1),
      result jsonb,
      problem jsonb,
      stop boolean NOT NULL DEFAULT false,
      asked_by text NOT NULL DEFAULT '',
      created_at timestamptz NOT NULL DEFAULT clock_timestamp(),
      ended_at timestamptz
    )`.execute(db);
    await sql`CREATE INDEX work_ended ON work (ended_at)`.execute(db);
  },
};
