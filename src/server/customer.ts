import type { JobDoc } from '@/core/documents/job';
import type { ShopSettings } from '@/core/documents/shop';
import { verdictReport, type VerdictReport } from '@/core/verdict/report';
import type { Db } from './db/client';
import { jobFacts } from './facts';
import { readJob, unitsOf } from './jobs';
import { readShop } from './shop';
import { listUnits } from './units';

/** Everything a customer's page is made of. */
export async function jobReport(db: Db, jobId: string): Promise<{ doc: JobDoc; report: VerdictReport; shop: ShopSettings }> {
  const { doc } = await readJob(db, jobId);
  const facts = await jobFacts(db, jobId, doc);
  const also = facts.unitId === null ? unitsOf(doc) : [...unitsOf(doc), facts.unitId];
  const [units, shop] = await Promise.all([listUnits(db, also), readShop(db)]);
  return { doc, report: verdictReport(doc, units, facts), shop };
}
