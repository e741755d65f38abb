import { z } from 'zod';
import { UNIT_PACKS } from '@/core/units/measures';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { listLinks, makeLink } from '@/server/share';

const wanted = z.object({ days: z.number().int().min(1).max(365, 'A link opens for a year at most.'), pack: z.enum(UNIT_PACKS) });

export const GET = route<{ id: string }>(async (_req, { id }) => {
  await readJob(db(), id);
  return Response.json(await listLinks(db(), id));
});

export const POST = route<{ id: string }>(async (req, { id }) => {
  const { days, pack } = await body(req, wanted);
  await readJob(db(), id);
  return Response.json(await makeLink(db(), id, days, pack), { status: 201 });
});
