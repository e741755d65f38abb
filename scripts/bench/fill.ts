/** Fills a shop that has the demo in it: 500 jobs with 5,000 runs in all, seeded, so that every run of the bench sees the same ones. */
import { sql } from 'kysely';
import { jobDoc } from '@/core/documents/job';
import { ENGINE_PRESETS, presetJob } from '@/core/job/presets';
import { seededRandom } from '@/core/numbers/random';
import { connect } from '@/server/db/client';
import { refreshFinding } from '@/server/jobs';

const JOBS = 500;
const RUNS_EACH = 10;
const FIRST = [
  'Alder',
  'Birch',
  'Cinder',
  'Dapple',
  'Ember',
  'Fallow',
  'Gannet',
  'Hazel',
  'Ibis',
  'Juniper',
  'Kestrel',
  'Lapwing',
  'Merlin',
  'Nettle',
  'Osprey',
];
const SECOND = ['estate', 'coupé', 'hatch', 'roadster', 'saloon', 'van', 'pickup', 'tourer'];
const GOALS = [
  'pulls flat at the top',
  'tows a caravan',
  'hill climbs in summer',
  'wants a smoother tip-in',
  'boost falls off',
  'sprints twice a year',
];

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set');
const db = connect(url, 2);
const random = seededRandom(500);
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
const presets = Object.keys(ENGINE_PRESETS);

const template = await db
  .selectFrom('job')
  .select(['id', 'finding'])
  .where(sql<boolean>`doc->>'name' = 'Larkspur estate'`)
  .executeTakeFirstOrThrow();
const finding = JSON.stringify(template.finding);
for (let i = 0; i < JOBS; i += 1) {
  const doc = presetJob(`${pick(FIRST)} ${pick(SECOND)} ${i}`, pick(presets));
  const full = jobDoc.parse({
    ...doc,
    car: { ...doc.car, goal: pick(GOALS) },
    tags: random() < 0.3 ? [pick(['towing', 'race', 'winter'])] : [],
  });
  await db
    .insertInto('job')
    .values({ doc: JSON.stringify(full), finding, saved_at: new Date(Date.UTC(2025, 0, 1) + i * 3_600_000) })
    .execute();
}
await sql`CREATE TEMP TABLE copies AS
  SELECT gen_random_uuid() AS id, t.id AS of, j.id AS job_id FROM job j,
    (SELECT l.id FROM log l JOIN run r ON r.log_id = l.id WHERE r.doc->>'kind' = 'dyno' ORDER BY l.created_at, l.id LIMIT ${RUNS_EACH}) AS t
  WHERE j.doc->>'name' ~ ' [0-9]+$'`.execute(db);
await sql`INSERT INTO log (id, job_id, file_hash, file_name, columns, report, rows)
  SELECT c.id, c.job_id, l.file_hash, l.file_name, l.columns, l.report, l.rows FROM copies c JOIN log l ON l.id = c.of`.execute(db);
await sql`INSERT INTO log_block (log_id, col, block, data, width, decimals) SELECT c.id, b.col, b.block, b.data, b.width, b.decimals FROM copies c JOIN log_block b ON b.log_id = c.of`.execute(
  db,
);
await sql`INSERT INTO run (job_id, log_id, first_row, last_row, doc)
  SELECT c.job_id, c.id, r.first_row, r.last_row, r.doc FROM copies c JOIN run r ON r.log_id = c.of`.execute(db);
await sql`ANALYZE`.execute(db);
// What the board says of each was worked out for another: twice, for the shop's history, which each leans on, is of all of them.
const ids = (await db.selectFrom('job').select('id').orderBy('id').execute()).map((r) => r.id);
for (let round = 0; round < 2; round += 1) for (const id of ids) await db.transaction().execute((trx) => refreshFinding(trx, id));
await sql`VACUUM ANALYZE`.execute(db);
const { rows } = await sql<{
  jobs: string;
  runs: string;
}>`SELECT (SELECT count(*) FROM job) AS jobs, (SELECT count(*) FROM run) AS runs`.execute(db);
console.log(JSON.stringify(rows[0]));
await db.destroy();
