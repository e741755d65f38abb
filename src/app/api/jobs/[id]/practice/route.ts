import { practiceSetup } from '@/core/documents/practice';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { listPractice, startPractice } from '@/server/practice';

export const GET = route<{ id: string }>(async (_req, { id }) => {
  await readJob(db(), id);
  return Response.json(await listPractice(db(), id));
});

export const POST = route<{ id: string }>(async (req, { id }) => {
  const setup = await body(req, practiceSetup);
  const job = await readJob(db(), id);
  return Response.json(await startPractice(db(), id, job.doc, setup), { status: 201 });
});
