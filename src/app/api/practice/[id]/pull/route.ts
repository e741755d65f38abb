import { z } from 'zod';
import { PRACTICE_SIDES } from '@/core/documents/practice';
import { db } from '@/server/db/client';
import { dynoStandIn } from '@/server/devices/dyno';
import { body, query, route, streamed } from '@/server/http';
import { keepPull, leavePullOut, pullSettings } from '@/server/practice';

const rest_min = z.coerce.number().min(0).max(600);
const pull = z.object({ side: z.enum(PRACTICE_SIDES), rest_min });
const leave = z.object({ seq: z.number().int().min(0), leftOut: z.string().trim().min(1).max(200).nullable() });

/** The next pull, live: fifty readings a second. */
export const GET = route<{ id: string }>(async (req, { id }) => {
  const { side, rest_min: rest } = query(req, pull);
  return streamed(req, dynoStandIn, await pullSettings(db(), id, side, rest));
});

/** Keeps the pull that has been made. */
export const POST = route<{ id: string }>(async (req, { id }) => {
  const wanted = await body(req, pull);
  const kept = await db()
    .transaction()
    .execute((trx) => keepPull(trx, id, wanted.side, wanted.rest_min));
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
