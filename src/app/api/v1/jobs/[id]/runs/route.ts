import { z } from 'zod';
import { importNow } from '@/features/test/files/import-upload';
import { storedRun, uploadAnswer } from '@/server/api/operations';
import { answer, apiRoute, query } from '@/server/api/route';
import { db } from '@/server/db/client';
import { uploadOf, uploadQuery } from '@/server/files/upload';
import { readJob } from '@/server/jobs';
import { listRuns } from '@/server/runs';

export const GET = apiRoute<{ id: string }>(false, async (_req, { id }) => {
  await readJob(db(), id);
  return answer(z.array(storedRun), await listRuns(db(), id));
});

/** Takes a file into a job in one request: kept as it is, read in a thread, its runs told. */
export const POST = apiRoute<{ id: string }>(true, async (req, { id }) => {
  const named = query(req, uploadQuery);
  await readJob(db(), id);
  return answer(uploadAnswer, await importNow(uploadOf(req, id, named), req.signal), 201);
});
