import { MessageChannel } from 'node:worker_threads';
import { join } from 'node:path';
import Piscina from 'piscina';
import { ServerProblem } from '../errors';
import type { PlacedBlock } from '@/core/read/packed-block';
import type { TableRead } from './read-table.worker';

const holder = globalThis as { vannerReaders?: Piscina };

/** Threads are made on first use and let go when idle. Two at once: more only take the processor from the pages. */
function pool(): Piscina {
  holder.vannerReaders ??= new Piscina({
    filename: join(process.cwd(), 'dist/workers/read-table.mjs'),
    maxThreads: 2,
    minThreads: 0,
    idleTimeout: 30_000,
    // A file made to unfold without end ends its thread, not the server.
    resourceLimits: { maxOldGenerationSizeMb: 1536 },
  });
  return holder.vannerReaders;
}

/** What unfolds to more than its thread may have is refused with a way out; other errors stay what they are. */
export function tooMuchMemory(error: unknown): unknown {
  if ((error as { code?: string } | null)?.code !== 'ERR_WORKER_OUT_OF_MEMORY') return error;
  return new ServerProblem(
    413,
    'too_large',
    'What is in this file is larger than is read here. Cut it down to the run, or export it as text (CSV).',
  );
}

export interface TableThread {
  /** Hands a piece over, when the thread is ready for it: then it is done with the one before. */
  push(piece: Uint8Array): Promise<void>;
  /** No more pieces: what was read. */
  finish(): Promise<TableRead>;
  /** Lets the thread go without a result; one that is done does not notice. */
  drop(): void;
}

/**
 * A table read in a thread of its own, piece by piece. An abort lets it go between two pieces: a thread that is ended in the
 * middle of its work would leave those who wait for their turn behind it waiting for ever.
 */
export function openTableThread(
  signal: AbortSignal,
  table: string | null = null,
  onBlocks: (blocks: readonly PlacedBlock[]) => void = () => {},
): TableThread {
  const { port1, port2 } = new MessageChannel();
  const running = pool().run({ port: port2, table }, { transferList: [port2] }) as Promise<TableRead>;
  let wake: () => void = () => {};
  let asked = 0;
  let over = false;
  let gave: () => void = () => {};
  // The result comes by another way than the blocks: the last of them may still be under way when it is here.
  const allGiven = new Promise<void>((resolve) => {
    gave = resolve;
    port1.once('close', resolve);
  });
  port1.on('message', (message: 'next' | 'done' | readonly PlacedBlock[]) => {
    if (message === 'done') return gave();
    if (message !== 'next') return onBlocks(message);
    asked += 1;
    wake();
  });
  const end = (): void => {
    over = true;
    wake();
  };
  // Whoever waits for the result hears of a failure there; here it only ends the waiting.
  running.then(end, () => {
    end();
    port1.close();
  });
  const drop = (): void => {
    if (over) return;
    port1.postMessage('drop');
    wake();
  };
  signal.addEventListener('abort', drop, { once: true });
  const send = async (piece: Uint8Array | null): Promise<void> => {
    while (asked === 0 && !over && !signal.aborted) await new Promise<void>((resolve) => (wake = resolve));
    signal.throwIfAborted();
    if (over) return;
    asked -= 1;
    port1.postMessage(piece, piece?.buffer instanceof ArrayBuffer ? [piece.buffer] : []);
  };
  return {
    drop,
    // What is shared is seen there as it is; else a copy of its own, for it may be a part of a larger buffer.
    push: (piece) => send(piece.buffer instanceof SharedArrayBuffer ? piece : new Uint8Array(piece)),
    finish: async () => {
      await send(null);
      try {
        const result = await running;
        await allGiven;
        signal.throwIfAborted();
        return result;
      } catch (error) {
        throw tooMuchMemory(error);
      }
    },
  };
}
