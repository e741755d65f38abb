import { freshDatabase } from '../../test/database';
import { loadDemo } from './demo/load';
import { listJobs } from './jobs';
import { readSpace } from './space';
import { setTrashed } from './trash';

let fresh: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
  fresh = await freshDatabase();
});
afterAll(() => fresh.drop());

it('counts what is in the record, not what is still coming in', async () => {
  const { db } = fresh;
  expect(await readSpace(db)).toMatchObject({ files: { count: 0, bytes: 0 }, recordings: { count: 0, rows: 0 }, jobs: 0, trashed: 0 });
  await db.transaction().execute((trx) => loadDemo(trx));
  await db.insertInto('file').values({ hash: 'incoming-x', size: 5e9 }).execute();
  const jobs = await listJobs(db);
  await db.transaction().execute((trx) => setTrashed(trx, 'job', jobs[0]!.id, true));
  const files = await db.selectFrom('file').select('size').where('hash', 'not like', 'incoming-%').execute();
  const rows = await db.selectFrom('log').select('rows').execute();
  const space = await readSpace(db);
  expect(space.files).toEqual({ count: files.length, bytes: files.reduce((s, f) => s + Number(f.size), 0) });
  expect(space.recordings).toEqual({ count: rows.length, rows: rows.reduce((s, r) => s + r.rows, 0) });
  expect([space.jobs, space.trashed]).toEqual([jobs.length, 1]);
  expect(space.database_bytes).toBeGreaterThan(1e6);
});
