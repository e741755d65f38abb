import { z } from 'zod';
import { db } from '@/server/db/client';
import { timingTower, towerCar } from '@/server/devices/strip';
import { query, route, streamed } from '@/server/http';
import { readJob } from '@/server/jobs';

const settings = z.object({
  job: z.uuid(),
  unit: z.uuid().optional(),
  mass: z.coerce.number().min(200).max(5000).optional(),
  seed: z.coerce
    .number()
    .int()
    .min(0)
    .max(2 ** 20),
  pass: z.coerce.number().int().min(0).max(500),
  /** How many times faster than the clock. */
  pace: z.coerce.number().min(1).max(50).default(4),
});

/** One pass of the job's own car past the stand-in tower, as server-sent events. */
export const GET = route(async (req) => {
  const { job, unit, mass, ...wanted } = query(req, settings);
  const { doc } = await readJob(db(), job);
  return streamed(req, timingTower, { ...wanted, car: await towerCar(db(), doc, unit ?? null, mass ?? null) });
});
