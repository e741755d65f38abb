import { z } from 'zod';
import { stripPassDoc } from '@/core/documents/strip';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { refreshFinding } from '@/server/jobs';
import { addPasses, readVisit } from '@/server/strip';

/** A day at a strip does not see more passes than this. */
const several = z
  .array(stripPassDoc.extend({ id: z.uuid().optional() }))
  .min(1)
  .max(200, 'Two hundred passes in one go are plenty.');

export const POST = route<{ id: string }>(async (req, { id }) => {
  const docs = await body(req, several);
  const added = await db()
    .transaction()
    .execute(async (trx) => {
      const { jobId } = await readVisit(trx, id);
      const passes = await addPasses(trx, id, docs);
      return { passes, findings: await refreshFinding(trx, jobId) };
    });
  return Response.json(added, { status: 201 });
});
