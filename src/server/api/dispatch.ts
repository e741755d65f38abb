import { RateLimiterCluster, RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import type { z } from 'zod';
import { issuesOf } from '@/core/documents/issue';
import { refusal } from '../access';
import { checkKey, type Opened } from '../api-keys';
import { db } from '../db/client';
import { readKept, withoutBounds } from '@/core/documents/kept';
import { invalid, ServerProblem } from '../errors';
import { documentOf, problemResponse } from '../http';
import { isUuid } from '../ids';
import { asPerson, personOf } from '../who';
import { hasSiblings } from '../siblings';
import { log, watched } from '../watch';
import { handlersWith, jobBehind, type Handler, type TakeIn } from './handlers';
import { once } from './idempotent';
import { OPERATIONS, type Method, type Operation } from './operations';

/** Largest JSON body, bytes, packed or not. */
const JSON_LIMIT_BYTES = 2 * 1024 * 1024;
/** Requests a minute of one key, or of one address without a key. */
const REQUESTS_A_MINUTE = 1200;

const RATE = { points: REQUESTS_A_MINUTE, duration: 60 };
const holder = globalThis as { vannerApiLimiter?: RateLimiterMemory | RateLimiterCluster };
/** Counted for the address as a whole, however many processes answer there. */
const limiter = (): RateLimiterMemory | RateLimiterCluster =>
  (holder.vannerApiLimiter ??= hasSiblings()
    ? new RateLimiterCluster({ ...RATE, keyPrefix: 'api', timeoutMs: 3000 })
    : new RateLimiterMemory(RATE));

interface Found {
  readonly operations: readonly Operation[];
  readonly id: string;
}

function operationsAt(segments: readonly string[]): readonly Operation[] {
  return OPERATIONS.filter((op) => {
    const parts = op.path.slice(1).split('/');
    return parts.length === segments.length && parts.every((p, i) => (p === '{id}' ? isUuid(segments[i]!) : p === segments[i]));
  });
}

/** The operations on a path, whatever the method, and the id in it. */
function found(segments: readonly string[]): Found {
  const operations = operationsAt(segments);
  if (operations.length === 0)
    throw new ServerProblem(
      404,
      'not_found',
      'There is no such path in this API. /api/v1/openapi.json lists those there are; an id is a UUID.',
    );
  const at = operations[0]!.path.slice(1).split('/').indexOf('{id}');
  return { operations, id: at < 0 ? '' : segments[at]! };
}

function operationOf({ operations }: Found, method: string): Operation {
  const wanted = method === 'HEAD' ? 'get' : method.toLowerCase();
  const operation = operations.find((o) => o.method === (wanted as Method));
  if (operation) return operation;
  const allow = [...new Set(operations.map((o) => o.method.toUpperCase()))].join(', ');
  throw new ServerProblem(405, 'method_not_allowed', `This path knows ${allow}, not ${method}.`, { allow });
}

/** The format asked for by Accept where the query does not name one; refused where none of ours is accepted. */
function accepted(request: Request, operation: Operation): 'json' | 'csv' {
  const accept = request.headers.get('accept');
  if (accept === null || accept.trim() === '') return 'json';
  const types = accept.split(',').map((t) => t.split(';')[0]!.trim().toLowerCase());
  const ours =
    operation.answer === 'archive' ? 'application/zip' : operation.answer === 'lines' ? 'application/x-ndjson' : 'application/json';
  if (types.some((t) => t === '*/*' || t === 'application/*' || t === ours)) return 'json';
  if (operation.csv && types.some((t) => t === 'text/csv' || t === 'text/*')) return 'csv';
  throw new ServerProblem(406, 'not_acceptable', `This answer comes as ${ours}${operation.csv ? ' or text/csv' : ''}.`);
}

function queryOf(request: Request, operation: Operation, format: 'json' | 'csv'): Record<string, unknown> {
  const given = Object.fromEntries(new URL(request.url).searchParams);
  const known = Object.keys(operation.query?.shape ?? {});
  const strange = Object.keys(given).filter((k) => !known.includes(k));
  if (strange.length > 0)
    throw new ServerProblem(
      422,
      'unknown_parameter',
      `This operation knows no parameter ${strange.map((s) => `“${s.slice(0, 40)}”`).join(', ')}${known.length > 0 ? `; it knows ${known.join(', ')}` : ''}.`,
    );
  if (!operation.query) return {};
  const asked = format === 'csv' && given['format'] === undefined ? { ...given, format } : given;
  const parsed = operation.query.safeParse(asked);
  if (parsed.success) return parsed.data;
  throw invalid(issuesOf(parsed.error, asked), 'query');
}

const tooLarge = (): ServerProblem => new ServerProblem(413, 'too_large', 'This document is larger than 2 MB.');

/** The body as it was before it was packed. */
function unpacked(request: Request): Request {
  const encoding = request.headers.get('content-encoding')?.toLowerCase() ?? 'identity';
  if (encoding === 'identity' || !request.body) return request;
  if (encoding !== 'gzip') throw new ServerProblem(415, 'unsupported_type', `A body packed as ${encoding} is not taken; gzip is.`);
  const headers = new Headers(request.headers);
  headers.delete('content-encoding');
  headers.delete('content-length');
  const stream = request.body.pipeThrough(
    new DecompressionStream('gzip') as unknown as ReadableWritablePair<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>>,
  );
  return new Request(request.url, { method: request.method, headers, body: stream, signal: request.signal, duplex: 'half' } as RequestInit);
}

async function textOf(request: Request): Promise<string> {
  if (Number(request.headers.get('content-length') ?? 0) > JSON_LIMIT_BYTES) throw tooLarge();
  if (!request.body) return '';
  const decoder = new TextDecoder();
  let text = '';
  let size = 0;
  try {
    for await (const piece of request.body as unknown as AsyncIterable<Uint8Array>) {
      size += piece.byteLength;
      if (size > JSON_LIMIT_BYTES) throw tooLarge();
      text += decoder.decode(piece, { stream: true });
    }
  } catch (error) {
    if (error instanceof ServerProblem) throw error;
    throw new ServerProblem(400, 'not_json', 'The body is packed wrongly or was cut off.');
  }
  return text + decoder.decode();
}

function checkType(request: Request, operation: Operation): void {
  if (!operation.body) return;
  const type = (request.headers.get('content-type') ?? '').split(';')[0]!.trim().toLowerCase();
  if (operation.body === 'file') {
    if (type.startsWith('multipart/'))
      throw new ServerProblem(
        415,
        'unsupported_type',
        'The file itself is the body, as it is: no form around it. Its name goes into fileName.',
      );
    return;
  }
  if (type !== 'application/json' && !type.endsWith('+json'))
    throw new ServerProblem(415, 'unsupported_type', `The body has to be application/json, not ${type || 'without a type'}.`);
}

/** What the caller may do: by its key, or as anybody at this machine. */
async function admitted(request: Request, operation: Operation, path: string, id: string): Promise<Opened | null> {
  const problem = await refusal(request);
  // A key opens what a session would; without a passphrase reading needs neither.
  const keyed = problem?.code === 'sign_in' && request.headers.has('authorization');
  if (problem && !keyed) throw problem;
  const opened = operation.writes || keyed || request.headers.has('authorization') ? await checkKey(db(), request) : null;
  if (!opened) return null;
  const weak = (why: string): ServerProblem => new ServerProblem(403, 'key_too_weak', why);
  if (operation.writes && opened.scope === 'read') throw weak('This key only reads. Make one that writes on the page Keys.');
  if (opened.jobId === null) return opened;
  const shelfRead = operation.id === 'listUnits' || operation.id === 'readUnit' || operation.id === 'solve' || operation.id === 'listJobs';
  if (!shelfRead && (id === '' || (await jobBehind(path, id)) !== opened.jobId))
    throw weak('This key is for one job, and this is not of it.');
  return opened;
}

function versionOf(request: Request, operation: Operation): number {
  if (!operation.versioned || operation.method !== 'put') return 0;
  const given = request.headers.get('if-match');
  const version = /^(?:W\/)?"(\d+)"$/.exec(given?.trim() ?? '')?.[1];
  if (version === undefined)
    throw new ServerProblem(428, 'version_needed', 'Name the version this changes: If-Match: "3", as the ETag of a read gave it.');
  return Number(version);
}

async function counted(request: Request, opened: Opened | null): Promise<void> {
  const who = opened?.keyId ?? `address ${request.headers.get('x-forwarded-for') ?? 'here'}`;
  try {
    await limiter().consume(who);
  } catch (spent) {
    // No count could be had: who asks is not to suffer for it.
    if (!(spent instanceof RateLimiterRes)) return log().warn({ err: spent }, 'requests could not be counted');
    const { msBeforeNext } = spent;
    throw new ServerProblem(429, 'too_many_requests', `More than ${REQUESTS_A_MINUTE} requests in a minute. Come again later.`, {
      retryAfter_s: Math.ceil(msBeforeNext / 1000),
    });
  }
}

function answered(operation: Operation, value: unknown): Response {
  if (value instanceof Response) return value;
  const schema = operation.answer as z.ZodType;
  const parsed = readKept(schema, value) as { version?: number; id?: string };
  const headers = new Headers();
  if (operation.versioned && parsed.version !== undefined) headers.set('etag', `"${parsed.version}"`);
  return Response.json(parsed, { status: operation.status, headers });
}

/** A stale write answers 412 to a program: it named the version itself. */
function asHttp(error: unknown): Response {
  const response = problemResponse(error);
  if (!(error instanceof ServerProblem)) return response;
  const status = error.code === 'stale' ? 412 : response.status;
  const headers = new Headers(response.headers);
  if (typeof error.data['allow'] === 'string') headers.set('allow', error.data['allow']);
  if (typeof error.data['retryAfter_s'] === 'number') headers.set('retry-after', String(error.data['retryAfter_s']));
  if (status === 503) headers.set('retry-after', '5');
  if (status === 401) headers.set('www-authenticate', 'Bearer realm="Vanner"');
  return new Response(response.body, { status, headers });
}

async function work(sent: Request, segments: readonly string[], handlers: Readonly<Record<string, Handler>>): Promise<Response> {
  const where = found(segments);
  const operation = operationOf(where, sent.method);
  const opened = await admitted(sent, operation, operation.path, where.id);
  await counted(sent, opened);
  const format = accepted(sent, operation);
  const query = queryOf(sent, operation, format);
  checkType(sent, operation);
  const request = unpacked(sent);
  const version = versionOf(request, operation);
  const isJson = operation.body !== undefined && operation.body !== 'file';
  const text = isJson ? await textOf(request) : '';
  // What takes the place of a document is held to its bounds where it is known what stood there before.
  const taken = operation.versioned && operation.method === 'put' ? withoutBounds(operation.body as z.ZodType) : operation.body;
  const body = isJson ? documentOf(text, taken as z.ZodType) : undefined;
  const call = { request, id: where.id, query, body, version, onlyJob: opened?.jobId ?? null };
  const run = async (): Promise<Response> => answered(operation, await handlers[operation.id]!(call));
  const key = operation.writes ? sent.headers.get('idempotency-key') : null;
  if (key === null) return run();
  if (key === '' || key.length > 200) throw new ServerProblem(422, 'invalid', 'Idempotency-Key: 1 to 200 characters');
  return once(db(), { key, opener: opened?.keyId ?? '', request: sent, body: text }, run);
}

/** The path of the operations behind an address; one name for all addresses that are none of this API. */
function routeName(segments: readonly string[]): string {
  const known = operationsAt(segments)[0];
  return `/api/v1${known?.path ?? '/others'}`;
}

/** Everything under /api/v1: whatever is asked is answered as the document says, problems as JSON too. */
export function dispatcher(takeIn: TakeIn) {
  const handlers = handlersWith(takeIn);
  return async (request: Request, context: { params: Promise<{ path: string[] }> }): Promise<Response> => {
    const { path } = await context.params;
    const response = await watched(request, routeName(path), async () => {
      try {
        return await asPerson(personOf(request), () => work(request, path, handlers));
      } catch (error) {
        return asHttp(error);
      }
    });
    response.headers.set('x-content-type-options', 'nosniff');
    response.headers.set('cache-control', 'no-store');
    return request.method === 'HEAD' ? new Response(null, { status: response.status, headers: response.headers }) : response;
  };
}
