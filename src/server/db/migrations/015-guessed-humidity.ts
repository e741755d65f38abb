import { sql, type Kysely, type Migration } from 'kysely';

/**
 * A release before this one took a humidity that nobody had given for none at all, which no air has. In runs that came so, and in
 * readings of a strip's air, the usual one stands now, marked as a guess. The documents keep their versions: nobody changed them, and no
 * older version is kept of them.
 */
export const guessedHumidity: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    for (const table of ['run', 'strip_visit']) await sql`ALTER TABLE ${sql.table(table)} DISABLE TRIGGER keep`.execute(db);
    await sql`UPDATE run SET doc = jsonb_set(jsonb_set(doc, '{weather,rh}', '0.5'), '{weatherGuessed}', '["rh"]')
      WHERE doc #> '{weather,rh}' = '0' AND NOT doc ? 'weatherGuessed'`.execute(db);
    await sql`UPDATE strip_visit SET doc = jsonb_set(doc, '{weather}', (
        SELECT jsonb_agg(CASE WHEN reading -> 'rh' = '0' AND reading ->> 'from' = 'file'
          THEN reading || '{"rh": 0.5, "rhGuessed": true}' ELSE reading END ORDER BY nth)
        FROM jsonb_array_elements(doc -> 'weather') WITH ORDINALITY AS r(reading, nth)))
      WHERE doc @? '$.weather[*] ? (@.rh == 0 && @.from == "file")'`.execute(db);
    for (const table of ['run', 'strip_visit']) await sql`ALTER TABLE ${sql.table(table)} ENABLE TRIGGER keep`.execute(db);
  },
};
