import { z } from 'zod';
import { jobDoc } from './job';
import { predictionDoc } from './prediction';
import { runDoc } from './run';
import { MOST_CHANNELS } from './kinds';
import { sheetEventDoc } from './sheet';
import { stripPassDoc, stripVisitDoc } from './strip';
import { unitDoc } from './unit';

/** What a job's archive says it is, and the newest form of it that this release writes and reads. */
export const PACKAGE_FORMAT = 'vanner job';
export const PACKAGE_VERSION = 1;

const id = z.uuid();
const stamp = z.iso.datetime();
const saved = { version: z.number().int().min(1), savedBy: z.string().max(60), savedAt: stamp };
const hash = z.string().regex(/^[0-9a-f]{64}$/, 'a SHA-256 in hex');
/** Kept as it is: read by the release that wrote it, shown and passed on by every later one. */
const asWritten = z.record(z.string(), z.unknown());

/**
 * A whole job as `job.json` of its archive. SI throughout, names carry their units. Beside it: `logs/<id>.csv` with every
 * sample of a recording, `originals/` and `photos/` with the files as they came, by their SHA-256.
 */
export const packageDoc = z.object({
  format: z.literal(PACKAGE_FORMAT),
  version: z.literal(PACKAGE_VERSION),
  exportedAt: stamp,
  shop: z.string().max(80),
  job: z.object({ id, number: z.number().int(), ...saved, archived: z.boolean(), doc: jobDoc }),
  /** Every throttle the job speaks of. */
  units: z.array(z.object({ id, ...saved, doc: unitDoc })).max(500),
  logs: z
    .array(
      z.object({
        id,
        fileName: z.string().max(255),
        fileHash: hash,
        /** Which table of the file it is; empty: the only one. */
        part: z.string().max(400).default(''),
        rows: z.number().int().min(0),
        columns: z.array(asWritten).max(MOST_CHANNELS),
        report: asWritten,
      }),
    )
    .max(5000),
  runs: z
    .array(
      z.object({
        id,
        logId: id,
        firstRow: z.number().int().min(0),
        lastRow: z.number().int().min(0),
        trashed: z.boolean(),
        ...saved,
        doc: runDoc,
      }),
    )
    .max(20_000),
  visits: z.array(z.object({ id, trashed: z.boolean(), ...saved, doc: stripVisitDoc })).max(1000),
  passes: z.array(z.object({ id, visitId: id, trashed: z.boolean(), ...saved, doc: stripPassDoc })).max(20_000),
  guesses: z
    .array(predictionDoc.safeExtend({ id, madeAt: stamp, measured: z.number().nullable(), measuredAt: stamp.nullable() }))
    .max(5000),
  sheet: z.array(z.object({ event: sheetEventDoc, writtenAt: stamp })).max(20_000),
  /** What the documents above were before. */
  history: z.array(z.object({ kind: z.enum(['job', 'run', 'strip_visit', 'strip_pass']), id, ...saved, doc: asWritten })).max(50_000),
  practice: z
    .array(
      z.object({
        id,
        seed: z.number().int(),
        setup: asWritten,
        truth: asWritten,
        decision: asWritten.nullable(),
        runs: z.array(asWritten),
      }),
    )
    .max(500),
  files: z.array(z.object({ hash, size: z.number().int().min(0), path: z.string().max(400) })).max(20_000),
});
export type PackageDoc = z.infer<typeof packageDoc>;

/** The published schema of `job.json`. */
export const packageJsonSchema = (): object => ({
  title: 'A job of Vanner, as job.json of its archive',
  ...z.toJSONSchema(packageDoc, { io: 'input', unrepresentable: 'any' }),
});
