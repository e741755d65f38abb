import { z } from 'zod';
import { throttleDoc } from '@/core/documents/throttle';
import { readingStream } from '@/server/devices/device';
import { flowBenchStandIn } from '@/server/devices/flow-bench';
import { body, route } from '@/server/http';

const settings = z.object({
  throttle: throttleDoc,
  depression_Pa: z.number().min(500).max(20_000),
  entryK: z.number().min(0).max(1),
  seed: z.number().int().min(0),
});

/** Opens the stand-in and streams its readings, a line each, until it is done or the reader goes away. */
export const POST = route(async (req) => {
  const wanted = await body(req, settings);
  const ending = new AbortController();
  req.signal.addEventListener('abort', () => ending.abort());
  return new Response(readingStream(flowBenchStandIn.open(wanted, ending.signal), ending), {
    headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  });
});
