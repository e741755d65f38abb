import { NextResponse, type NextRequest } from 'next/server';

/** Names under which this server may be asked. A foreign name means a page elsewhere is trying to reach it through the browser. */
const LOCAL_HOST = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/i;
const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

const refused = (text: string): NextResponse =>
  new NextResponse(text, { status: 403, headers: { 'content-type': 'text/plain; charset=utf-8' } });

/** A foreign Host or Origin is refused; what passes gets a content policy with a nonce of its own. */
export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host') ?? '';
  if (!LOCAL_HOST.test(host)) return refused('This Vanner answers only to its own machine.');
  const origin = request.headers.get('origin');
  if (origin !== null && !sameOrigin(origin, host)) return refused('Requests from other pages are refused.');
  if (!READS.has(request.method) && request.headers.get('sec-fetch-site') === 'cross-site')
    return refused('Requests from other pages are refused.');

  const nonce = btoa(crypto.randomUUID());
  const policy = contentPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('x-frame-options', 'DENY');
  response.headers.set('referrer-policy', 'no-referrer');
  response.headers.set('cross-origin-opener-policy', 'same-origin');
  response.headers.set('cross-origin-resource-policy', 'same-origin');
  response.headers.set('permissions-policy', 'camera=(self), microphone=(), geolocation=()');
  return response;
}

function sameOrigin(origin: string, host: string): boolean {
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}

/** Styles are written by the component library and the chart at run time, so inline styles are let through; scripts are not. */
function contentPolicy(nonce: string): string {
  const dev = process.env.NODE_ENV === 'development';
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${dev ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}

export const config = { matcher: ['/((?!_next/static|_next/image|icon.svg).*)'] };
