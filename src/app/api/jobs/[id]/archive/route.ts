import { z } from 'zod';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { setArchived } from '@/server/jobs';

export const POST = route<{ id: string }>(async (req, { id }) => {
  const { archived } = await body(req, z.object({ archived: z.boolean() }));
  await db()
    .transaction()
    .execute((trx) => setArchived(trx, id, archived));
  return Response.json({ archived });
});
