// What the operations of the HTTP API take and give, each by its schema.
import { z } from 'zod';
import { LOOKS, WORDS } from '@/core/inference/answer';
import { NEXT_STEPS } from '@/core/inference/next';
import { GROUPS } from '@/core/inference/study';
import { jobDoc } from '@/core/documents/job';
import { runDoc } from '@/core/documents/run';
import { stripPassDoc, stripVisitDoc } from '@/core/documents/strip';
import { unitDoc } from '@/core/documents/unit';
import { CSV_FORMS } from '@/core/export/csv';
import { ENGINE_PRESETS } from '@/core/job/presets';

const id = z.uuid();
export const problemAnswer = z.looseObject({
  error: z.string().describe('What it is, for a program: see the list in this document'),
  message: z.string().describe('What is wrong and how to mend it, for a person'),
});

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
  tags: z.array(z.string()),
});
export const storedUnit = z.object({ id, version: z.number().int(), doc: unitDoc });
const storedColumn = z.looseObject({
  name: z.string(),
  unit: z.string(),
  count: z.number().int(),
  doubt: z.string().nullable().optional().describe('What is not certain about it: see the list in this document'),
  ask: z.boolean().optional().describe('Nobody knows yet what it is in: it counts for nothing until its mapping says'),
  made: z.string().optional().describe('Made by the reader out of other columns, as this says'),
});
export const storedRun = z.object({
  id,
  jobId: id,
  version: z.number().int(),
  fileName: z.string(),
  fileHash: z.string(),
  firstRow: z.number().int(),
  lastRow: z.number().int(),
  columns: z.array(storedColumn),
  doc: runDoc,
});
export const storedVisit = z.object({ id, jobId: id, version: z.number().int(), doc: stripVisitDoc });
export const storedPass = z.object({ id, visitId: id, version: z.number().int(), doc: stripPassDoc });

const pageOf = <T extends z.ZodType>(item: T) =>
  z.object({
    items: z.array(item),
    next: z.string().nullable().describe('Ask for the next page with this as `after`; null: this was the last'),
  });
export const jobPage = pageOf(jobLine);
export const unitPage = pageOf(storedUnit);
export const runPage = pageOf(storedRun);
export const visitPage = pageOf(storedVisit);
export const passPage = pageOf(storedPass);

const series = z.array(z.number());
export const solveRequest = z.strictObject({
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
  otherSide: z.boolean().describe('It is here already on another side than the one it was sent for: change the runs’ side to move it.'),
  runs: z.array(storedRun),
  report: z.looseObject({ rows: z.number().int(), skippedTotal: z.number().int() }),
});
const FORMATS = ['json', 'csv'] as const;
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

const size = z.object({ sd: z.number(), assumed: z.number(), measured: z.boolean() });
const inferred = z.object({
  estimate: z.number().describe('New less stock, %'),
  low: z.number().describe('95 % interval'),
  high: z.number(),
  pGain: z.number(),
  pLoss: z.number(),
  pMatters: z.number().describe('Chance that the difference is as large as matters'),
  word: z.enum(WORDS),
  look: z.enum(LOOKS).describe('When one looks: a plan that was not written down makes every look one after its end'),
  shares: z.record(z.enum(GROUPS), z.number()).describe('What carries the width of the interval, summing to one'),
  widest: z.enum(GROUPS),
  widestIs: z.enum(['measured', 'assumed']),
  sizes: z.object({ run: size, refit: size, day: size }).describe('How far a run, a refit and a day move it, %'),
});
const otherWay = z.object({
  runs: z.array(z.number()),
  word: z.enum(WORDS),
  mean_pct: z.number(),
  low_pct: z.number(),
  high_pct: z.number(),
});
const stretch = z.object({
  id: z.string(),
  from_rpm: z.number(),
  to_rpm: z.number(),
  mean_W: z.number(),
  mean_pct: z.number(),
  answer: inferred,
});
export const comparisonAnswer = z.object({
  unitId: id.nullable(),
  word: z.enum(WORDS),
  threshold_pct: z.number(),
  deciding: stretch,
  thirds: z.array(stretch),
  whole: stretch,
  own: z.array(stretch),
  grid_rpm: series,
  stock_W: series,
  new_W: series,
  difference_pct: series,
  bandLow_pct: series.describe('Simultaneous 95 % band'),
  bandHigh_pct: series,
  runsInStays: z.object({ stock: z.number().int(), new: z.number().int(), visits: z.number().int() }),
  withLeftOut: otherWay.nullable().describe('The answer with the runs that were left out'),
  withoutSuspect: otherWay.nullable().describe('The answer without the run that stands apart most'),
  next: z
    .object({
      word: z.enum(WORDS),
      options: z.array(
        z.object({
          step: z.enum(NEXT_STEPS),
          runs: z.number().int(),
          hours: z.number(),
          money: z.number(),
          pWord: z.number(),
          pNoDifference: z.number(),
          halfWidth: z.number(),
        }),
      ),
      best: z.number().int().nullable(),
      bestChance: z.number().int().nullable(),
    })
    .nullable()
    .describe('What one step more would bring; null while a word stands'),
  clear: z.array(z.object({ from_rpm: z.number(), to_rpm: z.number(), sign: z.number() })),
  runs: z.array(z.object({ id, name: z.string(), side: z.enum(['A', 'B']) })),
  confounders: z.array(z.looseObject({ code: z.string() })),
});

export const pageQuery = z.object({
  limit: z.coerce.number().int().min(1).max(500).default(100).describe('Most items of a page'),
  after: z.string().max(80).optional().describe('The `next` of the page before'),
});
export const jobsQuery = pageQuery.extend({
  name: z.string().max(80).optional().describe('Words that stand in the name'),
  tag: z.string().max(40).optional(),
  archived: z.enum(['true', 'false']).optional(),
});
export const unitsQuery = pageQuery.extend({ name: z.string().max(80).optional().describe('Words that stand in the name') });
export const runsQuery = pageQuery.extend({
  kind: z.enum(['dyno', 'log']).optional(),
  side: z
    .union([z.literal('stock'), id])
    .optional()
    .describe('"stock", or a throttle’s id'),
});

export const newJob = z.union([
  z.strictObject({ doc: jobDoc }),
  z.strictObject({ name: z.string().trim().min(1).max(80), preset: z.enum(Object.keys(ENGINE_PRESETS) as [string, ...string[]]) }),
]);
const withDoc = <T extends z.ZodType>(doc: T) => z.strictObject({ doc });
export const jobBody = withDoc(jobDoc);
export const unitBody = withDoc(unitDoc);
export const runBody = withDoc(runDoc);
export const visitBody = withDoc(stripVisitDoc);
export const passBody = withDoc(stripPassDoc);
export const nothing = z.object({ done: z.literal(true) });
