/** Makes the database if it is missing, migrates it, and loads the demo scenario on the first start (not with --empty); --reset empties it first. */
import { sql } from 'kysely';
import { Client } from 'pg';
import { connect } from '@/server/db/client';
import { migrate } from '@/server/db/migrate';
import { sweepIncoming } from '@/server/files/store';
import { refreshOldFindings } from '@/server/jobs';
import { loadDemo } from '@/server/demo/load';
import { queue } from '@/server/queue/work';

async function ensureDatabase(url: string): Promise<void> {
  const name = new URL(url).pathname.slice(1);
  const server = new URL(url);
  server.pathname = '/postgres';
  const client = new Client({ connectionString: server.href });
  try {
    await client.connect();
    const { rowCount } = await client.query('SELECT 1 FROM pg_database WHERE datname = $1', [name]);
    if (rowCount === 0) await client.query(`CREATE DATABASE "${name.replaceAll('"', '""')}" ENCODING 'UTF8' TEMPLATE template0`);
  } finally {
    await client.end().catch(() => {});
  }
}

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set');
// A database of one's own may not let us look at its neighbours; then it must exist already, and connecting will tell.
await ensureDatabase(url).catch(() => {});
const db = connect(url);
const ran = await migrate(db);
await sweepIncoming(db);
await queue(db);
if (process.argv.includes('--reset')) {
  await sql`TRUNCATE kept_sum, work, meta, share_link, sign_in_attempt, document_version, strip_pass, strip_visit, sheet_event, job, unit, tested_part, prediction, practice_run, practice, header_map, run, log_block, log, file, file_chunk RESTART IDENTITY`.execute(
    db,
  );
}
const note = await db.transaction().execute(async (trx) => {
  const first = await trx
    .insertInto('meta')
    .values({ key: 'started', value: JSON.stringify({ demo: !process.argv.includes('--empty') }) })
    .onConflict((c) => c.doNothing())
    .executeTakeFirst();
  if (first.numInsertedOrUpdatedRows !== 1n) return 'as left';
  return process.argv.includes('--empty') ? 'empty' : `demo loaded: ${await loadDemo(trx)}`;
});
/** Newer sums say other things on the board: a start takes this long at most for it, ms. */
const OLD_FINDINGS_MS = 10_000;
await refreshOldFindings(db, OLD_FINDINGS_MS);
console.log(ran.length > 0 ? `${ran.length} migration(s) run; ${note}` : note);
await db.destroy();
