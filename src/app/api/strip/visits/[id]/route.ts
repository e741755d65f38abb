import { z } from 'zod';
import { withoutBounds } from '@/core/documents/kept';
import { stripVisitDoc } from '@/core/documents/strip';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { refreshFinding } from '@/server/jobs';
import { saveVisit } from '@/server/strip';
import { setTrashed } from '@/server/trash';

const save = z.object({ version: z.number().int().min(1), doc: withoutBounds(stripVisitDoc) });

export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { version, doc } = await body(req, save);
  const saved = await db()
    .transaction()
    .execute(async (trx) => {
      const visit = await saveVisit(trx, id, version, doc);
      return { visit, findings: await refreshFinding(trx, visit.jobId) };
    });
  return Response.json(saved);
});

export const DELETE = route<{ id: string }>(async (_req, { id }) => {
  const findings = await db()
    .transaction()
    .execute(async (trx) => refreshFinding(trx, (await setTrashed(trx, 'strip_visit', id, true))!));
  return Response.json({ findings });
});
