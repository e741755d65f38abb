import { JobBoard } from '@/features/jobs/board';
import { db } from '@/server/db/client';
import { countJobs, listJobs } from '@/server/jobs';

/** What one looks over at a glance; the rest is searched for, or asked for. */
const FIRST = 40;

export default async function Page({ searchParams }: { searchParams: Promise<{ show?: string }> }) {
  const { show } = await searchParams;
  const [jobs, counts] = await Promise.all([listJobs(db(), show === 'all' ? undefined : FIRST), countJobs(db())]);
  return <JobBoard jobs={jobs} counts={counts} />;
}
