import { z } from 'zod';
import { withoutBounds } from '@/core/documents/kept';
import { testedPartDoc } from '@/core/documents/unit';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { savePart } from '@/server/parts';

const save = z.object({ version: z.number().int().min(1), doc: withoutBounds(testedPartDoc) });

export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { version, doc } = await body(req, save);
  const saved = await db()
    .transaction()
    .execute((trx) => savePart(trx, id, version, doc));
  return Response.json(saved);
});
