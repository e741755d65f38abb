import { sheetEventDoc, type SheetEventDoc } from '@/core/documents/sheet';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { writeSheet } from '@/server/sheet';
import { listSheet } from '@/server/sheet-events';
import { sheetWritten } from '@/server/sheet-live';

export const GET = route<{ id: string }>(async (_req, { id }) => {
  await readJob(db(), id);
  return Response.json(await listSheet(db(), id));
});

/** Writes one event down on the run-sheet. */
export const POST = route<{ id: string }>(async (req, { id }) => {
  const event = (await body(req, sheetEventDoc)) as SheetEventDoc;
  const sent = Number(req.headers.get('x-vanner-sent') ?? NaN);
  const events = await db()
    .transaction()
    .execute((trx) => writeSheet(trx, id, event, Date.now(), Number.isFinite(sent) ? sent : null));
  sheetWritten(id);
  return Response.json(events, { status: 201 });
});
