import type { z } from 'zod';
import { checkKey } from '../api-keys';
import { db } from '../db/client';
import { refusal } from '../access';
import { query, route } from '../http';

/** A route of the API: it goes past the proxy (which would hold uploads in memory), so it asks the guard and the key itself. */
export function apiRoute<P>(writes: boolean, handler: (request: Request, params: P) => Promise<Response>) {
  return route<P>(async (request, params) => {
    const problem = await refusal(request);
    // A key opens what a session would; without a passphrase reading needs neither.
    const keyed = problem?.code === 'sign_in' && request.headers.has('authorization');
    if (problem && !keyed) throw problem;
    if (writes || keyed) await checkKey(db(), request);
    const response = await handler(request, params);
    response.headers.set('x-content-type-options', 'nosniff');
    response.headers.set('cache-control', 'no-store');
    return response;
  });
}

/** An answer held to its own schema: what the document promises is what goes out. */
export const answer = (schema: z.ZodType, value: unknown, status = 200): Response => Response.json(schema.parse(value), { status });

/** Says under what name an answer is saved: headers hold no other script than ASCII, so the name stands in them twice. */
export function attachment(name: string): string {
  const plain =
    name
      .normalize('NFKD')
      .replace(/[^\x20-\x7e]/g, '')
      .replace(/["\\/;%]/g, '') || 'file';
  const encoded = encodeURIComponent(name.replace(/[\uD800-\uDFFF]/gu, '')).replace(
    /['()*]/g,
    (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`,
  );
  return `attachment; filename="${plain}"; filename*=UTF-8''${encoded}`;
}

/** A table as a file. */
export const csvFile = (text: string, name: string): Response =>
  new Response(text, { headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': attachment(`${name}.csv`) } });

export { query };
