import type { Job, JobHelpers, Task, TaskList } from 'graphile-worker';
import { z } from 'zod';
import type { Db } from '../db/client';
import { problemOf } from '../errors';
import { filePieces, fileSize } from '../files/store';
import { takeInPackage } from '../package/read';
import { log } from '../watch';
import { asPerson } from '../who';
import { packageDocumentInThread } from '../work/package-doc';
import { computeSweep, type SweepResult } from './wave-sweep';
import { endWork, inputName, WORK_KINDS, type WorkKind } from './work';

/** How often a worker writes down how far it is and looks whether it is to stop, ms. */
const STEP_ms = 300;
/** A sweep writes down all it has so far, less often. */
const SWEEP_STEP_ms = 1000;

class Stopped extends Error {}

interface Task_ {
  readonly db: Db;
  readonly id: string;
  /** What the work is done on, as it is read; tells how far it is, and throws where the work is stopped. */
  readonly input: () => AsyncGenerator<Uint8Array>;
}

/** Does the work and ends it in the transaction of what it did: it counts once, however often a worker dies over it. */
const DO: Readonly<Record<WorkKind, (task: Task_) => Promise<void>>> = {
  archive: async ({ db, id, input }) => {
    await takeInPackage(db, input(), packageDocumentInThread, async (trx, result) => {
      const { stop } = await trx.selectFrom('work').select('stop').where('id', '=', id).executeTakeFirstOrThrow();
      if (stop || !(await endWork(trx, id, { state: 'done', result }))) throw new Stopped();
    });
  },
  waveSweep: async ({ db, id, input }) => {
    let told = performance.now();
    const result = await computeSweep(input(), async (soFar, share) => {
      // Between two points others of this thread have their turn.
      await new Promise((done) => setImmediate(done));
      if (performance.now() - told < SWEEP_STEP_ms) return;
      told = performance.now();
      await step(db, id, share, soFar);
    });
    if (!(await db.transaction().execute((trx) => endWork(trx, id, { state: 'done', result })))) throw new Stopped();
  },
};

/** Writes down how far work is, and what there is of it already; throws where it is stopped. */
async function step(db: Db, id: string, share: number, soFar?: SweepResult): Promise<void> {
  const row = await db
    .updateTable('work')
    .set({ share, ...(soFar && { result: JSON.stringify(soFar) }) })
    .where('id', '=', id)
    .where('ended_at', 'is', null)
    .returning('stop')
    .executeTakeFirst();
  if (!row || row.stop) throw new Stopped();
}

async function* watchedInput(db: Db, id: string): AsyncGenerator<Uint8Array> {
  const size = (await fileSize(db, inputName(id))) ?? 0;
  let read = 0;
  let told = 0;
  for await (const piece of filePieces(db, inputName(id))) {
    if (performance.now() - told > STEP_ms) {
      told = performance.now();
      // What is read is not yet written: the last step is the end itself.
      await step(db, id, size === 0 ? 0 : (0.95 * read) / size);
    }
    read += piece.byteLength;
    yield piece;
  }
}

/** One try of a piece of work. What is wrong with the thing itself ends it; what may pass is thrown, and tried again. */
export async function tryWork(db: Db, kind: WorkKind, id: string, isLast: boolean): Promise<void> {
  const row = await db
    .updateTable('work')
    .set({ state: 'running', share: 0 })
    .where('id', '=', id)
    .where('ended_at', 'is', null)
    .returning(['asked_by', 'stop'])
    .executeTakeFirst();
  // Done by one whose end was not heard of, or stopped while it waited.
  if (!row) return;
  const end = (how: Parameters<typeof endWork>[2]) => db.transaction().execute((trx) => endWork(trx, id, how));
  try {
    if (row.stop) throw new Stopped();
    await asPerson(row.asked_by, () => DO[kind]({ db, id, input: () => watchedInput(db, id) }));
  } catch (error) {
    if (error instanceof Stopped) {
      // Asked for again meanwhile, it is begun anew.
      return (await end({ state: 'cancelled' })) ? undefined : tryWork(db, kind, id, isLast);
    }
    const problem = problemOf(error);
    const passes = problem.status >= 500 && problem.status !== 507;
    if (passes && !isLast) throw error;
    log()[problem.status >= 500 ? 'warn' : 'info']({ work: id, kind, code: problem.code }, 'work failed');
    await end({ state: 'failed', problem });
  }
}

const payload = z.object({ work: z.uuid() });

/** The tasks as the queue calls them. */
export const tasks = (db: Db): TaskList => {
  const task =
    (kind: WorkKind): Task =>
    async (given: unknown, { job }: JobHelpers) =>
      tryWork(db, kind, payload.parse(given).work, isLastTry(job));
  return Object.fromEntries(WORK_KINDS.map((kind) => [kind, task(kind)]));
};

const isLastTry = ({ attempts, max_attempts }: Job): boolean => attempts >= max_attempts;
