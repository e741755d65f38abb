import { EventEmitter } from 'node:events';
import { Logger, run, type WorkerEvents } from 'graphile-worker';
import { sql } from 'kysely';
import type { Pool, PoolClient } from 'pg';
import { connect, poolOf, type Db } from '../db/client';
import { sweepUnpointed } from '../files/sweep';
import { sweepKeptSums } from '../known-sums';
import { log } from '../watch';
import { queue } from './work';
import { tasks } from './tasks';

/** How often workers look for one that died, ms. */
const LOOK_ms = 5000;
/** Without a call of the queue it is looked at this often, ms. */
const POLL_ms = 2000;

/** Files that nothing points at are looked for this often, ms. */
const SWEEP_ms = 24 * 3_600_000;

type Release = (broken?: Error | boolean) => void;

export interface Worker {
  /** Ends when what it is doing is done. */
  readonly stop: () => Promise<void>;
  /** Resolves when its lock is lost: others take its work up, so it is to be stopped and another begun. */
  readonly broken: Promise<void>;
}

/**
 * Gives back what workers that died held: each one that lives holds a lock in the database for as long as its connection is there,
 * which ends with it. By itself the queue would wait four hours.
 */
export async function freeTheDead(db: Db): Promise<readonly string[]> {
  const { rows } = await sql<{ worker: string }>`
    SELECT DISTINCT locked_by AS worker FROM graphile_worker._private_jobs WHERE locked_by IS NOT NULL`.execute(db);
  const dead: string[] = [];
  for (const { worker } of rows) {
    // Who can take the lock knows that nobody holds it.
    const { rows: taken } = await sql<{ free: boolean }>`
      SELECT pg_try_advisory_xact_lock(hashtextextended(${`worker ${worker}`}, 0)) AS free`.execute(db);
    if (taken[0]!.free) dead.push(worker);
  }
  if (dead.length > 0) {
    await (await queue(db)).forceUnlockWorkers(dead);
    log().warn({ workers: dead.length }, 'work of workers that died is taken up again');
  }
  return dead;
}

/**
 * The queue's listener gives its connection back twice where that breaks as it begins to listen and is told to stop: the second
 * time is no error here, which nobody would catch. A connection taken by promise still says so.
 */
export function forgiving(pool: Pool): Pool {
  const connect = pool.connect.bind(pool) as (
    taken?: (e: Error | undefined, client: PoolClient | undefined, release: Release) => void,
  ) => unknown;
  pool.connect = ((taken?: (e: Error | undefined, client: PoolClient | undefined, release: Release) => void) => {
    if (!taken) return connect();
    return connect((error, client, release) => {
      let given = false;
      taken(error, client, (broken) => {
        if (given) return;
        given = true;
        release(broken);
      });
    });
  }) as Pool['connect'];
  return pool;
}

/** Works on the queue of a database until it is stopped; any number may, on any machine that reaches it. */
export async function startWorker(url: string, concurrency = 1): Promise<Worker> {
  const db = connect(url, 3 + 2 * concurrency);
  await queue(db);
  const pool = forgiving(poolOf(db));
  // Held on a connection of its own: where that breaks this worker is given up, and others may take its work.
  const alive = await pool.connect();
  const broken = new Promise<void>((resolve) => alive.once('error', () => resolve()).once('end', () => resolve()));
  // A database that is away is told by those who wait for it; the queue listens again by itself.
  const quiet = new Logger(() => (level, message) => {
    if (level === 'error') log()[/notify listener|UNLISTEN/.test(message) ? 'debug' : 'error']({ queue: message }, 'the queue');
  });
  const events = new EventEmitter() as WorkerEvents;
  // What is held is held in the pool's name.
  const held = new Set<Promise<unknown>>();
  events.on('pool:create', ({ workerPool }) => {
    const lock = alive.query('SELECT pg_advisory_lock(hashtextextended($1, 0))', [`worker ${workerPool.id}`]);
    held.add(lock);
    lock.catch(() => {});
  });
  const runner = await run({
    pgPool: pool,
    taskList: tasks(db),
    concurrency,
    pollInterval: POLL_ms,
    noHandleSignals: true,
    logger: quiet,
    events,
  });
  await Promise.allSettled(held);
  const look = setInterval(() => void freeTheDead(db).catch(() => {}), LOOK_ms);
  const tidy = (): void => {
    sweepUnpointed(db).catch((error: unknown) => log().warn({ err: error }, 'files could not be swept'));
    sweepKeptSums(db).catch((error: unknown) => log().warn({ err: error }, 'old results could not be swept'));
  };
  const sweep = setInterval(tidy, SWEEP_ms);
  tidy();
  await freeTheDead(db);
  return {
    broken,
    stop: async () => {
      clearInterval(look);
      clearInterval(sweep);
      await runner.stop();
      alive.release(true);
      await db.destroy();
    },
  };
}
