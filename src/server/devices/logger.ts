import { isFailure } from '@/core/failure';
import { DRIVELINE_LOSS } from '@/core/job/refit';
import { jobModel } from '@/core/job/model';
import { gearTable } from '@/core/logs/gear';
import { LOGGER_RATE_Hz, loggerRows, METRES_PER_TURN, type LoggerRow, type LoggerSettings } from '@/core/stand-ins/logger';
import { throttleWideOpen } from '@/core/flow/throttle';
import type { JobDoc } from '@/core/documents/job';
import type { Db, Trx } from '../db/client';
import { ServerProblem } from '../errors';
import { listUnits } from '../units';
import { paced, type Device } from './device';

/** Rows sent together: a hundred messages a second would say no more. */
const TOGETHER = 10;

function* together(rows: Iterable<LoggerRow>): Generator<LoggerRow[]> {
  let held: LoggerRow[] = [];
  for (const row of rows) {
    held.push(row);
    if (held.length < TOGETHER) continue;
    yield held;
    held = [];
  }
  if (held.length > 0) yield held;
}

/** The logger stand-in: a hundred rows a second, ten at a time. */
export const loggerStandIn: Device<LoggerSettings, LoggerRow[]> = {
  name: 'logger',
  standIn: true,
  open: (settings, stop) => paced(together(loggerRows(settings)), LOGGER_RATE_Hz / TOGETHER, stop),
};

/** The plenum of the stock car follows in this time; a larger throttle fills it sooner. */
const FILLING_s = 0.11;

/** The drive of a job's car, stock or with a unit on. */
export async function loggerDrive(
  db: Db | Trx,
  doc: JobDoc,
  unitId: string | null,
  seed: number,
  hunting_rpm: number,
): Promise<LoggerSettings> {
  const units = unitId === null ? [] : (await listUnits(db, [unitId])).filter((u) => u.id === unitId);
  if (unitId !== null && units.length === 0) throw new ServerProblem(404, 'not_found', 'This unit is not on the shelf (any more).');
  const model = jobModel(
    doc,
    units.map((unit) => ({ unit, opening: doc.pick.opening })),
  );
  if (isFailure(model))
    throw new ServerProblem(422, model.error, 'This car cannot be solved yet: the stand-in has no engine to drive. See the Air stop.');
  const solved = model.candidates[0]?.solved ?? model.reference.result;
  if (isFailure(solved)) throw new ServerProblem(422, solved.error, 'With this unit the engine cannot be solved.');
  const area = (throttle: Parameters<typeof throttleWideOpen>[0]): number => {
    const wide = throttleWideOpen(throttle);
    return isFailure(wide) ? 1 : wide.netArea_m2;
  };
  // Third gear: a pull long enough to look at, at speeds a road allows.
  const turn = gearTable(doc.car.gearbox)[2];
  const ratio = area(doc.car.stock.throttle) / area(units[0]?.doc.throttle ?? doc.car.stock.throttle);
  return {
    car: {
      rpm: model.rpm,
      power_W: solved.power_W.map((w) => (1 - DRIVELINE_LOSS) * w),
      massFlow_kgps: solved.massFlow_kgps,
      plenum_Pa: solved.plenum_Pa,
      cylinders: doc.car.engine.cylinders,
      idle_rpm: doc.car.engine.idle_rpm,
      redline_rpm: doc.car.engine.redline_rpm,
      air_K: doc.car.weather.T_K,
      air_Pa: doc.car.weather.p_Pa,
      metresPerTurn: turn === undefined ? METRES_PER_TURN : 1 / turn,
    },
    seed,
    filling_s: FILLING_s * ratio,
    hunting_rpm,
  };
}
