import { z } from 'zod';
import { withoutBounds } from '@/core/documents/kept';
import { jobDoc } from '@/core/documents/job';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readJob, saveJob } from '@/server/jobs';

const save = z.object({ version: z.number().int().min(1), doc: withoutBounds(jobDoc) });

export const GET = route<{ id: string }>(async (_req, { id }) => Response.json(await readJob(db(), id)));

export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { version, doc } = await body(req, save);
  const { job, findings } = await db()
    .transaction()
    .execute((trx) => saveJob(trx, id, version, doc));
  return Response.json({ version: job.version, savedAt: job.savedAt, findings });
});
