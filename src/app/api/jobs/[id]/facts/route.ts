import { db } from '@/server/db/client';
import { jobFacts } from '@/server/facts';
import { route } from '@/server/http';
import { readJob } from '@/server/jobs';

/** What the job's runs, passes and logs have shown. */
export const GET = route<{ id: string }>(async (_req, { id }) => {
  const { doc } = await readJob(db(), id);
  return Response.json(await jobFacts(db(), id, doc));
});
