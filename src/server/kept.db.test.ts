import { sql } from 'kysely';
import { NO_VISIT } from '@/core/documents/blank';
import { presetJob } from '@/core/job/presets';
import { DEMO_UNITS } from '@/server/demo/larkspur';
import { GET as getJob, PUT as putJob } from '../app/api/jobs/[id]/route';
import { PUT as putUnit } from '../app/api/units/[id]/route';
import { ask, at, bare, json, onFreshDatabase } from '../../test/api';
import { db } from './db/client';
import { addJob, listJobs, readJob } from './jobs';
import { packageOf } from './package/write';
import { addVisit, readBook, saveVisit } from './strip';
import { addUnit, listUnits } from './units';

onFreshDatabase();

const within = <T>(work: Parameters<ReturnType<ReturnType<typeof db>['transaction']>['execute']>[0]): Promise<T> =>
  db().transaction().execute(work) as Promise<T>;

/** As a release with wider bounds left it: written past every check. */
const asOfOld = async (table: 'job' | 'unit' | 'strip_visit', id: string, path: string, value: number): Promise<void> => {
  await sql`UPDATE ${sql.table(table)} SET doc = jsonb_set(doc, ${`{${path}}`}::text[], ${JSON.stringify(value)}::jsonb) WHERE id = ${id}`.execute(
    db(),
  );
};

it('a job whose figure lies outside of a bound drawn since is read, shown, saved and exported; the figure stands until it is changed', async () => {
  const job = await within<Awaited<ReturnType<typeof addJob>>>((trx) => addJob(trx, presetJob('Old', 'straight six, 2.9 L')));
  await asOfOld('job', job.id, 'car,engine,redline_rpm', 40_000);
  const here = at({ id: job.id });
  const { doc, version } = await json<{ doc: typeof job.doc; version: number }>(await getJob(bare(), here));
  expect(doc.car.engine.redline_rpm).toBe(40_000);
  expect((await listJobs(db())).map((j) => j.name)).toContain('Old');
  // Something else is changed: that is taken.
  const named = await putJob(ask({ version, doc: { ...doc, name: 'Old, named anew' } }, 'PUT'), here);
  expect(named.status).toBe(200);
  // What is newly wrong is not, nor is the old figure made wrong otherwise; each is named.
  const engine = (more: object) => ({ ...doc, car: { ...doc.car, engine: { ...doc.car.engine, ...more } } });
  for (const [more, path] of [
    [{ cylinders: 0 }, 'doc.car.engine.cylinders'],
    [{ redline_rpm: 41_000 }, 'doc.car.engine.redline_rpm'],
  ] as const) {
    const refused = await putJob(ask({ version: version + 1, doc: engine(more) }, 'PUT'), here);
    expect(refused.status).toBe(422);
    expect(await json<{ issues: { path: string }[] }>(refused)).toMatchObject({ issues: [{ path }] });
  }
  const mended = await putJob(ask({ version: version + 1, doc: engine({ redline_rpm: 7000 }) }, 'PUT'), here);
  expect(mended.status).toBe(200);
  await asOfOld('job', job.id, 'car,engine,redline_rpm', 40_000);
  expect((await packageOf(db(), job.id)).job.doc.car.engine.redline_rpm).toBe(40_000);
});

it('one old throttle does not take the shelf with it', async () => {
  const [first, second] = await within<Awaited<ReturnType<typeof addUnit>>[]>(async (trx) => [
    await addUnit(trx, DEMO_UNITS[0]!),
    await addUnit(trx, { ...DEMO_UNITS[0]!, name: 'Beside it' }),
  ]);
  await asOfOld('unit', first!.id, 'throttle,clearance_m', 0.002);
  const listed = await listUnits(db());
  expect(listed.map((u) => u.id)).toEqual([first!.id, second!.id]);
  const [old] = listed;
  const saved = await putUnit(ask({ version: 1, doc: { ...old!.doc, note: 'still good' } }, 'PUT'), at({ id: old!.id }));
  expect(saved.status).toBe(200);
  const refused = await putUnit(ask({ version: 2, doc: { ...old!.doc, price: -1 } }, 'PUT'), at({ id: old!.id }));
  expect(await json(refused)).toMatchObject({ error: 'invalid', issues: [{ path: 'doc.price' }] });
});

it('nor an old day at the strip its job', async () => {
  const job = await within<Awaited<ReturnType<typeof addJob>>>((trx) => addJob(trx, presetJob('Strip', 'straight six, 2.9 L')));
  const visit = await within<Awaited<ReturnType<typeof addVisit>>>((trx) =>
    addVisit(trx, job.id, { ...NO_VISIT, track: 'Long Acre', takenOn: '2026-05-02' }),
  );
  await asOfOld('strip_visit', visit.id, 'mass_kg', 50);
  const book = await readBook(db(), job.id);
  expect(book.visits[0]!.doc.mass_kg).toBe(50);
  const saved = await within<Awaited<ReturnType<typeof saveVisit>>>((trx) =>
    saveVisit(trx, visit.id, 1, { ...book.visits[0]!.doc, note: 'windy' }),
  );
  expect(saved.doc).toMatchObject({ mass_kg: 50, note: 'windy' });
  await expect(within((trx) => saveVisit(trx, visit.id, 2, { ...saved.doc, entryFee: -1 }))).rejects.toMatchObject({ status: 422 });
  expect((await readJob(db(), job.id)).id).toBe(job.id);
});
