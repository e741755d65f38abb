/** Names under which this server may be asked. A foreign name means a page elsewhere is trying to reach it through the browser. */
const LOCAL_HOST = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/i;
const LOOPBACK = new Set(['', '127.0.0.1', 'localhost', '::1']);

/** Whether this server was told to listen beyond its own machine. */
export const listensBeyond = (): boolean => !LOOPBACK.has(process.env['VANNER_LISTEN'] ?? '');

/**
 * Whether a request was made on this machine and came straight here: what a door or a proxy hands on carries the address it came
 * from, or says that it was secured there.
 */
export function fromThisMachine(request: { readonly headers: Headers }): boolean {
  if (request.headers.has('forwarded') || request.headers.get('x-forwarded-proto') === 'https') return false;
  const addresses = (request.headers.get('x-forwarded-for') ?? '').split(',').map((a) => a.trim().replace(/^::ffff:/, ''));
  return LOCAL_HOST.test(request.headers.get('host') ?? '') && addresses.every((a) => LOOPBACK.has(a));
}

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
