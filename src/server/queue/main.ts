/**
 * A worker: a thread inside the server, or a process of its own by `npm run worker`, here or on any machine that reaches the
 * database. Bundled by scripts/build-workers.mjs.
 */
import { isMainThread, parentPort } from 'node:worker_threads';
import { log } from '../watch';
import { startWorker, type Worker } from './worker';

/** A worker that broke, or a database that is away, is tried again after this, and twice as long each time up to the longest, ms. */
const AGAIN_ms = 1000;
const LONGEST_ms = 30_000;

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set: a worker needs the database that the server uses.');
const concurrency = Math.max(1, Math.trunc(Number(process.env['VANNER_WORKER_TASKS'] ?? '2')) || 1);

let worker: Worker | null = null;
let over = false;
const end = (): void => {
  over = true;
  void (worker?.stop() ?? Promise.resolve()).catch(() => {}).then(() => process.exit(0));
};
if (isMainThread) {
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, end);
  console.log('Working on the queue. Ctrl-C stops it once what it is doing is done.');
} else parentPort?.once('message', end);

let wait = AGAIN_ms;
while (!over) {
  try {
    worker = await startWorker(url, concurrency);
    wait = AGAIN_ms;
    await worker.broken;
    if (!over) await worker.stop().catch(() => {});
  } catch (error) {
    log().warn({ err: error }, 'the worker waits for the database');
  }
  if (!over) await new Promise((done) => setTimeout(done, wait));
  wait = Math.min(LONGEST_ms, 2 * wait);
}
