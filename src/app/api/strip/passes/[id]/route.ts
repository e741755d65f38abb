import { z } from 'zod';
import { withoutBounds } from '@/core/documents/kept';
import { stripPassDoc } from '@/core/documents/strip';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { refreshFinding } from '@/server/jobs';
import { jobOfPass, savePass } from '@/server/strip';
import { setTrashed } from '@/server/trash';

const save = z.object({ version: z.number().int().min(1), doc: withoutBounds(stripPassDoc) });

export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { version, doc } = await body(req, save);
  const saved = await db()
    .transaction()
    .execute(async (trx) => {
      const pass = await savePass(trx, id, version, doc);
      return { pass, findings: await refreshFinding(trx, await jobOfPass(trx, id)) };
    });
  return Response.json(saved);
});

export const DELETE = route<{ id: string }>(async (_req, { id }) => {
  const findings = await db()
    .transaction()
    .execute(async (trx) => refreshFinding(trx, (await setTrashed(trx, 'strip_pass', id, true))!));
  return Response.json({ findings });
});
