import { sql, type Kysely, type Migration } from 'kysely';

/** What was done at the car, by whom and when: rows are only ever added. */
export const runSheet: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`CREATE TABLE sheet_event (
      seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      id uuid NOT NULL UNIQUE,
      job_id uuid NOT NULL REFERENCES job (id),
      event jsonb NOT NULL,
      written_at timestamptz NOT NULL DEFAULT clock_timestamp()
    )`.execute(db);
    await sql`CREATE INDEX sheet_event_job ON sheet_event (job_id, seq)`.execute(db);
    await sql`CREATE FUNCTION sheet_event_is_kept() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN RAISE EXCEPTION 'what stands on a run-sheet cannot be changed or taken away'; END $$`.execute(db);
    await sql`CREATE TRIGGER sheet_event_kept BEFORE UPDATE OR DELETE ON sheet_event FOR EACH ROW EXECUTE FUNCTION sheet_event_is_kept()`.execute(
      db,
    );
  },
};
