import { sql } from 'kysely';
import { makeWorkerUtils, type WorkerUtils } from 'graphile-worker';
import { poolOf, type Db, type Trx } from '../db/client';
import type { ServerProblem } from '../errors';
import { notFound } from '../errors';
import { IncomingFile } from '../files/store';
import { personNow } from '../who';

export const WORK_KINDS = ['archive', 'waveSweep'] as const;
export type WorkKind = (typeof WORK_KINDS)[number];

/** What a page is told of a piece of work. */
export interface WorkSeen {
  readonly id: string;
  readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  /** How far it is, 0 to 1. */
  readonly share: number;
  readonly result: unknown;
  readonly problem: { readonly status: number; readonly code: string; readonly message: string } | null;
}

/** Tries of a piece of work whose worker or database went away in the middle; what is wrong with the thing itself is not tried again. */
const MOST_TRIES = 4;
/** What ended is forgotten after so long, h. A sweep is kept as what it is: an answer that costs minutes and stays true. */
const REMEMBERED_h: Readonly<Record<WorkKind, number>> = { archive: 24, waveSweep: 30 * 24 };
/** Of what waits, the smaller goes first: somebody waits for an archive, a sweep is looked at later. */
const TURN: Readonly<Record<WorkKind, number>> = { archive: 0, waveSweep: 10 };

/** What work is done on is kept under a name of its own, which no content has. */
export const inputName = (id: string): string => `work-${id}`;

const holder = globalThis as { vannerQueue?: WeakMap<object, Promise<WorkerUtils>> };

/** The queue's own tables are made on first use, whoever comes first. */
export function queue(db: Db): Promise<WorkerUtils> {
  const known = (holder.vannerQueue ??= new WeakMap());
  const pool = poolOf(db);
  let made = known.get(pool);
  if (!made) {
    made = makeWorkerUtils({ pgPool: pool }).then(async (utils) => {
      await utils.migrate();
      return utils;
    });
    // A database that was away is asked again next time.
    made.catch(() => known.delete(pool));
    known.set(pool, made);
  }
  return made;
}

/**
 * Puts work on the queue with what it is to be done on: both or neither. Resolves with its id. One that is asked for again by its
 * `id`, because no answer came, is the one that is known.
 */
export async function askWork(db: Db, kind: WorkKind, input: AsyncIterable<Uint8Array>, id: string = crypto.randomUUID()): Promise<string> {
  await queue(db);
  await db.transaction().execute(async (trx) => {
    await sql`SELECT pg_advisory_xact_lock(hashtextextended(${`ask ${id}`}, 0))`.execute(trx);
    const known = await trx.selectFrom('work').select('id').where('id', '=', id).executeTakeFirst();
    if (known) return;
    const file = new IncomingFile(trx);
    for await (const piece of input) await file.push(piece);
    await file.finishAs(trx, inputName(id));
    await trx.insertInto('work').values({ id, kind, asked_by: personNow() }).execute();
    await sql`SELECT graphile_worker.add_job(${kind}, json_build_object('work', ${id}::text), max_attempts := ${MOST_TRIES}, job_key := ${id}, priority := ${TURN[kind]})`.execute(
      trx,
    );
    for (const k of WORK_KINDS)
      await sql`DELETE FROM work WHERE kind = ${k} AND ended_at < clock_timestamp() - make_interval(hours => ${REMEMBERED_h[k]})`.execute(
        trx,
      );
  });
  return id;
}

export async function seeWork(db: Db | Trx, id: string): Promise<WorkSeen> {
  const row = await db.selectFrom('work').select(['id', 'state', 'share', 'result', 'problem']).where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('piece of work');
  return row as WorkSeen;
}

/** Stops work: at once while it waits, at its next step while it runs. What is done stays done. */
export async function stopWork(db: Db, id: string): Promise<WorkSeen> {
  await db.transaction().execute(async (trx) => {
    const row = await trx
      .updateTable('work')
      .set({ stop: true })
      .where('id', '=', id)
      .where('ended_at', 'is', null)
      .returning('state')
      .executeTakeFirst();
    if (row?.state === 'waiting') await endWork(trx, id, { state: 'cancelled' });
  });
  return seeWork(db, id);
}

type End =
  | { readonly state: 'done'; readonly result: unknown }
  | { readonly state: 'failed'; readonly problem: ServerProblem }
  | { readonly state: 'cancelled' };

/**
 * Writes down what came of work, once: false where that stands already, or where it is to go on because it was asked for again after
 * it was stopped. What it was done on goes.
 */
export async function endWork(trx: Trx, id: string, end: End): Promise<boolean> {
  const { status, code, message } = end.state === 'failed' ? end.problem : { status: 0, code: '', message: '' };
  const row = await trx
    .updateTable('work')
    .set({
      state: end.state,
      ...(end.state === 'done' && { share: 1, result: JSON.stringify(end.result) }),
      ...(end.state === 'failed' && { problem: JSON.stringify({ status, code, message }) }),
      ended_at: new Date(),
    })
    .where('id', '=', id)
    .where('ended_at', 'is', null)
    .$if(end.state === 'cancelled', (q) => q.where('stop', '=', true))
    .returning('id')
    .executeTakeFirst();
  if (!row) return false;
  await trx.deleteFrom('file').where('hash', '=', inputName(id)).execute();
  return true;
}
