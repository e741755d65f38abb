import { createHash } from 'node:crypto';
import { z } from 'zod';
import { jobDoc, type StoredJob } from '@/core/documents/job';
import { isFailure } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import { waveSetup } from '@/core/job/wave-inlet';
import { gridOrder, gridPoints, gridTasks, MOST_GRID_POINTS, type WaveGrid } from '@/core/job/wave-sweep';
import { waveModel } from '@/core/waves/engine';
import type { Db } from '../db/client';
import { ServerProblem } from '../errors';
import { askWork } from './work';

/** What is kept of one build's model is not another's answer. */
const RELEASE = process.env.VANNER_RELEASE ?? '';

export const waveGrid = z
  .object({
    lengths_m: z.array(z.number().min(0.02).max(3)).min(1).max(100),
    rpm: z.array(z.number().min(200).max(25_000)).min(2).max(200),
  })
  .refine((grid) => gridPoints(grid) <= MOST_GRID_POINTS, `A map has ${MOST_GRID_POINTS} points at most, the inlet as it is included.`);

/** Everything that goes into a sweep, and nothing else: the same in, the same out. */
const { car, air, sizing } = jobDoc.shape;
const sweepInput = z.object({ sized: z.object({ car, air, sizing }), grid: waveGrid });

/** A map as it is kept: fillings in the order of `gridTasks`; `null` where a point did not settle or is not computed yet. */
export interface SweepResult {
  readonly filling: readonly (number | null)[];
  /** Points that were computed and did not settle. */
  readonly unsettled: readonly number[];
}

/** An id that says what went in, in the form of a UUID: asked for again, a sweep is the one that is known. */
function idOf(bytes: Uint8Array): string {
  const hex = createHash('sha256').update(`wave sweep ${RELEASE}\0`).update(bytes).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/**
 * Has a job's inlet computed at every length and speed by a worker; resolves with the work's id. One that was computed before is
 * there at once, one that is under way is joined, one that failed or was stopped is begun anew.
 */
export async function askSweep(db: Db, job: StoredJob, grid: WaveGrid): Promise<string> {
  const { doc } = job;
  const bytes = Buffer.from(JSON.stringify({ sized: { car: doc.car, air: doc.air, sizing: doc.sizing }, grid }));
  const id = idOf(bytes);
  await db.transaction().execute(async (trx) => {
    // One that was told to stop and has not yet ended goes on; in this order, since it may end between the two.
    await trx.updateTable('work').set({ stop: false }).where('id', '=', id).where('ended_at', 'is', null).execute();
    await trx.deleteFrom('work').where('id', '=', id).where('state', 'in', ['failed', 'cancelled']).execute();
  });
  const input = (async function* () {
    yield await Promise.resolve(bytes);
  })();
  return askWork(db, 'waveSweep', input, id);
}

const impossible = (): ServerProblem =>
  new ServerProblem(422, 'no_sweep', 'The intake of this car cannot be solved as it is saved. Air says what is wrong with it.');

/** Computes a sweep point by point; `onPoint` hears of all there is after each, and is waited for. */
export async function computeSweep(
  input: AsyncIterable<Uint8Array>,
  onPoint: (result: SweepResult, share: number) => Promise<void>,
): Promise<SweepResult> {
  const pieces: Uint8Array[] = [];
  for await (const piece of input) pieces.push(piece);
  const read = sweepInput.safeParse(JSON.parse(Buffer.concat(pieces).toString('utf8')));
  if (!read.success) throw impossible();
  const { sized, grid } = read.data;
  const model = jobModel(sized, []);
  const setup = isFailure(model) ? model : waveSetup(sized, model);
  if (isFailure(setup)) throw impossible();
  const tasks = gridTasks(setup, setup.inlet.figures, grid);
  const order = gridOrder(grid.lengths_m.length, grid.rpm.length);
  const filling: (number | null)[] = tasks.map(() => null);
  const unsettled: number[] = [];
  const so = (): SweepResult => ({ filling, unsettled });
  for (const [done, i] of order.entries()) {
    const { engine, rpm } = tasks[i]!;
    const { settled, W } = waveModel(engine).run(rpm);
    if (settled && Number.isFinite(W)) filling[i] = W;
    else unsettled.push(i);
    await onPoint(so(), (done + 1) / order.length);
  }
  return so();
}
