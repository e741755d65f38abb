import { z } from 'zod';
import { db } from '@/server/db/client';
import { dynoStandIn } from '@/server/devices/dyno';
import { body, query, route, streamed } from '@/server/http';
import { keepPull, leavePullOut, pullSettings, pullWanted } from '@/server/practice';

const asQuery = z.object({
  side: pullWanted.shape.side,
  rest_min: z.coerce.number().min(0).max(600),
  newStay: z.stringbool().default(false),
  day: z.coerce.number().int().min(1).max(5).default(1),
});
const leave = z.object({ seq: z.number().int().min(0), leftOut: z.string().trim().min(1).max(200).nullable() });

/** The next pull, live: fifty readings a second. */
export const GET = route<{ id: string }>(async (req, { id }) =>
  streamed(req, dynoStandIn, await pullSettings(db(), id, query(req, asQuery))),
);

/** Keeps the pull, or the pass, that has been made. */
export const POST = route<{ id: string }>(async (req, { id }) => {
  const wanted = await body(req, pullWanted);
  const kept = await db()
    .transaction()
    .execute((trx) => keepPull(trx, id, wanted));
  return Response.json(kept, { status: 201 });
});

/** Leaves a pull out, or counts it again. */
export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { seq, leftOut } = await body(req, leave);
  return Response.json(
    await db()
      .transaction()
      .execute((trx) => leavePullOut(trx, id, seq, leftOut)),
  );
});
