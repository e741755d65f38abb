import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import os from 'node:os';
import { join } from 'node:path';
import { ServerProblem } from '../errors';
import { spooled } from './spool';

const tooLarge = () => new ServerProblem(413, 'too_large', 'too large');
// A folder of its own: other uploads of this machine come and go in the shared one.
const own = mkdtempSync(join(os.tmpdir(), 'vanner-spool-'));
const folder = jest.spyOn(os, 'tmpdir').mockReturnValue(own);
afterAll(() => {
  folder.mockRestore();
  rmSync(own, { recursive: true });
});
const left = () => readdirSync(own).length;
const of = (...pieces: string[]) =>
  new ReadableStream<Uint8Array>({
    start(c) {
      for (const p of pieces) c.enqueue(new TextEncoder().encode(p));
      c.close();
    },
  });
const text = (s: ReadableStream<Uint8Array>) => new Response(s).text();

it('hands a file on when it is whole, and nothing of it stays', async () => {
  expect(await spooled(of('ab', 'c'), 10, tooLarge, text)).toBe('abc');
  expect(left()).toBe(0);
});

it('what is too large, breaks off or stops coming is refused, never handed on, and leaves nothing', async () => {
  const work = jest.fn(text);
  await expect(spooled(of('abcdef', 'ghijkl'), 10, tooLarge, work)).rejects.toMatchObject({ status: 413 });
  const broken = new ReadableStream<Uint8Array>({ pull: (c) => c.error(new Error('gone')) });
  await expect(spooled(broken, 10, tooLarge, work)).rejects.toThrow('gone');
  const silent = new ReadableStream<Uint8Array>({ start: (c) => c.enqueue(new Uint8Array(1)) });
  await expect(spooled(silent, 10, tooLarge, work, 50)).rejects.toMatchObject({ status: 408, code: 'silent' });
  expect(work).not.toHaveBeenCalled();
  expect(left()).toBe(0);
});

it('more than a few at once are asked to come again, and find room once one is through', async () => {
  const open: ReadableStreamDefaultController<Uint8Array>[] = [];
  const slow = Array.from({ length: 8 }, () =>
    spooled(new ReadableStream<Uint8Array>({ start: (c) => void open.push(c) }), 10, tooLarge, text),
  );
  await new Promise((done) => setTimeout(done, 30));
  await expect(spooled(of('x'), 10, tooLarge, text)).rejects.toMatchObject({ status: 503, code: 'busy', data: { retryAfter_s: 5 } });
  open.forEach((c) => c.close());
  await Promise.all(slow);
  expect(await spooled(of('x'), 10, tooLarge, text)).toBe('x');
});

it('one that drips is gone as one that is silent, and never keeps its place', async () => {
  let drip: ReturnType<typeof setInterval> | undefined;
  const dripping = new ReadableStream<Uint8Array>({
    start: (c) => void (drip = setInterval(() => c.enqueue(new Uint8Array(1)), 10)),
    cancel: () => clearInterval(drip),
  });
  await expect(spooled(dripping, 1e6, tooLarge, text, 100)).rejects.toMatchObject({ status: 408 });
});

it('a disk that cannot be written to is told each time, and costs no place', async () => {
  folder.mockReturnValue('/nowhere');
  for (let i = 0; i < 10; i += 1) await expect(spooled(of('x'), 10, tooLarge, text)).rejects.toMatchObject({ code: 'ENOENT' });
  folder.mockReturnValue(own);
  expect(await spooled(of('x'), 10, tooLarge, text)).toBe('x');
});
