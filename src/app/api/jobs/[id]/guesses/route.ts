import { z } from 'zod';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { listPredictions, scorePredictions } from '@/server/predictions';

const score = z.object({ measured: z.number().min(-100).max(200) });

/** What people and the model said this job's runs would show, the newest first. */
export const GET = route<{ id: string }>(async (_req, { id }) => {
  await readJob(db(), id);
  return Response.json(await listPredictions(db(), 'dyno', id));
});

/** Writes what was measured beside every guess that has no reading yet. */
export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { measured } = await body(req, score);
  await readJob(db(), id);
  return Response.json(
    await db()
      .transaction()
      .execute((trx) => scorePredictions(trx, 'dyno', id, measured)),
  );
});
