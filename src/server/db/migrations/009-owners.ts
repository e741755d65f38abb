import { sql, type Kysely, type Migration } from 'kysely';

const WORDS = ['name', 'car,goal', 'tags', 'verdict,note', 'verdict,override,reason', 'about,owner', 'about,contact', 'about,plate'];

/** A job is found by its owner and its plate too; and by whom it was saved, and by its tags, on the board. */
export const owners: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const text = WORDS.map((p) => `coalesce(doc#>>'{${p}}', '')`).join(` || ' ' || `);
    await sql`ALTER TABLE job DROP COLUMN search`.execute(db);
    await sql`ALTER TABLE job ADD COLUMN search text GENERATED ALWAYS AS (lower(${sql.raw(text)})) STORED`.execute(db);
    await sql`CREATE INDEX job_saved ON job (saved_at DESC) WHERE trashed_at IS NULL`.execute(db);
  },
};
