import { readingStream, type Device } from './device';
import { flowBenchStandIn } from './flow-bench';

/** A device that counts up and knows whether it was put away. */
function counter(upTo: number): { readonly device: Device<number, number>; readonly closed: () => boolean; readonly given: () => number } {
  let closed = false;
  let given = 0;
  return {
    device: {
      name: 'counter',
      standIn: true,
      async *open(from, signal) {
        try {
          for (let i = from; i < upTo && !signal.aborted; i += 1) {
            given += 1;
            yield i;
          }
        } finally {
          closed = true;
        }
      },
    },
    closed: () => closed,
    given: () => given,
  };
}
const text = async (stream: ReadableStream<Uint8Array>): Promise<string> =>
  new Response(stream as ReadableStream<Uint8Array<ArrayBuffer>>).text();

it('gives a reading a line, and ends when the device does', async () => {
  const { device, closed } = counter(4);
  const ending = new AbortController();
  expect(await text(readingStream(device.open(1, ending.signal), ending))).toBe('1\n2\n3\n');
  expect(closed()).toBe(true);
});

it('reads no further than it is read itself, and puts the device away when its reader goes', async () => {
  const { device, closed, given } = counter(1_000_000);
  const ending = new AbortController();
  const reader = readingStream(device.open(0, ending.signal), ending).getReader();
  for (let i = 0; i < 3; i += 1) await reader.read();
  expect(given()).toBeLessThan(8);
  await reader.cancel();
  expect(ending.signal.aborted).toBe(true);
  expect(closed()).toBe(true);
});

it('a device that fails fails its reader', async () => {
  const broken = (async function* () {
    yield 1;
    throw new Error('the plug came out');
  })();
  await expect(text(readingStream(broken, new AbortController()))).rejects.toThrow('the plug came out');
});

it('the flow-bench stand-in says what it is, and refuses what cannot be put on it', async () => {
  expect(flowBenchStandIn).toMatchObject({ name: 'flow bench', standIn: true });
  const impossible = { throttle: { shape: 'single' as const, bore_m: 0.02, shaft_m: 0.03 }, depression_Pa: 7000, entryK: 0.04, seed: 1 };
  await expect(flowBenchStandIn.open(impossible, new AbortController().signal)[Symbol.asyncIterator]().next()).rejects.toMatchObject({
    status: 422,
  });
});

it('stopped, it gives no more', async () => {
  const ending = new AbortController();
  const throttle = { shape: 'single' as const, bore_m: 0.066, shaft_m: 0.008 };
  const readings = flowBenchStandIn.open({ throttle, depression_Pa: 7000, entryK: 0.04, seed: 1 }, ending.signal)[Symbol.asyncIterator]();
  expect((await readings.next()).done).toBe(false);
  ending.abort();
  expect((await readings.next()).done).toBe(true);
});
