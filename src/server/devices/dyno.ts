import { DYNO_RATE_Hz, dynoReadings, type DynoCurve, type DynoReading, type DynoSettings } from '@/core/stand-ins/dyno';
import { isFailure } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import { DRIVELINE_LOSS } from '@/core/job/refit';
import { seededRandom } from '@/core/numbers/random';
import type { JobDoc } from '@/core/documents/job';
import type { Db, Trx } from '../db/client';
import { ServerProblem } from '../errors';
import { listUnits } from '../units';
import { paced, type Device } from './device';

/** The dyno stand-in, at the pace of a real one. */
export const dynoStandIn: Device<DynoSettings, DynoReading> = {
  name: 'dyno',
  standIn: true,
  open: (settings, stop) => paced(dynoReadings(settings), DYNO_RATE_Hz, stop),
};

export interface EngineAtWheels extends DynoCurve {
  readonly plenum_Pa: readonly number[];
}

/** The job's engine at the wheels, stock or with a unit on; `hidden` bends the unit's effect by a seeded share of the model's. */
export async function engineAtWheels(db: Db | Trx, doc: JobDoc, unitId: string | null, hidden: number | null): Promise<EngineAtWheels> {
  const units = unitId === null ? [] : (await listUnits(db, [unitId])).filter((u) => u.id === unitId);
  if (unitId !== null && units.length === 0) throw new ServerProblem(404, 'not_found', 'This unit is not on the shelf (any more).');
  const model = jobModel(
    doc,
    units.map((unit) => ({ unit, opening: doc.pick.opening })),
  );
  if (isFailure(model))
    throw new ServerProblem(422, model.error, 'This car cannot be solved yet: the stand-in has no engine to turn. See the Air stop.');
  const stock = model.reference.result;
  const solved = model.candidates[0]?.solved ?? stock;
  if (isFailure(solved)) throw new ServerProblem(422, solved.error, 'With this unit the engine cannot be solved.');
  const share = hidden === null ? 1 : -0.5 + 2 * seededRandom(hidden)();
  const power_W = stock.power_W.map((w, i) => (1 - DRIVELINE_LOSS) * (w + share * (solved.power_W[i]! - w)));
  return { rpm: model.rpm, power_W, plenum_Pa: solved.plenum_Pa };
}
