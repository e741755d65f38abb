import { z } from 'zod';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { refreshFinding } from '@/server/jobs';
import { listTrash, setTrashed, TRASHABLE } from '@/server/trash';

const wanted = z.object({ kind: z.enum(TRASHABLE), id: z.uuid(), trashed: z.boolean() });

export const GET = route(async () => Response.json(await listTrash(db())));

/** Throws something away or brings it back; answers with what its job then comes to. */
export const POST = route(async (req) => {
  const { kind, id, trashed } = await body(req, wanted);
  const answer = await db()
    .transaction()
    .execute(async (trx) => {
      const job = await setTrashed(trx, kind, id, trashed);
      const findings = job !== null && !(kind === 'job' && trashed) ? await refreshFinding(trx, job) : null;
      return { jobId: job, findings };
    });
  return Response.json(answer);
});
