import { sql } from 'kysely';
import type { SideExtra } from '@/core/compare/extras';
import type { SideComparison } from '@/core/compare/sides';
import type { JobDoc } from '@/core/documents/job';
import { historyLogs, type ShopHistory } from '@/core/inference/shop-history';
import { sidedRuns, type ComparedJob, type JobComparison, type SidedRuns } from '@/core/job/comparison';
import type { RunChannel } from '@/core/runs/dyno-run';
import type { Db, Trx } from './db/client';
import { KnownSums } from './known-sums';
import { dynoChannels, listRuns } from './runs';
import { shopHistory } from './shop-history';
import { workOut } from './work/work-out';

interface ReadSides {
  readonly sides: SidedRuns;
  readonly channels: readonly (readonly RunChannel[])[];
  /** The job without what no comparison asks for. */
  readonly doc: ComparedJob;
}

async function readSides(db: Db | Trx, jobId: string, doc: JobDoc): Promise<ReadSides> {
  const sides = sidedRuns(await listRuns(db, jobId), doc);
  const channels: RunChannel[][] = [];
  for (const run of sides.oneKind.runs) channels.push(await dynoChannels(db, run));
  const { gearbox, engine } = doc.car;
  return { sides, channels, doc: { car: { gearbox, engine: { redline_rpm: engine.redline_rpm } }, test: doc.test } };
}

/** What was logged beside power on both sides of a job's comparison. */
export async function jobExtras(db: Db | Trx, jobId: string, doc: JobDoc, compared: SideComparison): Promise<SideExtra[]> {
  const read = await readSides(db, jobId, doc);
  return workOut('extras', read.sides, read.channels, read.doc, compared);
}

/** Comparisons by everything they hang on: most saves of a job change nothing in its runs. */
const known = new KnownSums<JobComparison>('comparison', 200);

/** By the records' own words, not their versions: one that was rolled back may have had the same version as the next. */
async function keyOf(db: Db | Trx, jobId: string, doc: JobDoc, history: readonly number[] | undefined): Promise<unknown> {
  const { rows } = await sql<{ runs: string | null }>`
    SELECT string_agg(id || md5(doc::text), ',' ORDER BY created_at, id) AS runs FROM run WHERE job_id = ${jobId} AND trashed_at IS NULL`.execute(
    db,
  );
  const { strip: _strip, road: _road, ...test } = doc.test;
  return [jobId, rows[0]?.runs ?? '', test, doc.car.gearbox, doc.car.engine.redline_rpm, doc.pick.chosen, history];
}

/** `shop`: the shop's history without this job, where it is at hand. */
export async function jobComparison(db: Db | Trx, jobId: string, doc: JobDoc, shop?: ShopHistory): Promise<JobComparison> {
  const history = historyLogs(shop ?? (await shopHistory(db, jobId))).dyno;
  const key = await keyOf(db, jobId, doc, history);
  return known.get(db, key, async () => {
    const read = await readSides(db, jobId, doc);
    return () => workOut('comparison', read.sides, read.channels, read.doc, history);
  });
}
