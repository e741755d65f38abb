import { z } from 'zod';
import { db } from '@/server/db/client';
import { eventResponse, query, route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { sheetNews } from '@/server/sheet-live';

const settings = z.object({ from: z.coerce.number().int().min(0).default(0) });

/** What is written on a run-sheet from now on, as server-sent events. */
export const GET = route<{ id: string }>(async (req, { id }) => {
  const { from } = query(req, settings);
  await readJob(db(), id);
  return eventResponse(req, (signal) => sheetNews(id, from, signal));
});
