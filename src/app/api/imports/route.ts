import { admit } from '@/server/access';
import { z } from 'zod';
import { importStream } from '@/server/import-upload';
import { db } from '@/server/db/client';
import { uploadOf, uploadQuery } from '@/server/files/upload';
import { query, route } from '@/server/http';
import { readJob } from '@/server/jobs';

const wanted = uploadQuery.extend({ job: z.uuid() });

/** Takes a file into a job: the file is the body. Answers with a line of JSON per step; ending the request cancels it. */
export const POST = route(async (req) => {
  await admit(req);
  const { job, ...named } = query(req, wanted);
  await readJob(db(), job);
  return new Response(importStream(uploadOf(req, job, named), req.signal), {
    headers: { 'content-type': 'application/x-ndjson; charset=utf-8', 'cache-control': 'no-store' },
  });
});
