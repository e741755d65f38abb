import { sql, type Kysely, type Migration } from 'kysely';

/** A workbook or an archive holds several tables: each is a recording of its own, known by its name in the file. */
export const partsOfFiles: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`ALTER TABLE log ADD COLUMN part text NOT NULL DEFAULT ''`.execute(db);
    await sql`ALTER TABLE log DROP CONSTRAINT log_once_a_job, ADD CONSTRAINT log_part_once_a_job UNIQUE (job_id, file_hash, part)`.execute(
      db,
    );
  },
};
