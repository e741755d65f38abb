import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { StoredJob } from '@/core/documents/job';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { POST as postJob } from '@/app/api/jobs/route';
import { GET as getSheet, POST as postSheet } from '@/app/api/jobs/[id]/sheet/route';
import { ask, at, bare, json, none, onFreshDatabase } from '../../test/api';
import { db } from './db/client';

onFreshDatabase();

const newJob = async (): Promise<string> => {
  return (await json<StoredJob>(await postJob(ask({ name: 'Sheet', preset: 'straight six, 2.9 L' }), none))).id;
};
type Loose = Record<string, unknown> & { type: string };
const event = (more: Loose): Loose => ({ id: randomUUID(), who: 'Maud', at_ms: Date.now(), ...more });
const write = (id: string, e: Loose): Promise<Response> => postSheet(ask(e), at({ id }));
const sheet = async (id: string): Promise<SheetEventDoc[]> => json(await getSheet(bare(), at({ id })));
const READY = [
  { type: 'done', step: 'closed-stop' },
  { type: 'done', step: 'threads' },
  { type: 'passed', gate: 'snap' },
  { type: 'passed', gate: 'travel' },
  { type: 'passed', gate: 'nothing-left' },
];

it('keeps what is written, in its order, and an event sent twice is one', async () => {
  const id = await newJob();
  const first = event({ type: 'done', step: 'cold' });
  expect((await write(id, first)).status).toBe(201);
  expect((await write(id, first)).status).toBe(201);
  await write(id, event({ type: 'undone', step: 'cold', reason: 'still warm' }));
  expect((await sheet(id)).map((e) => e.type)).toEqual(['done', 'undone']);
});

it('the first start is locked for whoever asks, until every check stands as passed', async () => {
  const id = await newJob();
  const start = () => write(id, event({ type: 'done', step: 'start' }));
  const refused = await start();
  expect(refused.status).toBe(409);
  expect(await refused.json()).toMatchObject({
    error: 'locked',
    locks: expect.arrayContaining([{ why: 'check', gate: 'snap', reason: null }]),
  });
  for (const e of READY) expect((await write(id, event(e))).status).toBe(201);
  await write(id, event({ type: 'failed', gate: 'snap', reason: 'hangs' }));
  expect((await start()).status).toBe(409);
  await write(id, event({ type: 'passed', gate: 'snap' }));
  // The check alone is not enough: what cures it was reopened.
  expect((await start()).status).toBe(409);
  await write(id, event({ type: 'done', step: 'closed-stop' }));
  expect((await start()).status).toBe(201);
});

it('two windows at once cannot go round it: a start beside a failing check', async () => {
  for (let round = 0; round < 5; round += 1) {
    const id = await newJob();
    for (const e of READY) await write(id, event(e));
    const [failed, started] = await Promise.all([
      write(id, event({ type: 'failed', gate: 'snap', reason: 'hangs' })),
      write(id, event({ type: 'done', step: 'start' })),
    ]);
    expect(failed.status).toBe(201);
    const types = (await sheet(id)).map((e) => (e.type === 'done' ? e.step : e.type));
    // Whichever came first, a start never stands after the check that failed.
    if (started.status === 201) expect(types.indexOf('start')).toBeLessThan(types.indexOf('failed'));
    else expect(started.status).toBe(409);
  }
});

it('nothing that stands on it can be changed or taken away, not even in the database', async () => {
  const id = await newJob();
  await write(id, event({ type: 'done', step: 'cold' }));
  await expect(sql`UPDATE sheet_event SET event = '{}'::jsonb`.execute(db())).rejects.toThrow(/cannot be changed/);
  await expect(sql`DELETE FROM sheet_event`.execute(db())).rejects.toThrow(/cannot be changed/);
});

it.each([
  [{ type: 'done', step: 'cold', who: '  ' }, 422],
  [{ type: 'done', step: 'cold', at_ms: Date.now() + 3_600_000 }, 422],
  [{ type: 'done', step: 'teleport' }, 422],
  [{ type: 'failed', gate: 'snap', reason: '' }, 422],
  [{ type: 'passed', gate: 'self-test' }, 422],
  [{ type: 'fasteners out', bag: 'cover', count: -2 }, 422],
  [{ type: 'done', step: 'cold', id: 'no uuid' }, 422],
] as [Loose, number][])('refuses %j', async (more, status) => {
  const id = await newJob();
  const answer = await write(id, event(more));
  expect(answer.status).toBe(status);
  expect(((await answer.json()) as { message: string }).message.length).toBeGreaterThan(5);
  expect(await sheet(id)).toEqual([]);
});

it('a job that is not there has no sheet', async () => {
  for (const id of [randomUUID(), 'nonsense']) {
    expect((await write(id, event({ type: 'done', step: 'cold' }))).status).toBe(404);
    expect((await getSheet(bare(), at({ id }))).status).toBe(404);
  }
});
