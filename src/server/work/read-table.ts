import { MessageChannel } from 'node:worker_threads';
import { join } from 'node:path';
import Piscina from 'piscina';
import type { ReadResult } from '@/core/runs/read/reader';

const holder = globalThis as { vannerReaders?: Piscina };

/** Threads are made on first use and let go when idle. Two at once: more only take the processor from the pages. */
function pool(): Piscina {
  holder.vannerReaders ??= new Piscina({
    filename: join(process.cwd(), 'dist/workers/read-table.mjs'),
    maxThreads: 2,
    minThreads: 0,
    idleTimeout: 30_000,
  });
  return holder.vannerReaders;
}

/** Reads a table in a thread of its own, telling how many bytes have gone in; an abort ends the thread at once. */
export async function readTableInThread(
  pieces: AsyncIterable<Uint8Array>,
  onBytes: (bytes: number) => void,
  signal: AbortSignal,
): Promise<ReadResult> {
  const { port1, port2 } = new MessageChannel();
  const running = pool().run({ port: port2 }, { signal, transferList: [port2] }) as Promise<ReadResult>;
  let wake: (() => void) | null = null;
  let asked = 0;
  port1.on('message', () => {
    asked += 1;
    wake?.();
  });
  const turn = async (): Promise<void> => {
    while (asked === 0 && !signal.aborted) await new Promise<void>((resolve) => (wake = resolve));
    asked -= 1;
  };
  signal.addEventListener('abort', () => wake?.(), { once: true });
  const feed = async (): Promise<void> => {
    let bytes = 0;
    for await (const piece of pieces) {
      await turn();
      if (signal.aborted) return;
      bytes += piece.byteLength;
      // A copy of its own, handed over: the piece may be a part of a larger buffer.
      const own = new Uint8Array(piece);
      port1.postMessage(own, [own.buffer]);
      onBytes(bytes);
    }
    await turn();
    port1.postMessage(null);
  };
  try {
    const [result] = await Promise.all([running, feed()]);
    return result;
  } finally {
    port1.close();
  }
}
