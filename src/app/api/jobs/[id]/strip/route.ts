import { z } from 'zod';
import { stripVisitDoc } from '@/core/documents/strip';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { addVisit, readBook } from '@/server/strip';

export const GET = route<{ id: string }>(async (_req, { id }) => {
  await readJob(db(), id);
  return Response.json(await readBook(db(), id));
});

export const POST = route<{ id: string }>(async (req, { id }) => {
  const { id: visitId, ...doc } = await body(req, stripVisitDoc.extend({ id: z.uuid().optional() }));
  const visit = await db()
    .transaction()
    .execute(async (trx) => {
      await readJob(trx, id);
      return addVisit(trx, id, doc, visitId);
    });
  return Response.json(visit, { status: 201 });
});
