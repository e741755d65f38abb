import { sql, type Kysely, type Migration } from 'kysely';

/**
 * A file is one recording, stored a channel at a time in blocks of rows; a run is a stretch of its rows, so that a file with
 * several pulls gives several runs. Beside it: remembered headers, keys for the API, practice at the dyno.
 */
export const logs: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`CREATE TABLE log (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      job_id uuid NOT NULL REFERENCES job (id) ON DELETE CASCADE,
      file_hash text NOT NULL REFERENCES file (hash),
      file_name text NOT NULL,
      columns jsonb NOT NULL,
      report jsonb NOT NULL,
      rows integer NOT NULL,
      created_at timestamptz NOT NULL DEFAULT clock_timestamp(),
      CONSTRAINT log_once_a_job UNIQUE (job_id, file_hash)
    )`.execute(db);
    await sql`CREATE TABLE log_block (
      log_id uuid NOT NULL REFERENCES log (id) ON DELETE CASCADE,
      col integer NOT NULL,
      block integer NOT NULL,
      data bytea NOT NULL,
      PRIMARY KEY (log_id, col, block)
    )`.execute(db);
    // Doubles do not compress; stored plain, a part of a block can be read without the rest.
    await sql`ALTER TABLE log_block ALTER COLUMN data SET STORAGE EXTERNAL`.execute(db);
    // Originals too: pressing a long log together took longer than reading it.
    await sql`ALTER TABLE file_chunk ALTER COLUMN bytes SET STORAGE EXTERNAL`.execute(db);
    await sql`INSERT INTO log (id, job_id, file_hash, file_name, columns, report, rows, created_at)
      SELECT r.id, r.job_id, r.file_hash, r.file_name, r.columns, r.report,
        coalesce((SELECT octet_length(data) / 8 FROM run_channel WHERE run_id = r.id LIMIT 1), 0), r.created_at FROM run r`.execute(db);
    await sql`INSERT INTO log_block (log_id, col, block, data)
      SELECT run_id, col, b, substring(data FROM b * 524288 + 1 FOR 524288)
      FROM run_channel, generate_series(0, greatest(octet_length(data) - 1, 0) / 524288) AS b`.execute(db);
    await sql`ALTER TABLE run ADD COLUMN log_id uuid REFERENCES log (id) ON DELETE CASCADE,
      ADD COLUMN first_row integer NOT NULL DEFAULT 0, ADD COLUMN last_row integer NOT NULL DEFAULT 0`.execute(db);
    await sql`UPDATE run SET log_id = id, last_row = (SELECT greatest(rows - 1, 0) FROM log WHERE log.id = run.id)`.execute(db);
    await sql`ALTER TABLE run ALTER COLUMN log_id SET NOT NULL, DROP CONSTRAINT run_once_a_job,
      DROP COLUMN file_hash, DROP COLUMN file_name, DROP COLUMN columns, DROP COLUMN report`.execute(db);
    await sql`CREATE INDEX run_job ON run (job_id, created_at)`.execute(db);
    await sql`CREATE INDEX run_log ON run (log_id)`.execute(db);
    await sql`DROP TABLE run_channel`.execute(db);
    await sql`CREATE TABLE header_map (
      signature text PRIMARY KEY,
      channels jsonb NOT NULL,
      saved_at timestamptz NOT NULL DEFAULT clock_timestamp()
    )`.execute(db);
    await sql`CREATE TABLE api_key (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      name text NOT NULL,
      hash text NOT NULL UNIQUE,
      created_at timestamptz NOT NULL DEFAULT clock_timestamp(),
      used_at timestamptz,
      revoked_at timestamptz
    )`.execute(db);
    await sql`CREATE TABLE practice (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      job_id uuid NOT NULL REFERENCES job (id) ON DELETE CASCADE,
      seed integer NOT NULL,
      setup jsonb NOT NULL,
      truth jsonb NOT NULL,
      decision jsonb,
      created_at timestamptz NOT NULL DEFAULT clock_timestamp()
    )`.execute(db);
    await sql`CREATE TABLE practice_run (
      practice_id uuid NOT NULL REFERENCES practice (id) ON DELETE CASCADE,
      seq integer NOT NULL,
      run jsonb NOT NULL,
      PRIMARY KEY (practice_id, seq)
    )`.execute(db);
    await sql`CREATE INDEX practice_job ON practice (job_id, created_at DESC)`.execute(db);
  },
};
