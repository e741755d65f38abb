import { setTimeout as wait } from 'node:timers/promises';

/**
 * Something that measures: opened with its settings, it gives readings until it is done or told to stop. A stand-in and a
 * driver of a real instrument are the same to whoever reads them.
 */
export interface Device<Settings, Reading> {
  readonly name: string;
  /** True for a simulated instrument: the screens say so. */
  readonly standIn: boolean;
  open(settings: Settings, signal: AbortSignal): AsyncIterable<Reading>;
}

/** A device's readings as lines of JSON, as they come; ends when the reader goes away. */
export function readingStream<R>(readings: AsyncIterable<R>, ending: AbortController): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  const iterator = readings[Symbol.asyncIterator]();
  return new ReadableStream({
    async pull(controller) {
      const next = await iterator.next();
      if (next.done === true) controller.close();
      else controller.enqueue(encoder.encode(`${JSON.stringify(next.value)}\n`));
    },
    async cancel() {
      ending.abort();
      await iterator.return?.();
    },
  });
}

/** A device's readings as server-sent events, one message each; `end` when the device is done. Ends when the reader goes away. */
export function eventStream<R>(readings: AsyncIterable<R>, ending: AbortController): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  const iterator = readings[Symbol.asyncIterator]();
  return new ReadableStream({
    async pull(controller) {
      const next = await iterator.next();
      controller.enqueue(encoder.encode(next.done === true ? 'event: end\ndata: \n\n' : `data: ${JSON.stringify(next.value)}\n\n`));
      if (next.done === true) controller.close();
    },
    async cancel() {
      ending.abort();
      await iterator.return?.();
    },
  });
}

/** Readings a pure stand-in makes, at the pace of a real instrument. */
export async function* paced<R>(readings: Iterable<R>, rate_Hz: number, signal: AbortSignal): AsyncGenerator<R> {
  for (const reading of readings) {
    if (signal.aborted) return;
    yield reading;
    await wait(1000 / rate_Hz, undefined, { signal }).catch(() => {});
  }
}
