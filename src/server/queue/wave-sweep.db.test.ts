import { sql } from 'kysely';
import { freshDatabase } from '../../../test/database';
import { must } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import { waveSetup } from '@/core/job/wave-inlet';
import { gridTasks } from '@/core/job/wave-sweep';
import { waveModel } from '@/core/waves/engine';
import type { StoredJob } from '@/core/documents/job';
import { loadDemo } from '../demo/load';
import { listJobs, readJob } from '../jobs';
import { log } from '../watch';
import { tryWork } from './tasks';
import { freeTheDead, startWorker } from './worker';
import { askSweep, computeSweep, waveGrid, type SweepResult } from './wave-sweep';
import { endWork, seeWork, stopWork } from './work';

let fresh: Awaited<ReturnType<typeof freshDatabase>>;
let wren: StoredJob;
const db = () => fresh.db;
beforeAll(async () => {
  log().level = 'silent';
  fresh = await freshDatabase();
  await db()
    .transaction()
    .execute((trx) => loadDemo(trx));
  wren = await readJob(db(), (await listJobs(db())).find((j) => j.name === 'Wren single')!.id);
});
afterAll(() => fresh.drop());

const grid = { lengths_m: [0.2, 0.35], rpm: [4000, 7000, 9000] };
const rows = async () => (await db().selectFrom('work').select('id').where('kind', '=', 'waveSweep').execute()).length;

it('a map is computed as the page itself would, kept, and there at once for who asks for the same again', async () => {
  const id = await askSweep(db(), wren, grid);
  expect(await seeWork(db(), id)).toMatchObject({ state: 'waiting' });
  await tryWork(db(), 'waveSweep', id, false);
  const seen = await seeWork(db(), id);
  expect(seen).toMatchObject({ state: 'done', share: 1 });
  const setup = must(waveSetup(wren.doc, must(jobModel(wren.doc, []))));
  const own = gridTasks(setup, setup.inlet.figures, grid).map(({ engine, rpm }) => waveModel(engine).run(rpm));
  expect(own).toHaveLength(9);
  const { filling, unsettled } = seen.result as SweepResult;
  expect(filling).toEqual(own.map((r) => (r.settled ? r.W : null)));
  expect(unsettled).toEqual(own.flatMap((r, i) => (r.settled ? [] : [i])));
  // Another note on the job is no other inlet; another length is.
  expect(await askSweep(db(), { ...wren, doc: { ...wren.doc, name: 'Wren, renamed' } }, grid)).toBe(id);
  expect(await rows()).toBe(1);
  const { car } = wren.doc;
  const longer = { ...wren, doc: { ...wren.doc, car: { ...car, inlet: { ...car.inlet, length_m: 0.41 } } } };
  expect(await askSweep(db(), longer, grid)).not.toBe(id);
});

it('tells what there is of it while it goes on, stops at its next step, and is begun anew by who asks again', async () => {
  const small = { lengths_m: [0.25], rpm: [5000, 6000] };
  const shares: number[] = [];
  const seen: (number | null)[][] = [];
  const bytes = Buffer.from(JSON.stringify({ sized: { car: wren.doc.car, air: wren.doc.air, sizing: wren.doc.sizing }, grid: small }));
  const input = async function* () {
    yield await Promise.resolve(bytes);
  };
  await computeSweep(input(), (soFar, share) => {
    shares.push(share);
    seen.push([...soFar.filling]);
    return Promise.resolve();
  });
  expect(shares).toEqual([0.25, 0.5, 0.75, 1]);
  // The inlet as it is comes first: everything is told beside it.
  expect(seen[1]!.map((v) => v !== null)).toEqual([true, true, false, false]);

  const id = await askSweep(db(), wren, small);
  expect(await stopWork(db(), id)).toMatchObject({ state: 'cancelled' });
  expect(await askSweep(db(), wren, small)).toBe(id);
  expect(await seeWork(db(), id)).toMatchObject({ state: 'waiting', result: null });
  await sql`UPDATE work SET state = 'running' WHERE id = ${id}`.execute(db());
  await stopWork(db(), id);
  await tryWork(db(), 'waveSweep', id, false);
  expect(await seeWork(db(), id)).toMatchObject({ state: 'cancelled' });
});

