import { sql } from 'kysely';
import { demoDatabase, pageSays, testOf } from '../../test/findings';
import { connect, type Db } from './db/client';
import { currentFinding, jobFinding, listJobs, readJob, saveJob } from './jobs';
import { takeInPackage } from './package/read';
import { packageOf, packageStream } from './package/write';
import { shopHistory } from './shop-history';
import { setTrashed } from './trash';

let db: Db;
let url: string;
let drop: () => Promise<void>;
let idOf: (name: string) => string;
beforeAll(async () => {
  ({ db, url, drop, idOf } = await demoDatabase());
});
afterAll(() => drop());

it('the board says of every job of the demo what its page says', async () => {
  for (const name of ['Curlew roadster', 'Heron coupé', 'Larkspur estate']) {
    const id = idOf(name);
    expect(await currentFinding(db, id)).toEqual(await jobFinding(db, id));
    expect(testOf(await jobFinding(db, id)).best_pct).toBeCloseTo(await pageSays(db, id), 9);
  }
});

it('a study that comes in a second time, in a job from a file, counts once', async () => {
  const larkspur = idOf('Larkspur estate');
  const [all, without] = [await shopHistory(db, null), await shopHistory(db, larkspur)];
  const archive = await new Response(packageStream(db, await packageOf(db, larkspur))).blob();
  const copy = await takeInPackage(db, archive.stream());
  expect(copy.id).not.toBe(larkspur);
  expect(await shopHistory(db, null)).toEqual(all);
  // Nor do a job's own runs speak for themselves by way of its copy.
  expect(await shopHistory(db, larkspur)).toEqual(without);
});

it('a finding follows when another job’s studies leave the shop’s history', async () => {
  const curlew = idOf('Curlew roadster');
  const before = await jobFinding(db, curlew);
  const others = (await listJobs(db)).filter((j) => j.id !== curlew);
  await db.transaction().execute(async (trx) => {
    for (const { id } of others) await setTrashed(trx, 'job', id, true);
  });
  const now = await currentFinding(db, curlew);
  expect(now.history).not.toBe(before.history);
  expect(testOf(now).best_pct).toBeCloseTo(await pageSays(db, curlew), 9);
  expect(await jobFinding(db, curlew)).toEqual(now);
});

it('is worked out once for as long as no job and no run changes, and anew as soon as one does', async () => {
  const first = await shopHistory(db, null);
  expect(await shopHistory(db, null)).toBe(first);
  expect(await shopHistory(db, 'no job at all')).toBe(first);
  const curlew = idOf('Curlew roadster');
  expect(await shopHistory(db, curlew)).not.toBe(first);
  await db.updateTable('run').set({ trashed_at: new Date() }).where('job_id', '=', curlew).execute();
  const later = await shopHistory(db, null);
  expect(later).not.toBe(first);
  // What a transaction that is given up saw is nobody else's.
  await db
    .transaction()
    .execute(async (trx) => {
      await trx.updateTable('job').set({ trashed_at: new Date() }).execute();
      expect((await shopHistory(trx, null)).dyno).toBeFalsy();
      throw new Error('given up');
    })
    .catch(() => {});
  expect(await shopHistory(db, null)).toEqual(later);
});

it('a save that changes no study costs nobody a new history', async () => {
  const curlew = idOf('Curlew roadster');
  await db.updateTable('run').set({ trashed_at: null }).where('job_id', '=', curlew).execute();
  const before = await shopHistory(db, null);
  const job = await readJob(db, curlew);
  await db.transaction().execute((trx) => saveJob(trx, curlew, job.version, { ...job.doc, name: 'Curlew again' }));
  expect(await shopHistory(db, null)).toBe(before);
});

it('what a transaction wrote and gave up is in nobody’s history', async () => {
  const curlew = idOf('Curlew roadster');
  const before = await shopHistory(db, null);
  await db
    .transaction()
    .execute(async (t) => {
      // Twice under one number of a transaction: as it is, then without its study.
      await t.updateTable('job').set({ saved_at: new Date() }).where('id', '=', curlew).execute();
      expect((await shopHistory(t, null)).dyno!.studies).toBe(before.dyno!.studies);
      await sql`UPDATE job SET finding = replace(finding::text, '"leaves"', '"left"')::jsonb WHERE id = ${curlew}`.execute(t);
      expect((await shopHistory(t, null)).dyno?.studies ?? 0).toBe(before.dyno!.studies - 1);
      throw new Error('given up');
    })
    .catch((e: Error) => {
      if (e.message !== 'given up') throw e;
    });
  expect(await shopHistory(db, null)).toEqual(before);
});

it('a transaction does not wait for a reading that waits for its connection', async () => {
  // One connection for all: the page's last question comes after the save's first, and the save holds it.
  const narrow = connect(url, 1);
  try {
    await narrow.updateTable('job').set({ saved_at: new Date() }).where('id', '=', idOf('Curlew roadster')).execute();
    const page = shopHistory(narrow, null);
    const save = narrow.transaction().execute((trx) => shopHistory(trx, null));
    expect(await save).toEqual(await page);
  } finally {
    await narrow.destroy();
  }
});
