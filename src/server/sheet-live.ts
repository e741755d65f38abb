import { EventEmitter, once } from 'node:events';
import { setTimeout as wait } from 'node:timers/promises';
import type { SheetEventDoc } from '@/core/documents/sheet';
import { db } from './db/client';
import { listSheet } from './sheet-events';

/** What an open sheet is told: what is new on it, how much there is in all, and the time here. */
export interface SheetNews {
  readonly events: readonly SheetEventDoc[];
  readonly count: number;
  readonly now_ms: number;
}

/** A sheet is looked at this often even if nobody in this process wrote to it, ms; and this often a quiet one says it is there. */
const LOOK_ms = 1000;
const BEAT_ms = 5000;

const held = globalThis as { vannerSheets?: EventEmitter };
const bus = (): EventEmitter => (held.vannerSheets ??= new EventEmitter().setMaxListeners(0));

/** Tells open sheets of a job that something was written, once it is kept. */
export const sheetWritten = (jobId: string): void => void bus().emit(jobId);

async function countOf(jobId: string): Promise<number> {
  const { n } = await db()
    .selectFrom('sheet_event')
    .select(({ fn }) => fn.countAll<string>().as('n'))
    .where('job_id', '=', jobId)
    .executeTakeFirstOrThrow();
  return Number(n);
}

/** News of a job's sheet beyond its first `from` events, as they come, until the reader goes away. */
export async function* sheetNews(jobId: string, from: number, ended: AbortSignal): AsyncGenerator<SheetNews> {
  let told = from;
  let last = 0;
  while (!ended.aborted) {
    const count = await countOf(jobId);
    const now_ms = Date.now();
    if (count !== told || now_ms - last >= BEAT_ms) {
      const events = count > told ? (await listSheet(db(), jobId)).slice(told) : [];
      told = Math.max(told, count);
      last = now_ms;
      yield { events, count: told, now_ms };
    }
    const quiet = new AbortController();
    const signal = AbortSignal.any([ended, quiet.signal]);
    await Promise.race([once(bus(), jobId, { signal }), wait(LOOK_ms, undefined, { signal })]).catch(() => {});
    quiet.abort();
  }
}
