/** Names under which this server may be asked. A foreign name means a page elsewhere is trying to reach it through the browser. */
const LOCAL_HOST = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/i;
const LOOPBACK = new Set(['', '127.0.0.1', 'localhost', '::1']);

/** Whether this server was told to listen beyond its own machine. */
export const listensBeyond = (): boolean => !LOOPBACK.has(process.env['VANNER_LISTEN'] ?? '');

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

function sameOrigin(origin: string, host: string): boolean {
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}

/** Why a request is not answered, or null: a foreign Host or Origin, or a write that another site sent. */
export function foreignRequest(request: { readonly method: string; readonly headers: Headers }): string | null {
  const host = request.headers.get('host') ?? '';
  // Beyond loopback any name may lead here; a page that rebinds one has no session's cookie.
  if (!listensBeyond() && !LOCAL_HOST.test(host)) return 'This Vanner answers only to its own machine.';
  const origin = request.headers.get('origin');
  if (origin !== null && !sameOrigin(origin, host)) return 'Requests from other pages are refused.';
  if (!READS.has(request.method) && request.headers.get('sec-fetch-site') === 'cross-site') return 'Requests from other pages are refused.';
  return null;
}
