import { NextResponse, type NextRequest } from 'next/server';
import type { ServerProblem } from '@/server/errors';
import { refusal, renewal } from '@/server/access';

/** A person at a page is shown the way in; a program is told what is missing. */
function refused(request: NextRequest, problem: ServerProblem): NextResponse {
  const { pathname, search } = request.nextUrl;
  if (problem.code === 'sign_in' && !pathname.startsWith('/api/') && request.method === 'GET') {
    const to = new URL('/sign-in', request.nextUrl);
    if (pathname !== '/') to.searchParams.set('to', `${pathname}${search}`);
    return NextResponse.redirect(to, 303);
  }
  if (pathname.startsWith('/api/') && problem.status !== 403)
    return NextResponse.json({ error: problem.code, message: problem.message }, { status: problem.status });
  return new NextResponse(problem.message, { status: problem.status, headers: { 'content-type': 'text/plain; charset=utf-8' } });
}

/** A foreign or unknown caller is refused; what passes gets a content policy with a nonce of its own. */
export async function proxy(request: NextRequest): Promise<NextResponse> {
  const problem = await refusal(request);
  if (problem) return refused(request, problem);

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
  const renewed = await renewal(request);
  if (renewed !== null) response.headers.append('set-cookie', renewed);
  return response;
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

/** Uploads and the API go past the proxy, which would hold their bodies in memory: their routes ask the guard themselves. */
export const config = { matcher: ['/((?!_next/static|_next/image|icon.svg|api/files|api/imports|api/packages|api/v1/).*)'] };
