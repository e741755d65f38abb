import { z } from 'zod';
import { db } from '@/server/db/client';
import { stale } from '@/server/errors';
import { body, route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { askSweep, waveGrid } from '@/server/queue/wave-sweep';

const wanted = z.object({ version: z.number().int().min(1), grid: waveGrid });

/** Has a map of filling computed by a worker, of the job as it is saved in this version. Answers with the piece of work to ask after. */
export const POST = route<{ id: string }>(async (req, { id }) => {
  const { version, grid } = await body(req, wanted);
  const job = await readJob(db(), id);
  if (job.version !== version) throw stale(job);
  const work = await askSweep(db(), job, grid);
  return Response.json({ work }, { status: 202, headers: { location: `/api/work/${work}` } });
});
