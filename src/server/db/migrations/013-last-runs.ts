import { sql, type Kysely, type Migration } from 'kysely';

/** The day of a job's last run is looked up with every page of a job: from the index, not by unfolding every run's document. */
export const lastRuns: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`CREATE INDEX run_last ON run (job_id, (doc->>'takenOn')) WHERE trashed_at IS NULL`.execute(db);
  },
};
