import { z } from 'zod';
import { db } from '@/server/db/client';
import { dynoStandIn, engineAtWheels } from '@/server/devices/dyno';
import { query, route, streamed } from '@/server/http';
import { readJob } from '@/server/jobs';

const settings = z.object({
  job: z.uuid(),
  unit: z.uuid().optional(),
  seed: z.coerce
    .number()
    .int()
    .min(0)
    .max(2 ** 31),
  /** Minutes rested before each pull of the session, this one last, with commas between. */
  rests: z
    .string()
    .regex(/^\d+(\.\d+)?(,\d+(\.\d+)?)*$/, 'minutes with commas between')
    .transform((text) => text.split(',').map(Number)),
  rate: z.coerce.number().min(100).max(4000).optional(),
  /** 1: the throttle's true effect is not the model's. */
  hidden: z.enum(['0', '1']).default('0'),
});

/** One pull of the job's own engine on the stand-in, as server-sent events. */
export const GET = route(async (req) => {
  const wanted = query(req, settings);
  const { doc } = await readJob(db(), wanted.job);
  const { plenum_Pa, ...curve } = await engineAtWheels(db(), doc, wanted.unit ?? null, wanted.hidden === '1' ? wanted.seed : null);
  return streamed(req, dynoStandIn, {
    curve,
    plenum_Pa,
    seed: wanted.seed,
    rests_min: wanted.rests,
    air_K: doc.car.weather.T_K,
    rate_rpmps: wanted.rate,
  });
});
