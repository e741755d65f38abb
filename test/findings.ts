import { jobComparison } from '@/server/comparison';
import type { Db } from '@/server/db/client';
import { loadDemo } from '@/server/demo/load';
import { jobFinding, listJobs, readJob } from '@/server/jobs';
import { freshDatabase } from './database';

/** A database with the demo in it, and the ids of its jobs by their names. */
export async function demoDatabase() {
  const fresh = await freshDatabase();
  await fresh.db.transaction().execute((trx) => loadDemo(trx));
  const jobs = await listJobs(fresh.db);
  return { ...fresh, idOf: (name: string): string => jobs.find((j) => j.name === name)!.id };
}

/** What findings say of a job's test. */
export function testOf(findings: Awaited<ReturnType<typeof jobFinding>>) {
  const found = findings.stops.find((s) => s.stop === 'test');
  if (found?.stop !== 'test') throw new Error('no finding of the test');
  return found;
}

/** What a page of the job works out of its runs, %. */
export const pageSays = async (db: Db, id: string): Promise<number> =>
  (await jobComparison(db, id, (await readJob(db, id)).doc)).compared!.deciding.mean_pct;
