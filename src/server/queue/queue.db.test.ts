import { sql } from 'kysely';
import { Client, Pool } from 'pg';
import { freshDatabase } from '../../../test/database';
import { loadDemo } from '../demo/load';
import { listJobs } from '../jobs';
import { log } from '../watch';
import { packageOf, packageStream } from '../package/write';
import { tryWork } from './tasks';
import { forgiving, freeTheDead, startWorker } from './worker';
import { askWork, seeWork, stopWork } from './work';

let fresh: Awaited<ReturnType<typeof freshDatabase>>;
let archive: Buffer;
const db = () => fresh.db;
beforeAll(async () => {
  log().level = 'silent';
  fresh = await freshDatabase();
  await db()
    .transaction()
    .execute((trx) => loadDemo(trx));
  const { id } = (await listJobs(db())).find((j) => j.name === 'Pipit hatch')!;
  archive = Buffer.from(await new Response(packageStream(db(), await packageOf(db(), id))).arrayBuffer());
});
afterAll(() => fresh.drop());

const jobs = async (): Promise<number> => (await listJobs(db())).length;
const ask = (bytes: Uint8Array = archive) =>
  askWork(
    db(),
    'archive',
    (async function* () {
      yield* [await Promise.resolve(bytes)];
    })(),
  );
const inputs = async () => (await db().selectFrom('file').select('hash').where('hash', 'like', 'work-%').execute()).length;
const queued = async () => (await sql<{ n: number }>`SELECT count(*)::int AS n FROM graphile_worker.jobs`.execute(db())).rows[0]!.n;
async function ended(id: string) {
  for (;;) {
    const seen = await seeWork(db(), id);
    if (seen.state !== 'waiting' && seen.state !== 'running') return seen;
    await new Promise((done) => setTimeout(done, 30));
  }
}

it('an archive becomes a job in a worker, and what it came in as is gone', async () => {
  const before = await jobs();
  const id = await ask();
  expect(await seeWork(db(), id)).toMatchObject({ state: 'waiting', share: 0 });
  const worker = await startWorker(fresh.url);
  expect(await ended(id)).toMatchObject({ state: 'done', share: 1, result: { name: 'Pipit hatch' }, problem: null });
  // A second one is heard of at once by the worker that waits.
  expect(await ended(await ask())).toMatchObject({ state: 'done' });
  await worker.stop();
  expect([await jobs(), await inputs(), await queued()]).toEqual([before + 2, 0, 0]);
});

it('what is wrong with the archive is told in its own words, and not tried again', async () => {
  const before = await jobs();
  const id = await ask(Buffer.from('rpm,power'));
  const worker = await startWorker(fresh.url);
  expect(await ended(id)).toMatchObject({
    state: 'failed',
    problem: { status: 422, message: expect.stringMatching(/zip archive|job\.json/) as string },
  });
  await worker.stop();
  expect([await jobs(), await inputs(), await queued()]).toEqual([before, 0, 0]);
});

it('work that is stopped leaves nothing: at once while it waits, at its next step while it runs; what is done stays', async () => {
  const before = await jobs();
  const waits = await ask();
  expect(await stopWork(db(), waits)).toMatchObject({ state: 'cancelled' });
  await tryWork(db(), 'archive', waits, false);
  const runs = await ask();
  await db().updateTable('work').set({ state: 'running' }).where('id', '=', runs).execute();
  expect(await stopWork(db(), runs)).toMatchObject({ state: 'running' });
  await tryWork(db(), 'archive', runs, false);
  expect(await seeWork(db(), runs)).toMatchObject({ state: 'cancelled' });
  expect([await jobs(), await inputs()]).toEqual([before, 0]);
  const done = await ask();
  await tryWork(db(), 'archive', done, false);
  expect(await stopWork(db(), done)).toMatchObject({ state: 'done' });
});

it('what may pass is tried again, and told at the last try; tried twice at once it is done once', async () => {
  const before = await jobs();
  const id = await ask();
  await sql`ALTER TABLE sheet_event RENAME TO away`.execute(db());
  await expect(tryWork(db(), 'archive', id, false)).rejects.toThrow('sheet_event');
  expect(await seeWork(db(), id)).toMatchObject({ state: 'running' });
  const other = await ask();
  await tryWork(db(), 'archive', other, true);
  expect(await seeWork(db(), other)).toMatchObject({ state: 'failed', problem: { status: 500 } });
  await sql`ALTER TABLE away RENAME TO sheet_event`.execute(db());
  await Promise.all([tryWork(db(), 'archive', id, false), tryWork(db(), 'archive', id, false)]);
  expect(await seeWork(db(), id)).toMatchObject({ state: 'done' });
  expect([await jobs(), await inputs()]).toEqual([before + 1, 0]);
});

it('what a worker that died held is taken up again, and nothing of one that lives', async () => {
  const id = await ask();
  const hold = (worker: string) =>
    sql`UPDATE graphile_worker._private_jobs SET locked_by = ${worker}, locked_at = now(), attempts = 1 WHERE key = ${id}`.execute(db());
  const lives = new Client({ connectionString: fresh.url });
  await lives.connect();
  await lives.query("SELECT pg_advisory_lock(hashtextextended('worker lives', 0))");
  await hold('lives');
  expect(await freeTheDead(db())).toEqual([]);
  await lives.end();
  for (let freed: readonly string[] = []; freed.length === 0; freed = await freeTheDead(db()))
    await new Promise((done) => setTimeout(done, 20));
  const worker = await startWorker(fresh.url);
  expect(await ended(id)).toMatchObject({ state: 'done' });
  await worker.stop();
});

it('a worker whose connections break holds its work again, and others leave it alone', async () => {
  const worker = await startWorker(fresh.url);
  const broke = worker.broken;
  const admin = new Client({ connectionString: fresh.url });
  await admin.connect();
  await admin.query(
    'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
  );
  await admin.end();
  // It says so, for whoever keeps it to begin another: one that goes on without its lock would have its work taken from under it.
  await broke;
  await worker.stop();
  const next = await startWorker(fresh.url);
  expect(await ended(await ask())).toMatchObject({ state: 'done' });
  await next.stop();
});

it('a connection that the queue gives back twice is given back once', async () => {
  const pool = forgiving(new Pool({ connectionString: fresh.url, max: 1 }));
  const give = await new Promise<() => void>((resolve) => pool.connect((_error, _client, release) => resolve(release)));
  give();
  const next = await pool.connect();
  // Nor does the second time give away what somebody else holds by now.
  expect(give).not.toThrow();
  expect([pool.totalCount, pool.idleCount]).toEqual([1, 0]);
  next.release();
  expect(() => next.release()).toThrow();
  await pool.end();
});

it('what is sent again by its own id, because no answer came, is taken once', async () => {
  const id = crypto.randomUUID();
  const send = () =>
    askWork(
      db(),
      'archive',
      (async function* () {
        yield* [await Promise.resolve(archive)];
      })(),
      id,
    );
  expect(await Promise.all([send(), send(), send()])).toEqual([id, id, id]);
  expect([await queued(), await inputs()]).toEqual([1, 1]);
  await stopWork(db(), id);
  expect(await inputs()).toBe(0);
});

it('an unknown piece of work is not found', async () => {
  await expect(seeWork(db(), crypto.randomUUID())).rejects.toMatchObject({ status: 404 });
});
