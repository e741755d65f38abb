import { z } from 'zod';
import { BLADE_POSITIONS, VOLTMETER_CASES } from '@/core/stand-ins/voltmeter';
import { voltmeterStandIn } from '@/server/devices/at-the-car';
import { query, route, streamed } from '@/server/http';

const volts = z.coerce.number().min(0).max(5.5);
const settings = z.object({
  closed_V: volts,
  full_V: volts,
  position: z.enum(BLADE_POSITIONS),
  case: z.enum(VOLTMETER_CASES),
  seed: z.coerce.number().int().min(0),
});

/** A position sensor's volts, as server-sent events. */
export const GET = route(async (req) => streamed(req, voltmeterStandIn, query(req, settings)));
