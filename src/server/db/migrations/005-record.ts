import { sql, type Kysely, type Migration } from 'kysely';

/** Documents whose every version is kept. */
const KEPT = ['job', 'unit', 'tested_part', 'run', 'strip_visit', 'strip_pass'] as const;

/**
 * The strip's visits and passes; what every document was before and who changed it; the trash; words to search by; links
 * for customers; sessions of a shop with a passphrase.
 */
export const record: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await sql`CREATE TABLE strip_visit (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      job_id uuid NOT NULL REFERENCES job (id) ON DELETE CASCADE,
      doc jsonb NOT NULL,
      version integer NOT NULL DEFAULT 1,
      created_at timestamptz NOT NULL DEFAULT clock_timestamp()
    )`.execute(db);
    await sql`CREATE INDEX strip_visit_job ON strip_visit (job_id, created_at)`.execute(db);
    await sql`CREATE TABLE strip_pass (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      visit_id uuid NOT NULL REFERENCES strip_visit (id) ON DELETE CASCADE,
      doc jsonb NOT NULL,
      version integer NOT NULL DEFAULT 1,
      created_at timestamptz NOT NULL DEFAULT clock_timestamp()
    )`.execute(db);
    await sql`CREATE INDEX strip_pass_visit ON strip_pass (visit_id, created_at)`.execute(db);

    await sql`CREATE TABLE document_version (
      kind text NOT NULL,
      doc_id uuid NOT NULL,
      version integer NOT NULL,
      doc jsonb NOT NULL,
      saved_by text NOT NULL,
      saved_at timestamptz NOT NULL,
      kept_at timestamptz NOT NULL DEFAULT clock_timestamp(),
      PRIMARY KEY (kind, doc_id, version)
    )`.execute(db);
    // Typing saves every moment: of one person's two minutes the state they began from is kept, not every keystroke.
    // A caller that must not lose the state before (a restore) says so for its transaction.
    await sql`CREATE FUNCTION keep_version() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        IF NEW.doc IS DISTINCT FROM OLD.doc AND (
          coalesce(current_setting('vanner.keep', true), '') = 'always' OR NOT EXISTS (
            SELECT 1 FROM document_version v WHERE v.kind = TG_TABLE_NAME AND v.doc_id = OLD.id AND v.saved_by = OLD.saved_by
              AND OLD.saved_by = NEW.saved_by AND v.kept_at > clock_timestamp() - interval '2 minutes'))
        THEN
          INSERT INTO document_version (kind, doc_id, version, doc, saved_by, saved_at)
          VALUES (TG_TABLE_NAME, OLD.id, OLD.version, OLD.doc, OLD.saved_by, OLD.saved_at) ON CONFLICT DO NOTHING;
        END IF;
        RETURN NEW;
      END $$`.execute(db);
    for (const table of KEPT) {
      const t = sql.table(table);
      await sql`ALTER TABLE ${t} ADD COLUMN saved_by text NOT NULL DEFAULT ''`.execute(db);
      if (table !== 'job') await sql`ALTER TABLE ${t} ADD COLUMN saved_at timestamptz NOT NULL DEFAULT clock_timestamp()`.execute(db);
      if (table !== 'unit' && table !== 'tested_part') await sql`ALTER TABLE ${t} ADD COLUMN trashed_at timestamptz`.execute(db);
      await sql`CREATE TRIGGER keep BEFORE UPDATE ON ${t} FOR EACH ROW EXECUTE FUNCTION keep_version()`.execute(db);
    }

    const searchable = async (table: string, words: string): Promise<void> => {
      await sql`ALTER TABLE ${sql.table(table)} ADD COLUMN search text GENERATED ALWAYS AS (lower(${sql.raw(words)})) STORED`.execute(db);
    };
    const text = (...paths: string[]): string => paths.map((p) => `coalesce(doc#>>'{${p}}', '')`).join(` || ' ' || `);
    await searchable('job', text('name', 'car,goal', 'tags', 'verdict,note', 'verdict,override,reason'));
    await searchable('unit', text('name', 'note'));
    await searchable('tested_part', text('name', 'note'));
    await searchable('run', text('name', 'tune', 'fuel', 'visit', 'otherChanges', 'leftOut', 'takenOn'));
    await searchable('strip_visit', text('track', 'takenOn', 'note'));
    await searchable('strip_pass', text('note', 'between', 'leftOut'));
    await sql`ALTER TABLE sheet_event ADD COLUMN search text
      GENERATED ALWAYS AS (lower(coalesce(event->>'text', '') || ' ' || coalesce(event->>'note', ''))) STORED`.execute(db);

    await sql`CREATE TABLE share_link (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      job_id uuid NOT NULL REFERENCES job (id) ON DELETE CASCADE,
      token_hash text NOT NULL UNIQUE,
      pack text NOT NULL,
      made_by text NOT NULL DEFAULT '',
      created_at timestamptz NOT NULL DEFAULT clock_timestamp(),
      expires_at timestamptz NOT NULL,
      revoked_at timestamptz,
      opened integer NOT NULL DEFAULT 0,
      opened_at timestamptz
    )`.execute(db);
    await sql`CREATE INDEX share_link_job ON share_link (job_id, created_at DESC)`.execute(db);
    await sql`CREATE TABLE sign_in_attempt (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      who text NOT NULL,
      at timestamptz NOT NULL DEFAULT clock_timestamp()
    )`.execute(db);
    await sql`CREATE INDEX sign_in_attempt_recent ON sign_in_attempt (at)`.execute(db);
  },
};
