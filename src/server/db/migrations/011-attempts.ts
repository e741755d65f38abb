import { sql, type Kysely, type Migration } from 'kysely';

/** Attempts that were right are kept too: an address somebody came in from does not wait for what strangers try from others. */
export const attempts: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`ALTER TABLE sign_in_attempt ADD COLUMN passed boolean NOT NULL DEFAULT false`.execute(db);
    await sql`CREATE INDEX sign_in_attempt_who ON sign_in_attempt (who, at)`.execute(db);
  },
};
