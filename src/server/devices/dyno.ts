import { DYNO_RATE_Hz, dynoReadings, type DynoCurve, type DynoReading, type DynoSettings } from '@/core/stand-ins/dyno';
import { DRIVELINE_LOSS } from '@/core/job/refit';
import { seededRandom } from '@/core/numbers/random';
import type { JobDoc } from '@/core/documents/job';
import type { Db, Trx } from '../db/client';
import { paced, type Device } from './device';
import { standInEngine } from './engine';

/** The dyno stand-in, at the pace of a real one. */
export const dynoStandIn: Device<DynoSettings, DynoReading> = {
  name: 'dyno',
  standIn: true,
  open: (settings, signal) => paced(dynoReadings(settings), DYNO_RATE_Hz, signal),
};

export interface EngineAtWheels extends DynoCurve {
  readonly plenum_Pa: readonly number[];
}

/** The job's engine at the wheels, stock or with a throttle on; `hidden` bends the throttle's effect by a seeded share of the model's. */
export async function engineAtWheels(db: Db | Trx, doc: JobDoc, unitId: string | null, hidden: number | null): Promise<EngineAtWheels> {
  const { model, stock, solved } = await standInEngine(db, doc, unitId);
  const share = hidden === null ? 1 : -0.5 + 2 * seededRandom(hidden)();
  const power_W = stock.power_W.map((w, i) => (1 - DRIVELINE_LOSS) * (w + share * (solved.power_W[i]! - w)));
  return { rpm: model.rpm, power_W, plenum_Pa: solved.plenum_Pa };
}
