import { JobBoard } from '@/features/jobs/board';
import { db } from '@/server/db/client';
import { listJobs } from '@/server/jobs';

export default async function Page() {
  return <JobBoard jobs={await listJobs(db())} />;
}
