import { sql, type Kysely, type Migration } from 'kysely';

/** The shelf can be tidied, parts other than throttle bodies are flow-tested, and guesses are written down before readings. */
export const workshop: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const now = sql`clock_timestamp()`;
    const uuid = sql`gen_random_uuid()`;
    await db.schema.alterTable('unit').addColumn('retired_at', 'timestamptz').execute();
    await db.schema
      .createTable('tested_part')
      .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(uuid))
      .addColumn('doc', 'jsonb', (c) => c.notNull())
      .addColumn('version', 'integer', (c) => c.notNull().defaultTo(1))
      .addColumn('retired_at', 'timestamptz')
      .addColumn('created_at', 'timestamptz', (c) => c.notNull().defaultTo(now))
      .execute();
    await db.schema
      .createTable('prediction')
      .addColumn('id', 'uuid', (c) => c.primaryKey().defaultTo(uuid))
      .addColumn('subject', 'text', (c) => c.notNull())
      .addColumn('subject_id', 'uuid')
      .addColumn('title', 'text', (c) => c.notNull())
      .addColumn('source', 'text', (c) => c.notNull())
      .addColumn('predicted', 'double precision', (c) => c.notNull())
      .addColumn('low', 'double precision', (c) => c.notNull())
      .addColumn('high', 'double precision', (c) => c.notNull())
      .addColumn('measured', 'double precision')
      .addColumn('made_at', 'timestamptz', (c) => c.notNull().defaultTo(now))
      .addColumn('measured_at', 'timestamptz')
      .execute();
    // A prediction is made before its reading and not touched after: the database holds to that too.
    await sql`CREATE FUNCTION prediction_is_kept() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        IF (NEW.predicted, NEW.low, NEW.high, NEW.source, NEW.made_at) IS DISTINCT FROM (OLD.predicted, OLD.low, OLD.high, OLD.source, OLD.made_at)
        THEN RAISE EXCEPTION 'a prediction cannot be changed once it is made'; END IF;
        IF OLD.measured IS NOT NULL AND NEW.measured IS DISTINCT FROM OLD.measured
        THEN RAISE EXCEPTION 'this prediction has its reading already'; END IF;
        RETURN NEW;
      END $$`.execute(db);
    await sql`CREATE TRIGGER prediction_kept BEFORE UPDATE ON prediction FOR EACH ROW EXECUTE FUNCTION prediction_is_kept()`.execute(db);
    await sql`CREATE INDEX prediction_subject ON prediction (subject, made_at DESC)`.execute(db);
  },
};
