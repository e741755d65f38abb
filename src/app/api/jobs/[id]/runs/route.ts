import { z } from 'zod';
import { runSide } from '@/core/documents/run';
import { importStream } from '@/features/test/files/import-stream';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readJob } from '@/server/jobs';

const request = z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/), fileName: z.string().min(1).max(255), side: runSide.nullable() });

/** Reads a stored file into the job. Answers with a line of JSON per step; ending the request cancels it. */
export const POST = route<{ id: string }>(async (req, { id }) => {
  const wanted = await body(req, request);
  await readJob(db(), id);
  return new Response(importStream({ jobId: id, ...wanted }, req.signal), {
    headers: { 'content-type': 'application/x-ndjson; charset=utf-8', 'cache-control': 'no-store' },
  });
});
