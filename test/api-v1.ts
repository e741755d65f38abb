import createClient from 'openapi-fetch';
import { z } from 'zod';
import { GET } from '@/app/api/v1/[...path]/route';
import { POST as makeKey } from '@/app/api/keys/route';
import { ask, json, none } from './api';
import type { paths } from './api-client';

export const handle = (request: Request): Promise<Response> =>
  GET(request, { params: Promise.resolve({ path: new URL(request.url).pathname.split('/').slice(3) }) });

/** The key that requests carry. */
export const opened: { token: string | null } = { token: null };
/** The client that the API's own description makes, speaking to the route without a network between. */
export const client = createClient<paths>({
  baseUrl: 'http://127.0.0.1/api/v1',
  fetch: (request) => {
    request.headers.set('host', '127.0.0.1');
    if (opened.token !== null && !request.headers.has('authorization')) request.headers.set('authorization', `Bearer ${opened.token}`);
    return handle(request);
  },
});

interface Described {
  readonly responses: Readonly<Record<string, { readonly content?: Readonly<Record<string, { readonly schema: { $ref?: string } }>> }>>;
}
export interface Document {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Described & { operationId: string }>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, object>> };
  readonly info: { readonly description: string };
}

/** Holds an answer to what the description promises of it, status and all. */
export async function asPromised(description: Document, operationId: string, response: Response): Promise<void> {
  const described = Object.values(description.paths)
    .flatMap((p) => Object.values(p))
    .find((o) => o.operationId === operationId)!;
  const promised = described.responses[String(response.status)];
  if (!promised) throw new Error(`${operationId} answered ${response.status}, which the description does not know`);
  const name = promised.content?.['application/json']?.schema.$ref?.split('/').at(-1);
  const schema = description.components.schemas[name ?? ''] as Parameters<typeof z.fromJSONSchema>[0];
  z.fromJSONSchema(schema).parse(await response.clone().json());
}

/** The data of an answer that has to be one; its problem thrown where it is not. */
export async function good<T>(answer: Promise<{ data?: T | undefined; error?: unknown; response: Response }>): Promise<Exclude<T, string>> {
  const { data, error, response } = await answer;
  if (data === undefined) throw new Error(`${response.status} ${(error as { message?: string } | undefined)?.message ?? ''}`);
  return data as Exclude<T, string>;
}
export const upload = (id: string, query: { fileName: string; side?: string; table?: string }, body: string | Uint8Array) =>
  client.POST('/jobs/{id}/runs', {
    params: { path: { id }, query },
    body: body as unknown as string,
    bodySerializer: (b: unknown) => b as BodyInit,
    headers: { 'content-type': 'application/octet-stream' },
  });
export const runsOf = async (id: string) => (await good(client.GET('/jobs/{id}/runs', { params: { path: { id } } }))).items;
export const raw = (path: string, init: RequestInit = {}): Promise<Response> =>
  handle(
    new Request(`http://127.0.0.1/api/v1${path}`, {
      ...init,
      headers: { host: '127.0.0.1', ...(opened.token && { authorization: `Bearer ${opened.token}` }), ...init.headers },
    }),
  );
export const newKey = async (more: object): Promise<string> =>
  (await json<{ token: string }>(await makeKey(ask({ name: 'a key', ...more }), none))).token;

export const csv = (scale: number, jitter: number): string =>
  `# Correction: none\n# Date: 2026-05-01\nTime (s),Engine speed (rpm),Power (kW),Note\n${Array.from({ length: 120 }, (_, i) => `${(i * 0.1).toFixed(1)},${2000 + 40 * i},${((20 + 0.8 * i) * scale + jitter * Math.sin(i)).toFixed(3)},${i === 3 ? '' : i}`).join('\n')}\n`;
