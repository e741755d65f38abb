import { sql, type Kysely, type Migration } from 'kysely';

/**
 * Samples are stored as the whole numbers they mostly are, in two or four bytes over a power of ten; blocks of before stay
 * doubles. Originals and samples are pressed by a method quick enough not to be noticed: less is written twice.
 */
export const packedSamples: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`ALTER TABLE log_block ADD COLUMN width smallint NOT NULL DEFAULT 8 CHECK (width IN (2, 4, 8)),
      ADD COLUMN decimals smallint NOT NULL DEFAULT 0 CHECK (decimals BETWEEN 0 AND 6),
      ALTER COLUMN data SET STORAGE EXTENDED, ALTER COLUMN data SET COMPRESSION lz4`.execute(db);
    await sql`ALTER TABLE file_chunk ALTER COLUMN bytes SET STORAGE EXTENDED, ALTER COLUMN bytes SET COMPRESSION lz4`.execute(db);
  },
};
