import { z } from 'zod';
import { TACHOMETER_CASES } from '@/core/stand-ins/tachometer';
import { tachometerStandIn } from '@/server/devices/at-the-car';
import { query, route, streamed } from '@/server/http';

const settings = z
  .object({
    low: z.coerce.number().min(100).max(4000),
    high: z.coerce.number().min(150).max(5000),
    case: z.enum(TACHOMETER_CASES),
    seed: z.coerce.number().int().min(0),
  })
  .refine((s) => s.high > s.low, { path: ['high'], message: 'The band’s upper end is above its lower one.' });

/** An idling engine's readings, as server-sent events. */
export const GET = route(async (req) => {
  const { low, high, ...rest } = query(req, settings);
  return streamed(req, tachometerStandIn, { band_rpm: [low, high], ...rest });
});
