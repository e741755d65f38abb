import { z } from 'zod';
import { CSV_FORMS } from '@/core/export/csv';
import { ANSWERS } from '@/core/compare/answer';
import { jobDoc } from '@/core/documents/job';
import { runDoc } from '@/core/documents/run';
import { unitDoc } from '@/core/documents/unit';
import { uploadQuery } from '../files/upload';

const id = z.uuid();
const problem = z.object({ error: z.string(), message: z.string() });

export const storedJob = z.object({
  id,
  number: z.number().int(),
  version: z.number().int(),
  savedAt: z.string(),
  archived: z.boolean(),
  doc: jobDoc,
});
export const jobLine = z.object({
  id,
  number: z.number().int(),
  name: z.string(),
  version: z.number().int(),
  savedAt: z.string(),
  archived: z.boolean(),
});
export const storedUnit = z.object({ id, version: z.number().int(), doc: unitDoc });
export const storedRun = z.object({
  id,
  jobId: id,
  version: z.number().int(),
  fileName: z.string(),
  fileHash: z.string(),
  firstRow: z.number().int(),
  lastRow: z.number().int(),
  columns: z.array(z.looseObject({ name: z.string(), unit: z.string(), count: z.number().int() })),
  doc: runDoc,
});

const series = z.array(z.number());
export const solveRequest = z.object({
  job: jobDoc.optional().describe('A job to solve as it stands in the request; or name a stored one.'),
  jobId: id.optional(),
  unitIds: z.array(id).max(20).default([]),
});
const side = z.object({ massFlow_kgps: series, plenum_Pa: series, power_W: series, torque_Nm: series });
export const solveAnswer = z.object({
  rpm: series,
  stock: side,
  candidates: z.array(
    z.object({ unitId: id, name: z.string(), failure: z.string().nullable(), solved: side.nullable(), gain_pct: series.nullable() }),
  ),
});

export const uploadAnswer = z.object({
  known: z.boolean().describe('This very file was here already: nothing was added.'),
  runs: z.array(storedRun),
  report: z.looseObject({ rows: z.number().int(), skippedTotal: z.number().int() }),
});
export const FORMATS = ['json', 'csv'] as const;
export const formatQuery = z.object({
  format: z.enum(FORMATS).default('json'),
  form: z
    .enum(CSV_FORMS)
    .default('plain')
    .describe('How CSV is written: plain, for a spreadsheet (marked as UTF-8), or with decimal commas'),
});
export const runAnswer = storedRun.extend({
  channels: z.array(z.object({ name: z.string(), unit: z.string(), quantity: z.string(), values: z.array(z.number().nullable()) })),
});

const estimate = z.object({
  difference: z.number(),
  standardError: z.number(),
  df: z.number(),
  low: z.number(),
  high: z.number(),
  answer: z.enum(ANSWERS),
  method: z.string(),
});
const stretch = z.object({
  id: z.string(),
  from_rpm: z.number(),
  to_rpm: z.number(),
  mean_W: z.number(),
  mean_pct: z.number(),
  estimate: estimate.nullable(),
});
export const comparisonAnswer = z.object({
  unitId: id.nullable(),
  word: z.enum(ANSWERS),
  threshold_pct: z.number(),
  deciding: stretch,
  thirds: z.array(stretch),
  whole: stretch,
  own: z.array(stretch),
  grid_rpm: series,
  stock_W: series,
  new_W: series,
  difference_pct: series,
  bandHalfWidth_pct: z.number().nullable(),
  clear: z.array(z.object({ from_rpm: z.number(), to_rpm: z.number(), sign: z.number() })),
  runs: z.array(z.object({ id, name: z.string(), side: z.enum(['A', 'B']) })),
  confounders: z.array(z.looseObject({ code: z.string() })),
});

export interface Operation {
  readonly id: string;
  readonly method: 'get' | 'post';
  readonly path: string;
  readonly summary: string;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType | 'file';
  readonly answer: z.ZodType;
  readonly status: number;
  /** A table may be asked for instead. */
  readonly csv?: boolean;
  readonly writes: boolean;
}

/** Everything the HTTP API does: the routes take their schemas from here, and so does the document that describes them. */
export const OPERATIONS: readonly Operation[] = [
  {
    id: 'listJobs',
    method: 'get',
    path: '/jobs',
    summary: 'Every job, the last touched first',
    answer: z.array(jobLine),
    status: 200,
    writes: false,
  },
  {
    id: 'readJob',
    method: 'get',
    path: '/jobs/{id}',
    summary: 'One job with its whole document',
    answer: storedJob,
    status: 200,
    writes: false,
  },
  { id: 'listUnits', method: 'get', path: '/units', summary: 'The shelf', answer: z.array(storedUnit), status: 200, writes: false },
  {
    id: 'solve',
    method: 'post',
    path: '/solve',
    summary: 'Stock and units over engine speed, SI. Nothing is stored, so no key is needed',
    body: solveRequest,
    answer: solveAnswer,
    status: 200,
    writes: false,
  },
  {
    id: 'listRuns',
    method: 'get',
    path: '/jobs/{id}/runs',
    summary: 'The runs of a job',
    answer: z.array(storedRun),
    status: 200,
    writes: false,
  },
  {
    id: 'uploadRun',
    method: 'post',
    path: '/jobs/{id}/runs',
    summary: 'Takes a dyno file or a log into a job: the file is the body, as it is',
    query: uploadQuery,
    body: 'file',
    answer: uploadAnswer,
    status: 201,
    writes: true,
  },
  {
    id: 'readRun',
    method: 'get',
    path: '/runs/{id}',
    summary: 'A run with its channels as they stood in the file; as CSV with a row of units',
    query: formatQuery,
    answer: runAnswer,
    status: 200,
    csv: true,
    writes: false,
  },
  {
    id: 'compare',
    method: 'get',
    path: '/jobs/{id}/comparison',
    summary: 'Stock against the new side: curves, intervals, one of the four answers, and what makes it unfair',
    query: formatQuery,
    answer: comparisonAnswer,
    status: 200,
    csv: true,
    writes: false,
  },
];

export { problem as problemAnswer };
