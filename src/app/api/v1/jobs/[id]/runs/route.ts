import { z } from 'zod';
import { importNow } from '@/features/test/files/import-stream';
import { sideOf, storedRun, uploadAnswer, uploadQuery } from '@/server/api/operations';
import { answer, apiRoute, query } from '@/server/api/route';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/run';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { storeFile, tooLarge } from '@/server/files/store';
import { readJob } from '@/server/jobs';
import { listRuns } from '@/server/runs';

export const GET = apiRoute<{ id: string }>(false, async (_req, { id }) => {
  await readJob(db(), id);
  return answer(z.array(storedRun), await listRuns(db(), id));
});

/** Takes a file into a job in one request: kept as it is, read in a thread, its runs told. */
export const POST = apiRoute<{ id: string }>(true, async (req, { id }) => {
  const { fileName, side } = query(req, uploadQuery);
  await readJob(db(), id);
  if (Number(req.headers.get('content-length') ?? 0) > UPLOAD_LIMIT_BYTES) throw tooLarge();
  if (!req.body) throw new ServerProblem(422, 'empty_file', 'The file is empty.');
  const body = req.body as ReadableStream<Uint8Array>;
  const { hash } = await db()
    .transaction()
    .execute((trx) => storeFile(trx, body));
  const done = await importNow({ jobId: id, hash, fileName, side: sideOf(side) }, req.signal);
  return answer(uploadAnswer, done, 201);
});
