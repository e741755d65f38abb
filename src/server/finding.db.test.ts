import { sql } from 'kysely';
import { demoDatabase, pageSays, testOf } from '../../test/findings';
import type { Db } from './db/client';
import { jobFinding, readJob, refreshFinding, saveJob } from './jobs';
import { setTrashed } from './trash';

let db: Db;
let drop: () => Promise<void>;
let idOf: (name: string) => string;
beforeAll(async () => {
  ({ db, drop, idOf } = await demoDatabase());
});
afterAll(() => drop());

it('what two people change in a job’s runs at once is in its finding both', async () => {
  const heron = idOf('Heron coupé');
  const { rows } = await sql<{ id: string }>`
    SELECT id FROM run WHERE job_id = ${heron} AND trashed_at IS NULL AND doc->>'kind' = 'dyno' ORDER BY created_at, id LIMIT 2`.execute(
    db,
  );
  // Each has changed a run before either works out what that makes of the job.
  let changed = 0;
  let go!: () => void;
  const both = new Promise<void>((resolve) => (go = resolve));
  const change = (id: string) =>
    db.transaction().execute(async (trx) => {
      await setTrashed(trx, 'run', id, true);
      if ((changed += 1) === 2) go();
      await both;
      await refreshFinding(trx, heron);
    });
  await Promise.all(rows.map((r) => change(r.id)));
  const kept = testOf(await jobFinding(db, heron));
  await db.transaction().execute((trx) => refreshFinding(trx, heron));
  expect(testOf(await jobFinding(db, heron))).toEqual(kept);
});

it('a document saved while a run changes keeps a finding of both', async () => {
  const larkspur = idOf('Larkspur estate');
  const { rows } = await sql<{ id: string }>`
    SELECT id FROM run WHERE job_id = ${larkspur} AND trashed_at IS NULL AND doc->>'kind' = 'dyno' ORDER BY created_at, id LIMIT 1`.execute(
    db,
  );
  const job = await readJob(db, larkspur);
  let go!: () => void;
  const saved = new Promise<void>((resolve) => (go = resolve));
  const run = db.transaction().execute(async (trx) => {
    await setTrashed(trx, 'run', rows[0]!.id, true);
    await saved;
    await refreshFinding(trx, larkspur);
  });
  await db.transaction().execute(async (trx) => {
    await saveJob(trx, larkspur, job.version, {
      ...job.doc,
      test: { ...job.doc.test, plan: { ...job.doc.test.plan, decidesOn: 'bottom' } },
    });
    go();
    // The other one is on its way.
    await new Promise((done) => setTimeout(done, 200));
  });
  await run;
  const kept = await jobFinding(db, larkspur);
  await db.transaction().execute((trx) => refreshFinding(trx, larkspur));
  expect(await jobFinding(db, larkspur)).toEqual(kept);
  expect(testOf(kept).best_pct).toBeCloseTo(await pageSays(db, larkspur), 9);
});
