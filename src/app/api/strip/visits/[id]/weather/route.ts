import { z } from 'zod';
import { weatherReadingDoc } from '@/core/documents/strip';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { refreshFinding } from '@/server/jobs';
import { addWeather } from '@/server/strip';

const several = z.array(weatherReadingDoc).min(1).max(600, 'Six hundred readings a day are plenty.');

/** Adds readings of the air to a day, whatever else of it was changed meanwhile. */
export const POST = route<{ id: string }>(async (req, { id }) => {
  const readings = await body(req, several);
  const saved = await db()
    .transaction()
    .execute(async (trx) => {
      const visit = await addWeather(trx, id, readings);
      return { visit, findings: await refreshFinding(trx, visit.jobId) };
    });
  return Response.json(saved, { status: 201 });
});
