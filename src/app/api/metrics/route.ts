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
  const { text, type } = await metricsText();
  return new Response(text, { headers: { 'content-type': type, 'cache-control': 'no-store' } });
}
