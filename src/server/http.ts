import type { z } from 'zod';
import { issuesOf } from '@/core/documents/issue';
import { eventStream, type Device } from './devices/device';
import { invalid, problemOf, ServerProblem } from './errors';
import { noteProblem, routeOf, watched } from './watch';
import { asPerson, personOf } from './who';

/** Largest JSON body of a document, bytes. */
const JSON_LIMIT_BYTES = 2 * 1024 * 1024;

/** Next gives no parameters at all to a route whose address has none. */
type Context<P> = { params: Promise<P | undefined> };

/** Wraps a route: whatever goes wrong comes out as one kind of JSON answer with the right status. */
export function route<P = Record<string, never>>(handler: (request: Request, params: P) => Promise<Response>) {
  return async (request: Request, context: Context<P>): Promise<Response> => {
    const params = (await context.params) ?? ({} as P);
    const answer = async (): Promise<Response> => {
      try {
        return await asPerson(personOf(request), () => handler(request, params));
      } catch (error) {
        return problemResponse(error);
      }
    };
    const where = routeOf(new URL(request.url).pathname, params as Record<string, string>);
    return guarded(await watched(request, where, answer));
  };
}

/** What every answer says, unless it says otherwise itself: nobody keeps it on the way, and nothing in it is taken for a page. */
function guarded(response: Response): Response {
  if (!response.headers.has('cache-control')) response.headers.set('cache-control', 'private, no-store');
  if (!response.headers.has('x-content-type-options')) response.headers.set('x-content-type-options', 'nosniff');
  return response;
}

export function problemResponse(error: unknown): Response {
  const problem = problemOf(error);
  noteProblem(problem.code);
  const wait = problem.data['retryAfter_s'] ?? (problem.status === 503 ? 5 : null);
  return Response.json(
    { error: problem.code, message: problem.message, ...problem.data },
    { status: problem.status, headers: wait === null ? {} : { 'retry-after': String(wait as number) } },
  );
}

/** The body of a request as one schema's document; says which field is wrong and why. */
export async function body<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const text = await request.text();
  if (text.length > JSON_LIMIT_BYTES) throw new ServerProblem(413, 'too_large', 'This document is larger than 2 MB.');
  return documentOf(text, schema);
}

/** A NUL, or half of a letter: no text that can be kept, shown or searched. */
const isUnstorable = (text: string): boolean => text.includes('\0') || /\p{Surrogate}/u.test(text);

const unstorable = (): ServerProblem =>
  new ServerProblem(422, 'unstorable_text', 'A text holds a NUL or half a letter, which cannot be kept. Type it again without it.');

/** Whether any text in a document cannot be kept. Looked for only where the JSON holds such a mark at all. */
function hasUnstorable(json: string, value: unknown): boolean {
  if (!/\\u(0000|[dD][89a-fA-F])|\0/.test(json) && !/\p{Surrogate}/u.test(json)) return false;
  const bad = (v: unknown): boolean =>
    typeof v === 'string'
      ? isUnstorable(v)
      : typeof v === 'object' && v !== null && Object.entries(v).some(([key, inner]) => isUnstorable(key) || bad(inner));
  return bad(value);
}

/** A text as one schema's document; says which field is wrong and why. */
export function documentOf<T>(text: string, schema: z.ZodType<T>): T {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new ServerProblem(400, 'not_json', 'The request body is not JSON.');
  }
  if (hasUnstorable(text, raw)) throw unstorable();
  const parsed = schema.safeParse(raw);
  if (parsed.success) return parsed.data;
  throw invalid(issuesOf(parsed.error, raw), 'document');
}

/** What stands behind the question mark of an address, as one schema's document. */
export function query<T>(request: Request, schema: z.ZodType<T>): T {
  const said = [...new URL(request.url).searchParams];
  if (said.some(([key, value]) => isUnstorable(key) || isUnstorable(value))) throw unstorable();
  const given = Object.fromEntries(said);
  const parsed = schema.safeParse(given);
  if (parsed.success) return parsed.data;
  throw invalid(issuesOf(parsed.error, given), 'query');
}

/** Sends what is made, one message each, as it comes, until it is done or the reader goes away. */
export function eventResponse<R>(request: Request, open: (signal: AbortSignal) => AsyncIterable<R>): Response {
  const ending = new AbortController();
  request.signal.addEventListener('abort', () => ending.abort());
  return new Response(eventStream(open(ending.signal), ending), {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
  });
}

/** Sends a device's readings as they come, until it is done or the reader goes away. */
export const streamed = <S, R>(request: Request, device: Device<S, R>, settings: S): Response =>
  eventResponse(request, (signal) => device.open(settings, signal));
