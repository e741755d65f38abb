/**
 * A worker: a thread inside the server, or a process of its own by `npm run worker`, here or on any machine that reaches the
 * database. Bundled by scripts/build-workers.mjs.
 */
import { isMainThread, parentPort } from 'node:worker_threads';
import { startWorker } from './worker';

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set: a worker needs the database that the server uses.');
const concurrency = Math.max(1, Math.trunc(Number(process.env['VANNER_WORKER_TASKS'] ?? '1')) || 1);
const worker = await startWorker(url, concurrency);
const end = (): void => void worker.stop().then(() => process.exit(0));
if (isMainThread) {
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, end);
  console.log('Working on the queue. Ctrl-C stops it once what it is doing is done.');
} else parentPort?.once('message', end);
