import { z } from 'zod';
import { withoutBounds } from '@/core/documents/kept';
import { runDoc } from '@/core/documents/run';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { refreshFinding } from '@/server/jobs';
import { removeRun, saveRun, settleAlike } from '@/server/runs';

const save = z.object({ version: z.number().int().min(1), doc: withoutBounds(runDoc) });

export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { version, doc } = await body(req, save);
  const saved = await db()
    .transaction()
    .execute(async (trx) => {
      const run = await saveRun(trx, id, version, doc);
      const alike = await settleAlike(trx, run);
      return { run, alike, findings: await refreshFinding(trx, run.jobId) };
    });
  return Response.json(saved);
});

export const DELETE = route<{ id: string }>(async (_req, { id }) => {
  const findings = await db()
    .transaction()
    .execute(async (trx) => refreshFinding(trx, await removeRun(trx, id)));
  return Response.json({ findings });
});
