import { deviceReadings } from './read-stream';

const pieces = (...list: string[]): ReadableStream<Uint8Array<ArrayBuffer>> =>
  new ReadableStream({
    start(c) {
      for (const p of list) c.enqueue(new TextEncoder().encode(p));
      c.close();
    },
  });
const answer = (response: Partial<Response>): void => {
  globalThis.fetch = (() => Promise.resolve({ ok: true, ...response } as Response)) as typeof fetch;
};
const all = async (): Promise<number[]> => {
  const out: number[] = [];
  for await (const r of deviceReadings({}, new AbortController().signal)) out.push(r.flow_m3ps);
  return out;
};

it('puts lines together however they were cut', async () => {
  answer({ body: pieces('{"flow_m3ps":', '1}\n{"flow_m3ps":2}\n{"flow', '_m3ps":3}\n', '\n') });
  expect(await all()).toEqual([1, 2, 3]);
});

it('a reading cut off at the end is none', async () => {
  answer({ body: pieces('{"flow_m3ps":1}\n{"flow_m3') });
  expect(await all()).toEqual([1]);
});

it('a refusal is told in its own words, and silence in ours', async () => {
  answer({ ok: false, json: () => Promise.resolve({ message: 'No such part.' }) });
  await expect(all()).rejects.toThrow('No such part.');
  answer({ ok: false, json: () => Promise.reject(new Error('no json')) });
  await expect(all()).rejects.toThrow('The bench does not answer.');
});
