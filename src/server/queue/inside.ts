import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { log } from '../watch';

/** A worker that ended is begun again after this, and twice as long each time up to the longest, ms. */
const AGAIN_ms = 1000;
const LONGEST_ms = 60_000;
/** One that worked for so long was well, ms. */
const WELL_ms = 60_000;

const holder = globalThis as { vannerWorker?: boolean };

/** Keeps one worker going in a thread of this process: its work takes nothing from the thread that answers. */
export function keepWorker(): void {
  if (holder.vannerWorker) return;
  holder.vannerWorker = true;
  let wait = AGAIN_ms;
  const begin = (): void => {
    const from = performance.now();
    const thread = new Worker(join(process.cwd(), 'dist/workers/queue.mjs'));
    // The server ends when it is told to: a worker does not hold it up, and its work is taken up again.
    thread.unref();
    thread.on('error', (error) => log().error({ err: error }, 'the worker inside failed'));
    thread.on('exit', () => {
      wait = performance.now() - from > WELL_ms ? AGAIN_ms : Math.min(LONGEST_ms, 2 * wait);
      setTimeout(begin, wait).unref();
    });
  };
  begin();
}
