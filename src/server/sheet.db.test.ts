import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { StoredJob } from '@/core/documents/job';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { POST as postJob } from '@/app/api/jobs/route';
import { GET as getSheet, POST as postSheet } from '@/app/api/jobs/[id]/sheet/route';
import { ask, askAs, at, bare, json, none, onFreshDatabase } from '../../test/api';
import type { JobDoc } from '@/core/documents/job';
import { db } from './db/client';
import { storeFile } from './files/store';
import { readJob, saveJob } from './jobs';
import { offeredSteps } from './sheet';
import { sheetNews } from './sheet-live';

onFreshDatabase();

const newJob = async (): Promise<string> => {
  return (await json<StoredJob>(await postJob(ask({ name: 'Sheet', preset: 'straight six, 2.9 L' }), none))).id;
};
type Loose = Record<string, unknown> & { type: string };
const event = (more: Loose): Loose => ({ id: randomUUID(), who: 'Maud', at_ms: Date.now(), ...more });
const write = (id: string, e: Loose): Promise<Response> => postSheet(ask(e), at({ id }));
const sheet = async (id: string): Promise<SheetEventDoc[]> => json(await getSheet(bare(), at({ id })));
const READY = [
  ...['spring', 'closed-stop', 'open-stop', 'coupler', 'clear', 'plug-in', 'threads'].map((step) => ({ type: 'done', step })),
  ...['snap', 'travel', 'floor', 'nothing-left', 'seated', 'counted'].map((gate) => ({ type: 'passed', gate })),
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
  // The check alone is not enough: what cures it was reopened.
  const early = await write(id, event({ type: 'passed', gate: 'snap' }));
  expect([early.status, ((await early.json()) as { error: string }).error]).toEqual([409, 'cure first']);
  expect((await start()).status).toBe(409);
  for (const step of ['spring', 'closed-stop']) await write(id, event({ type: 'done', step }));
  expect((await start()).status).toBe(409);
  await write(id, event({ type: 'passed', gate: 'snap' }));
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
  [{ type: 'done', step: 'teleport' }, 422],
  [{ type: 'failed', gate: 'snap', reason: '' }, 422],
  [{ type: 'passed', gate: 'self-test' }, 422],
  [{ type: 'fasteners out', bag: 'cover', count: -2 }, 422],
  [{ type: 'done', step: 'cold', id: 'no uuid' }, 422],
  [{ type: 'note', step: 'cold', text: ' ' }, 422],
  [{ type: 'note', step: 'teleport', text: 'x' }, 422],
  [{ type: 'rpm', step_ms: 1000, rpm: [-3] }, 422],
  [{ type: 'rpm', step_ms: 1000, rpm: [] }, 422],
  [{ type: 'photo', step: 'cold', hash: 'a'.repeat(64) }, 404],
  [{ type: 'engine on' }, 409],
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

it('a tick made before a check failed and sent after it does not open the start', async () => {
  const id = await newJob();
  for (const e of READY) await write(id, event(e));
  const before = Date.now();
  await write(id, event({ type: 'failed', gate: 'snap', reason: 'hangs', at_ms: before }));
  await write(id, event({ type: 'done', step: 'closed-stop', at_ms: before - 5000 }));
  await write(id, event({ type: 'passed', gate: 'snap', at_ms: before - 4000 }));
  expect((await write(id, event({ type: 'done', step: 'start' }))).status).toBe(409);
});

it('a phone’s clock may be wrong: its stamp is set right by what it said as it sent, and stands beside', async () => {
  const id = await newJob();
  const fast = 3 * 3_600_000;
  const now = Date.now();
  const sent = event({ type: 'done', step: 'cold', at_ms: now + fast - 60_000 });
  const answer = await postSheet(askAs(sent, { 'x-vanner-sent': String(now + fast) }), at({ id }));
  expect(answer.status).toBe(201);
  const [kept] = (await answer.json()) as { at_ms: number; phone_ms: number; kept_ms: number }[];
  expect(Math.abs(kept!.at_ms - (now - 60_000))).toBeLessThan(5000);
  expect(kept!.phone_ms).toBe(now + fast - 60_000);
  expect(kept!.kept_ms).toBeGreaterThanOrEqual(now);
  // Without a word of its clock a stamp is believed as far as now.
  await write(id, event({ type: 'done', step: 'battery', at_ms: now + fast }));
  expect((await sheet(id))[1]!.at_ms).toBeLessThanOrEqual(Date.now());
});

it('open sheets hear of what is written, at once and with the whole of it', async () => {
  const id = await newJob();
  const ending = new AbortController();
  const news = sheetNews(id, 0, ending.signal);
  expect((await news.next()).value).toMatchObject({ events: [], count: 0 });
  const waiting = news.next();
  const begun = Date.now();
  await write(id, event({ type: 'done', step: 'cold' }));
  expect((await waiting).value).toMatchObject({ events: [{ type: 'done', step: 'cold' }], count: 1 });
  expect(Date.now() - begun).toBeLessThan(2000);
  ending.abort();
});

it('a photo is a picture or it is refused, and comes back as it went in', async () => {
  const id = await newJob();
  const dot = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');
  const put = (bytes: Uint8Array<ArrayBuffer>) =>
    db()
      .transaction()
      .execute((trx) => storeFile(trx, new Blob([bytes]).stream()));
  const photo = await put(new Uint8Array(dot));
  const page = await put(new TextEncoder().encode('<svg onload="alert(1)"/>'));
  expect((await write(id, event({ type: 'photo', step: 'unit-off', hash: page.hash }))).status).toBe(415);
  expect((await write(id, event({ type: 'photo', step: 'unit-off', hash: photo.hash }))).status).toBe(201);
  expect(await sheet(id)).toMatchObject([{ type: 'photo', hash: photo.hash }]);
});

it('the engine’s stamps are kept only once it may run, and its readings with them', async () => {
  const id = await newJob();
  for (const e of READY) await write(id, event(e));
  expect((await write(id, event({ type: 'engine on' }))).status).toBe(422);
  await write(id, event({ type: 'done', step: 'start' }));
  expect((await write(id, event({ type: 'engine on' }))).status).toBe(201);
  expect((await write(id, event({ type: 'rpm', step_ms: 1000, rpm: [780, 770] }))).status).toBe(201);
  await write(id, event({ type: 'failed', gate: 'snap', reason: 'hangs' }));
  expect((await write(id, event({ type: 'engine on' }))).status).toBe(409);
});

it('the sheet does not close, nor count as counted, with a bag that is short', async () => {
  const id = await newJob();
  await write(id, event({ type: 'fasteners out', bag: 'cover', count: 6 }));
  expect((await write(id, event({ type: 'passed', gate: 'counted' }))).status).toBe(409);
  expect((await write(id, event({ type: 'done', step: 'rules' }))).status).toBe(409);
  await write(id, event({ type: 'fasteners back', bag: 'cover', count: 6 }));
  await write(id, event({ type: 'done', step: 'threads' }));
  expect((await write(id, event({ type: 'passed', gate: 'counted' }))).status).toBe(201);
  expect((await write(id, event({ type: 'done', step: 'rules' }))).status).toBe(201);
});

it('own steps are ticked like any other, and offered on the next car of the same kind only', async () => {
  const first = await newJob();
  const own = (text: string, id = 'own-a') => ({ id, stage: 'off' as const, after: 'connectors', text });
  const save = async (id: string, edit: (doc: JobDoc) => JobDoc): Promise<void> => {
    const { version, doc } = await readJob(db(), id);
    await db()
      .transaction()
      .execute((trx) => saveJob(trx, id, version, edit(doc)));
  };
  await save(first, (d) => ({ ...d, install: { ...d.install, own: [own('Bracket over the plug first')] } }));
  expect((await write(first, event({ type: 'done', step: 'own-a' }))).status).toBe(201);
  const second = await newJob();
  expect((await write(second, event({ type: 'done', step: 'own-a' }))).status).toBe(422);
  expect(await offeredSteps(db(), second)).toMatchObject([{ text: 'Bracket over the plug first', after: 'connectors' }]);
  await save(second, (d) => ({ ...d, install: { ...d.install, own: [own('Bracket over the plug first', 'own-b')] } }));
  expect(await offeredSteps(db(), second)).toEqual([]);
  const other = await newJob();
  await save(other, (d) => ({ ...d, car: { ...d.car, controls: { ...d.car.controls, kind: 'electronic-digital' } } }));
  expect(await offeredSteps(db(), other)).toEqual([]);
});
