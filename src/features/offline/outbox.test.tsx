import 'fake-indexeddb/auto';
import { waitFor } from '@testing-library/react';
import fc from 'fast-check';
import { openDB } from 'idb';
import { freshOutbox, Outbox, type ToSend } from './outbox';

// A browser's own copy of what is stored; the test environment has none.
globalThis.structuredClone ??= ((v: unknown) => v) as typeof structuredClone;

interface Server {
  readonly taken: string[];
  /** Answers the next requests: a status, or 'lost' (it arrives, its answer does not), or 'away'. Then all is well. */
  readonly script: (number | 'lost' | 'away')[];
}
let server: Server;
/** A browser that was never here before. */
async function newBrowser(): Promise<void> {
  freshOutbox().close();
  globalThis.indexedDB = new IDBFactory();
  await Promise.resolve();
}
beforeEach(async () => {
  await newBrowser();
  server = { taken: [], script: [] };
  globalThis.fetch = ((url: string, init: RequestInit) => {
    const next = server.script.shift() ?? 201;
    if (next === 'away') return Promise.reject(new TypeError('network'));
    const answer = (status: number, body: object) => ({ ok: status < 400, status, json: () => Promise.resolve(body) }) as Response;
    if (typeof next === 'number' && next >= 400) return Promise.resolve(answer(next, { message: `refused ${next}` }));
    if (url === '/api/files') return Promise.resolve(answer(201, { hash: 'h'.repeat(64) }));
    const { id } = JSON.parse(String(init.body)) as { id: string };
    if (!server.taken.includes(id)) server.taken.push(id);
    return next === 'lost' ? Promise.reject(new TypeError('network')) : Promise.resolve(answer(201, []));
  }) as typeof fetch;
});
const item = (id: string, more: Partial<ToSend> = {}): ToSend => ({
  id,
  jobId: 'job',
  kind: 'sheet',
  url: '/api/jobs/job/sheet',
  body: { id },
  ...more,
});

it('sends at once, and has nothing left then', async () => {
  const box = freshOutbox();
  await expect(box.add(item('a'))).resolves.toMatchObject({ kind: 'sent' });
  expect([server.taken, box.list()]).toEqual([['a'], []]);
});

it('is shown as waiting until whoever shows what is kept has it: at no moment is it nowhere', async () => {
  const box = freshOutbox();
  const kept = new Set<string>();
  const gaps: string[] = [];
  box.onSent((i) => kept.add(i.id));
  const stop = box.subscribe(() => {
    if (written && !kept.has('a') && !box.list().some((i) => i.id === 'a')) gaps.push('a is nowhere');
  });
  let written = false;
  const sending = box.add(item('a'));
  written = true;
  await sending;
  stop();
  expect(gaps).toEqual([]);
  expect([...kept]).toEqual(['a']);
});

it('waits without a connection, over a restart, and then goes in the order of writing', async () => {
  server.script.push('away', 'away', 'away');
  const box = freshOutbox();
  for (const id of ['a', 'b', 'c']) await expect(box.add(item(id))).resolves.toEqual({ kind: 'waiting' });
  box.close();
  expect(server.taken).toEqual([]);
  const next = new Outbox();
  const stop = next.subscribe(() => {});
  await waitFor(() => expect(server.taken).toEqual(['a', 'b', 'c']));
  await waitFor(() => expect(next.list()).toEqual([]));
  stop();
  next.close();
});

it('what is refused at once is told and not kept; what is refused later stays until it is read', async () => {
  const box = freshOutbox();
  server.script.push(409);
  await expect(box.add(item('a'))).rejects.toThrow('refused 409');
  expect(box.list()).toEqual([]);
  server.script.push('away', 422);
  await box.add(item('b'));
  await box.flush();
  await waitFor(() => expect(box.list()).toMatchObject([{ id: 'b', refused: 'refused 422' }]));
  // It is in nobody's way.
  await expect(box.add(item('c'))).resolves.toMatchObject({ kind: 'sent' });
  await box.dismiss(box.list()[0]!.seq);
  expect(box.list()).toEqual([]);
});

it('a server that wants to be signed in to loses nothing', async () => {
  const box = freshOutbox();
  server.script.push(401);
  await expect(box.add(item('a'))).resolves.toEqual({ kind: 'waiting' });
  expect(box.isSignedOut()).toBe(true);
  await box.flush();
  expect(server.taken).toEqual(['a']);
});

it('a photo goes ahead of the event that names it', async () => {
  const box = freshOutbox();
  await box.add(item('p', { kind: 'photo', photo: new Blob(['x']) }));
  expect(server.taken).toEqual(['p']);
});

it('whatever breaks on the way, all is taken, once each and in order', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom<number | 'lost' | 'away'>('lost', 'away', 500, 503, 401, 201), { maxLength: 25 }),
      fc.integer({ min: 1, max: 8 }),
      async (script, n) => {
        await newBrowser();
        server.taken.length = 0;
        server.script.splice(0, Infinity, ...script);
        let box = freshOutbox();
        const ids = Array.from({ length: n }, (_, i) => `${i}-${script.length}`);
        for (const [i, id] of ids.entries()) {
          void box.add(item(id)).catch(() => {});
          // The page is left in the middle of sending, once what was written is in the browser's database.
          if (i % 3 === 2) {
            const stored = await openDB('vanner-outbox', 1);
            const known = async (): Promise<number> =>
              new Set([...((await stored.getAll('items')) as ToSend[]).map((x) => x.id), ...server.taken]).size;
            while ((await known()) <= i) await new Promise((r) => setTimeout(r, 1));
            stored.close();
            box = freshOutbox();
          }
        }
        for (let k = 0; k < 40 && (server.taken.length < n || box.list().length > 0); k += 1) {
          await box.flush();
          await new Promise((r) => setTimeout(r, 2));
        }
        expect(server.taken).toEqual(ids);
        expect(box.list()).toEqual([]);
      },
    ),
    { numRuns: 40 },
  ));
