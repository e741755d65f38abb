import { sql, type Kysely, type Migration } from 'kysely';

/** Keys that open less than everything, and answers kept for writes that are sent twice. */
export const api: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    // No reference to the job: the demo is reset by emptying the tables of jobs, and the keys stay.
    await sql`ALTER TABLE api_key ADD COLUMN scope text NOT NULL DEFAULT 'write' CHECK (scope IN ('read', 'write')),
      ADD COLUMN job_id uuid`.execute(db);
    await sql`CREATE TABLE api_answer (
      key text PRIMARY KEY,
      fingerprint text NOT NULL,
      status integer,
      headers jsonb,
      body text,
      created_at timestamptz NOT NULL DEFAULT clock_timestamp()
    )`.execute(db);
    await sql`CREATE INDEX api_answer_age ON api_answer (created_at)`.execute(db);
  },
};
