import type { Metadata } from 'next';
import { PracticeDoor } from '@/features/start/practice-door';
import { db } from '@/server/db/client';
import { listJobs } from '@/server/jobs';

export const metadata: Metadata = { title: 'Practice' };

export default async function Page() {
  const jobs = (await listJobs(db())).filter((j) => !j.archived);
  return <PracticeDoor jobs={jobs.map(({ id, number, name }) => ({ id, number, name }))} />;
}
