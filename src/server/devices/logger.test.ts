import { aJob, aUnit, SIX } from '../../../test/units';
import type { StoredUnit } from '@/core/documents/unit';
import { throttleWideOpen } from '@/core/flow/throttle';
import { must } from '@/core/failure';
import { jobModel } from '@/core/job/model';
import type { LoggerRow } from '@/core/stand-ins/logger';
import type { Db } from '../db/client';
import { loggerDrive, loggerStandIn } from './logger';

let onTheShelf: StoredUnit[] = [];
jest.mock('../units', () => ({ listUnits: () => Promise.resolve(onTheShelf) }));
const NO_DB = null as unknown as Db;

const doc = { ...aJob(SIX), car: { ...aJob(SIX).car, gearbox: { ratios: [3.6, 2.1, 1.4, 1, 0.8], final: 3.9, tyre_m: 1.95 } } };

it('drives the job’s own car in third, with what the driveline leaves', async () => {
  const { car, filling_s, hunting_rpm, seed } = await loggerDrive(NO_DB, doc, null, 7, 60);
  expect(car).toMatchObject({
    cylinders: doc.car.engine.cylinders,
    idle_rpm: doc.car.engine.idle_rpm,
    redline_rpm: doc.car.engine.redline_rpm,
    air_K: doc.car.weather.T_K,
    air_Pa: doc.car.weather.p_Pa,
  });
  // One turn of the crank in third: a turn of the wheel over both ratios.
  expect(car.metresPerTurn).toBeCloseTo(1.95 / (1.4 * 3.9), 12);
  expect({ filling_s, hunting_rpm, seed }).toEqual({ filling_s: 0.11, hunting_rpm: 60, seed: 7 });
  // A driveline keeps 15 % of what the crank gives.
  const crank_W = Math.max(...must(jobModel(doc, [])).reference.result.power_W);
  expect(Math.max(...car.power_W) / crank_W).toBeCloseTo(0.85, 12);
  expect(car.massFlow_kgps).toHaveLength(car.rpm.length);
  expect(car.plenum_Pa).toHaveLength(car.rpm.length);
});

it('fills a plenum sooner through a larger throttle, by their areas, and a car without a gearbox still drives', async () => {
  const unit = aUnit(80);
  onTheShelf = [unit];
  const area = (t: Parameters<typeof throttleWideOpen>[0]): number => must(throttleWideOpen(t)).netArea_m2;
  const { filling_s } = await loggerDrive(NO_DB, doc, unit.id, 7, 0);
  expect(filling_s).toBeCloseTo((0.11 * area(doc.car.stock.throttle)) / area(unit.doc.throttle), 12);
  expect(filling_s).toBeLessThan(0.11);
  const bare = await loggerDrive(NO_DB, { ...doc, car: { ...doc.car, gearbox: { ratios: [], final: null, tyre_m: null } } }, null, 7, 0);
  expect(bare.car.metresPerTurn).toBe(0.42);
});

it('sends ten rows at a time, in their order, none left out', async () => {
  jest.useFakeTimers({ doNotFake: ['queueMicrotask'] });
  try {
    const ending = new AbortController();
    const settings = await loggerDrive(NO_DB, doc, null, 3, 0);
    const rows: LoggerRow[] = [];
    const sizes: number[] = [];
    const reading = (async () => {
      for await (const some of loggerStandIn.open(settings, ending.signal)) {
        sizes.push(some.length);
        rows.push(...some);
        if (sizes.length === 5) ending.abort();
      }
    })();
    await jest.advanceTimersByTimeAsync(2000);
    await reading;
    expect(sizes).toEqual([10, 10, 10, 10, 10]);
    expect(rows.map((r) => Math.round(r[0]! * 100))).toEqual(Array.from({ length: 50 }, (_, i) => i));
  } finally {
    jest.useRealTimers();
  }
});
