import type { JobDoc } from '@/core/documents/job';
import type { StoredUnit } from '@/core/documents/unit';
import type { SideResult } from '@/core/engine/induction';
import { isFailure } from '@/core/failure';
import { jobModel, type JobModel } from '@/core/job/model';
import type { Db, Trx } from '../db/client';
import { ServerProblem } from '../errors';
import { listUnits } from '../units';

export interface StandInEngine {
  readonly model: JobModel;
  readonly stock: SideResult;
  /** The engine as it is driven: with the throttle on, or stock. */
  readonly solved: SideResult;
  readonly unit: StoredUnit | null;
}

/** A job's engine for a stand-in to turn, stock or with a throttle on. Refuses a throttle that is gone and a car that cannot be solved. */
export async function standInEngine(db: Db | Trx, doc: JobDoc, unitId: string | null): Promise<StandInEngine> {
  const unit = unitId === null ? null : ((await listUnits(db, [unitId])).find((u) => u.id === unitId) ?? null);
  if (unitId !== null && unit === null) throw new ServerProblem(404, 'not_found', 'This throttle is not on the shelf (any more).');
  const model = jobModel(doc, unit ? [{ unit, opening: doc.pick.opening }] : []);
  if (isFailure(model))
    throw new ServerProblem(422, model.error, 'This car cannot be solved yet: the practice dyno has no engine to turn. See the Air step.');
  const stock = model.reference.result;
  const solved = model.candidates[0]?.solved ?? stock;
  if (isFailure(solved)) throw new ServerProblem(422, solved.error, 'With this throttle the engine cannot be solved.');
  return { model, stock, solved, unit };
}
