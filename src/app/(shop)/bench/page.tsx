import type { Metadata } from 'next';
import { BenchRoom } from '@/features/bench/bench-room';
import { db } from '@/server/db/client';
import { listOpenJobs } from '@/server/jobs';
import { listParts } from '@/server/parts';
import { listPredictions } from '@/server/predictions';
import { listUnits } from '@/server/units';

export const metadata: Metadata = { title: 'Bench' };

export default async function Page() {
  const [units, parts, ledger, jobs] = await Promise.all([
    listUnits(db()),
    listParts(db()),
    listPredictions(db(), 'bench'),
    listOpenJobs(db()),
  ]);
  return <BenchRoom units={units} parts={parts} ledger={ledger} jobs={jobs} />;
}
