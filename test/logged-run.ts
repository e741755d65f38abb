import { runDoc, type RunDoc, type StoredRun } from '@/core/documents/run';
import { LOGGER_COLUMNS } from '@/core/stand-ins/logger';

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
