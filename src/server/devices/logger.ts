import { isFailure } from '@/core/failure';
import { DRIVELINE_LOSS } from '@/core/job/refit';
import { gearTable } from '@/core/logs/gear';
import { LOGGER_RATE_Hz, loggerRows, METRES_PER_TURN, type LoggerRow, type LoggerSettings } from '@/core/stand-ins/logger';
import { throttleWideOpen } from '@/core/flow/throttle';
import type { JobDoc } from '@/core/documents/job';
import type { Db, Trx } from '../db/client';
import { paced, type Device } from './device';
import { standInEngine } from './engine';

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
  open: (settings, signal) => paced(together(loggerRows(settings)), LOGGER_RATE_Hz / TOGETHER, signal),
};

/** The plenum of the stock car follows in this time; a larger throttle fills it sooner. */
const FILLING_s = 0.11;

/** The drive of a job's car, stock or with a throttle on. */
export async function loggerDrive(
  db: Db | Trx,
  doc: JobDoc,
  unitId: string | null,
  seed: number,
  hunting_rpm: number,
): Promise<LoggerSettings> {
  const { model, solved, unit } = await standInEngine(db, doc, unitId);
  const area = (throttle: Parameters<typeof throttleWideOpen>[0]): number => {
    const wide = throttleWideOpen(throttle);
    return isFailure(wide) ? 1 : wide.netArea_m2;
  };
  // Third gear: a pull long enough to look at, at speeds a road allows.
  const turn = gearTable(doc.car.gearbox)[2];
  const ratio = area(doc.car.stock.throttle) / area(unit?.doc.throttle ?? doc.car.stock.throttle);
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
