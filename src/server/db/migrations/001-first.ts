import { sql, type Kysely, type Migration } from 'kysely';

/** Jobs, units, original files in pieces, and runs with a block a channel. */
export const first: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    // The wall clock, not the transaction's: rows made together keep the order they were made in.
    const now = sql`clock_timestamp()`;
    const uuid = sql`gen_random_uuid()`;
    await db.schema
      .createTable('meta')
      .addColumn('key', 'text', (c) => c.primaryKey())
      .addColumn('value', 'jsonb', (c) => c.notNull())
      .execute();
    await db.schema
      .createTable('unit')
      .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(uuid))
      .addColumn('doc', 'jsonb', (c) => c.notNull())
      .addColumn('version', 'integer', (c) => c.notNull().defaultTo(1))
      .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(now))
      .execute();
    await sql`CREATE TABLE job (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      number integer GENERATED ALWAYS AS IDENTITY (START WITH 1041) UNIQUE,
      doc jsonb NOT NULL,
      finding jsonb NOT NULL,
      version integer NOT NULL DEFAULT 1,
      created_at timestamptz NOT NULL DEFAULT clock_timestamp(),
      saved_at timestamptz NOT NULL DEFAULT now(),
      archived_at timestamptz
    )`.execute(db);
    await db.schema
      .createTable('file')
      .addColumn('hash', 'text', (c) => c.primaryKey())
      .addColumn('size', 'bigint', (c) => c.notNull())
      .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(now))
      .execute();
    await db.schema
      .createTable('file_chunk')
      .addColumn('hash', 'text', (c) => c.notNull().references('file.hash').onDelete('cascade'))
      .addColumn('seq', 'integer', (c) => c.notNull())
      .addColumn('bytes', 'bytea', (c) => c.notNull())
      .addPrimaryKeyConstraint('file_chunk_pk', ['hash', 'seq'])
      .execute();
    await db.schema
      .createTable('run')
      .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(uuid))
      .addColumn('job_id', 'uuid', (c) => c.notNull().references('job.id').onDelete('cascade'))
      .addColumn('file_hash', 'text', (c) => c.notNull().references('file.hash'))
      .addColumn('file_name', 'text', (c) => c.notNull())
      .addColumn('columns', 'jsonb', (c) => c.notNull())
      .addColumn('report', 'jsonb', (c) => c.notNull())
      .addColumn('doc', 'jsonb', (c) => c.notNull())
      .addColumn('version', 'integer', (c) => c.notNull().defaultTo(1))
      .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(now))
      .addUniqueConstraint('run_once_a_job', ['job_id', 'file_hash'])
      .execute();
    await db.schema
      .createTable('run_channel')
      .addColumn('run_id', 'uuid', (c) => c.notNull().references('run.id').onDelete('cascade'))
      .addColumn('col', 'integer', (c) => c.notNull())
      .addColumn('data', 'bytea', (c) => c.notNull())
      .addPrimaryKeyConstraint('run_channel_pk', ['run_id', 'col'])
      .execute();
    // Doubles do not compress; storing them plain lets one channel be read without work.
    await sql`ALTER TABLE run_channel ALTER COLUMN data SET STORAGE EXTERNAL`.execute(db);
    await sql`CREATE INDEX job_board ON job (archived_at, saved_at DESC)`.execute(db);
  },
};