it('stopped and asked for again before its worker heard of the stop, it goes on', async () => {
  const small = { lengths_m: [0.26], rpm: [5000, 6000] };
  const id = await askSweep(db(), wren, small);
  await sql`UPDATE work SET state = 'running' WHERE id = ${id}`.execute(db());
  expect(await stopWork(db(), id)).toMatchObject({ state: 'running' });
  expect(await askSweep(db(), wren, small)).toBe(id);
  await tryWork(db(), 'waveSweep', id, false);
  expect(await seeWork(db(), id)).toMatchObject({ state: 'done' });
});

it('asked for again between its worker reading the stop and writing the end, it is begun anew', async () => {
  const small = { lengths_m: [0.28], rpm: [5000, 6000] };
  const id = await askSweep(db(), wren, small);
  await stopWork(db(), id);
  await askSweep(db(), wren, small);
  await sql`UPDATE work SET state = 'running' WHERE id = ${id}`.execute(db());
  await stopWork(db(), id);
  const asked = await askSweep(db(), wren, small);
  expect(
    await db()
      .transaction()
      .execute((trx) => endWork(trx, id, { state: 'cancelled' })),
  ).toBe(false);
  expect(await seeWork(db(), asked)).toMatchObject({ state: 'running', result: null });
  await tryWork(db(), 'waveSweep', id, false);
  expect(await seeWork(db(), id)).toMatchObject({ state: 'done' });
});

it('what a living worker is at is left to it, however long it takes', async () => {
  const worker = await startWorker(fresh.url, 2);
  const id = await askSweep(db(), wren, { lengths_m: [0.21, 0.27, 0.33], rpm: Array.from({ length: 12 }, (_, i) => 3000 + 500 * i) });
  let looked = 0;
  for (;;) {
    const { state } = await seeWork(db(), id);
    if (state !== 'waiting' && state !== 'running') break;
    const { rows: held } = await sql`SELECT 1 FROM graphile_worker._private_jobs WHERE locked_by IS NOT NULL`.execute(db());
    if (held.length > 0) {
      looked += 1;
      expect(await freeTheDead(db())).toEqual([]);
    }
    await new Promise((done) => setTimeout(done, 50));
  }
  expect(looked).toBeGreaterThan(2);
  expect(await seeWork(db(), id)).toMatchObject({ state: 'done' });
  await worker.stop();
}, 60_000);

it('an intake that cannot be solved is told, not tried again', async () => {
  const { air } = wren.doc;
  const shut = { ...wren, doc: { ...wren.doc, air: { ...air, parts: air.parts.filter((p) => p.type !== 'throttle') } } };
  const id = await askSweep(db(), shut, grid);
  await tryWork(db(), 'waveSweep', id, false);
  expect(await seeWork(db(), id)).toMatchObject({ state: 'failed', problem: { status: 422 } });
});

it('a map that would never end is refused', () => {
  const many = (n: number): number[] => Array.from({ length: n }, (_, i) => 0.1 + i * 0.01);
  expect(waveGrid.safeParse({ lengths_m: many(99), rpm: many(40).map((x) => 5000 * x + 500) }).success).toBe(true);
  const refused = waveGrid.safeParse({ lengths_m: many(100), rpm: many(40).map((x) => 5000 * x + 500) });
  expect(refused.error!.issues[0]!.message).toBe('A map has 4000 points at most, the inlet as it is included.');
  expect(waveGrid.safeParse({ lengths_m: [0.0001], rpm: [1, 2] }).success).toBe(false);
});
