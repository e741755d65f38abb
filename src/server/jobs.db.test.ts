import { presetJob } from '@/core/job/presets';
import type { Db } from './db/client';
import { ServerProblem } from './errors';
import { addJob, duplicateJob, jobFinding, listJobs, readJob, saveJob, setArchived } from './jobs';
import { addUnit, listUnits } from './units';
import { freshDatabase } from '../../test/database';
import { migrate } from './db/migrate';
import { DEMO_UNITS } from '@/server/demo/larkspur';

let db: Db;
let drop: () => Promise<void>;
beforeAll(async () => ({ db, drop } = await freshDatabase()));
afterAll(() => drop());

const doc = presetJob('Test car', 'straight six, 2.9 L');
const within = <T>(work: Parameters<ReturnType<Db['transaction']>['execute']>[0]): Promise<T> =>
  db.transaction().execute(work) as Promise<T>;
const problem = async (work: Promise<unknown>): Promise<ServerProblem> => {
  const error: unknown = await work.then(
    () => null,
    (e: unknown) => e,
  );
  if (!(error instanceof ServerProblem)) throw new Error(`expected a problem, got ${String(error)}`);
  return error;
};

it('migrating twice changes nothing', async () => {
  expect(await migrate(db)).toEqual([]);
});

it('keeps a job as it was given, numbers it, and finds out what it says', async () => {
  const job = await within<Awaited<ReturnType<typeof addJob>>>((trx) => addJob(trx, doc));
  expect(await readJob(db, job.id)).toMatchObject({ doc, version: 1, archived: false });
  expect(job.number).toBeGreaterThan(1000);
  const findings = await jobFinding(db, job.id);
  expect(findings.stops.find((s) => s.stop === 'air')).toMatchObject({ givesOut_rpm: expect.any(Number) });
});

it('saves over the version it was read at and refuses an older one, with the newer in hand', async () => {
  const job = await within<Awaited<ReturnType<typeof addJob>>>((trx) => addJob(trx, doc));
  const mine = { ...doc, name: 'Mine' };
  const { job: saved } = await within<Awaited<ReturnType<typeof saveJob>>>((trx) => saveJob(trx, job.id, 1, mine));
  expect(saved).toMatchObject({ version: 2, doc: { name: 'Mine' } });
  const refused = await problem(within((trx) => saveJob(trx, job.id, 1, { ...doc, name: 'Theirs' })));
  expect(refused).toMatchObject({ status: 409, code: 'stale', data: { current: { version: 2, doc: { name: 'Mine' } } } });
  expect((await readJob(db, job.id)).doc.name).toBe('Mine');
});

it('of two saves at once exactly one lands', async () => {
  const job = await within<Awaited<ReturnType<typeof addJob>>>((trx) => addJob(trx, doc));
  const results = await Promise.allSettled(['a', 'b', 'c'].map((name) => within((trx) => saveJob(trx, job.id, 1, { ...doc, name }))));
  expect(results.filter((r) => r.status === 'fulfilled')).toHaveLength(1);
  expect((await readJob(db, job.id)).version).toBe(2);
});

it('a save that fails half-way leaves the old state', async () => {
  const job = await within<Awaited<ReturnType<typeof addJob>>>((trx) => addJob(trx, doc));
  await expect(
    within(async (trx) => {
      await saveJob(trx, job.id, 1, { ...doc, name: 'Half' });
      throw new Error('the power went');
    }),
  ).rejects.toThrow('the power went');
  expect(await readJob(db, job.id)).toMatchObject({ version: 1, doc: { name: 'Test car' } });
});

it('does not store what is not a valid job', async () => {
  const bad = { ...doc, car: { ...doc.car, engine: { ...doc.car.engine, redline_rpm: 100 } } };
  await expect(within((trx) => addJob(trx, bad))).rejects.toThrow();
});

it('duplicates, archives and brings back', async () => {
  const job = await within<Awaited<ReturnType<typeof addJob>>>((trx) => addJob(trx, { ...doc, verdict: { ...doc.verdict, note: 'kept' } }));
  const copy = await within<Awaited<ReturnType<typeof duplicateJob>>>((trx) => duplicateJob(trx, job.id));
  expect(copy.doc).toMatchObject({ name: 'Test car (copy)', verdict: { ...doc.verdict, note: '' }, car: doc.car });
  await within((trx) => setArchived(trx, job.id, true));
  expect((await listJobs(db)).find((j) => j.id === job.id)).toMatchObject({ archived: true });
  await within((trx) => setArchived(trx, job.id, false));
  expect((await readJob(db, job.id)).archived).toBe(false);
});

it('says so when a job is not there', async () => {
  const nobody = '00000000-0000-4000-8000-000000000000';
  expect(await problem(readJob(db, nobody))).toMatchObject({ status: 404 });
  expect(await problem(readJob(db, 'not-an-id'))).toMatchObject({ status: 404 });
  expect(await problem(within((trx) => setArchived(trx, nobody, true)))).toMatchObject({ status: 404 });
  expect(await problem(jobFinding(db, nobody))).toMatchObject({ status: 404 });
});

it('keeps units in the order they came', async () => {
  await within(async (trx) => {
    for (const unit of DEMO_UNITS) await addUnit(trx, unit);
  });
  expect((await listUnits(db)).map((u) => u.doc.name)).toEqual(DEMO_UNITS.map((u) => u.name));
});
