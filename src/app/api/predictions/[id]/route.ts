import { z } from 'zod';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { measurePrediction } from '@/server/predictions';

const reading = z.object({ measured: z.number() });

/** Writes the reading beside the guess, once. */
export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { measured } = await body(req, reading);
  const done = await db()
    .transaction()
    .execute((trx) => measurePrediction(trx, id, measured));
  return Response.json(done);
});
