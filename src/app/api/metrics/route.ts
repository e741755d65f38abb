import { foreignRequest, fromThisMachine } from '@/server/guard';
import { metricsText } from '@/server/watch';

export const dynamic = 'force-dynamic';

/** Measures in the Prometheus text format, for a program on this machine alone. */
export async function GET(req: Request): Promise<Response> {
  if (foreignRequest(req) !== null || !fromThisMachine(req))
    return new Response('Measures are for programs on this machine.', {
      status: 403,
      headers: { 'content-type': 'text/plain; charset=utf-8' },
    });
  const measures = await metricsText();
  // Some processes' counts in place of all of them would read as if they had gone back.
  if (!measures)
    return new Response('A process is beginning: ask again in a moment.', {
      status: 503,
      headers: { 'content-type': 'text/plain; charset=utf-8', 'retry-after': '5', 'cache-control': 'no-store' },
    });
  return new Response(measures.text, { headers: { 'content-type': measures.type, 'cache-control': 'no-store' } });
}
