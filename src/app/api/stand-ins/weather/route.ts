import { z } from 'zod';
import { db } from '@/server/db/client';
import { weatherStation } from '@/server/devices/strip';
import { query, route, streamed } from '@/server/http';
import { readJob } from '@/server/jobs';

const minute = z.coerce.number().int().min(0).max(1439);
const settings = z.object({
  job: z.uuid(),
  seed: z.coerce
    .number()
    .int()
    .min(0)
    .max(2 ** 20),
  from: minute.default(540),
  to: minute.default(1020),
  every: z.coerce.number().int().min(1).max(120).default(10),
});

/** A day's air from the practice station, as server-sent events: the job's own weather at noon. */
export const GET = route(async (req) => {
  const { job, seed, from, to, every } = query(req, settings);
  const { doc } = await readJob(db(), job);
  return streamed(req, weatherStation, { noon: doc.car.weather, seed, from_min: from, to_min: to, every_min: every });
});
