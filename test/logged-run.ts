import { runDoc, type RunDoc, type StoredRun } from '@/core/documents/run';
import { LOGGER_COLUMNS, type LoggerCar } from '@/core/stand-ins/logger';

/** A log of the open job as the server keeps it, none of its channels known yet. */
export const loggedRun = (id: string, more: Partial<RunDoc>): StoredRun => ({
  id,
  jobId: 'job-1',
  logId: `log-${id}`,
  firstRow: 0,
  lastRow: 9,
  version: 1,
  fileName: `${id}.csv`,
  fileHash: id,
  columns: LOGGER_COLUMNS.map((c) => ({ name: c.name, unit: c.unit, count: 10 })),
  doc: runDoc.parse({
    schema: 1,
    kind: 'log',
    name: id,
    side: null,
    channels: [],
    measuredAt: 'unknown',
    carried: 'unknown',
    carriedSmoothing_rpm: 0,
    weather: null,
    takenOn: null,
    gear: '',
    fuel: '',
    tune: '',
    otherChanges: '',
    coolantStart_K: null,
    leftOut: null,
    ...more,
  }),
});

const rpm = Array.from({ length: 25 }, (_, i) => 1500 + 225 * i);
/** A car that the stand-in logger can drive: a six whose power peaks at 5,500 rpm. */
export const loggerCar = (more: Pick<LoggerCar, 'idle_rpm' | 'metresPerTurn'>): LoggerCar => ({
  rpm,
  power_W: rpm.map((n) => 20 * n * (1 - ((n - 5500) / 9000) ** 2)),
  massFlow_kgps: rpm.map((n) => 2.7e-5 * n),
  plenum_Pa: rpm.map((n) => 99_000 - 0.3 * n),
  cylinders: 6,
  redline_rpm: 6800,
  air_K: 291,
  air_Pa: 100_400,
  ...more,
});
