import { createHash } from 'node:crypto';
import type { Db } from '../db/client';
import { ServerProblem } from '../errors';

/** Answers are kept this long; a request that was never finished is free again after the second. */
const KEPT_ms = 24 * 3600 * 1000;
const UNFINISHED_ms = 2 * 60 * 1000;

const sha = (...parts: readonly (string | Uint8Array)[]): string => {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(part).update('\0');
  return hash.digest('hex');
};

/** Headers of an answer that are given again with it. */
const KEPT_HEADERS = ['content-type', 'etag', 'location'] as const;

/**
 * Does a write once, however often it is sent under one Idempotency-Key: a second sender gets the first one's answer. The same
 * key with another request is refused; while the first is being worked on, the second is asked to come again.
 */
export async function once(
  db: Db,
  { key, opener, request, body }: { key: string; opener: string; request: Request; body: string },
  work: () => Promise<Response>,
): Promise<Response> {
  const { pathname, search } = new URL(request.url);
  const id = sha(opener, key);
  const fingerprint = sha(request.method, pathname, search, body);
  await db
    .deleteFrom('api_answer')
    .where((e) =>
      e.or([
        e('created_at', '<', new Date(Date.now() - KEPT_ms)),
        e.and([e('status', 'is', null), e('created_at', '<', new Date(Date.now() - UNFINISHED_ms))]),
      ]),
    )
    .execute();
  const mine = await db
    .insertInto('api_answer')
    .values({ key: id, fingerprint, status: null, headers: null, body: null })
    .onConflict((c) => c.column('key').doNothing())
    .returning('key')
    .executeTakeFirst();
  if (!mine) {
    const before = await db.selectFrom('api_answer').selectAll().where('key', '=', id).executeTakeFirst();
    if (before && before.fingerprint !== fingerprint)
      throw new ServerProblem(
        422,
        'idempotency_reused',
        'This Idempotency-Key came with another request before. Take a new one for a new write.',
      );
    if (!before || before.status === null)
      throw new ServerProblem(
        409,
        'in_progress',
        'The first request with this Idempotency-Key is still being worked on. Ask again in a second.',
        {
          retryAfter_s: 1,
        },
      );
    return new Response(before.body, { status: before.status, headers: { ...before.headers, 'idempotency-replayed': 'true' } });
  }
  const forget = (): Promise<unknown> => db.deleteFrom('api_answer').where('key', '=', id).execute();
  try {
    const response = await work();
    const text = await response.clone().text();
    const headers = Object.fromEntries(KEPT_HEADERS.flatMap((h) => (response.headers.has(h) ? [[h, response.headers.get(h)!]] : [])));
    await db
      .updateTable('api_answer')
      .set({ status: response.status, headers: JSON.stringify(headers), body: text })
      .where('key', '=', id)
      .execute();
    return response;
  } catch (error) {
    // A write that failed may be tried again under its key.
    await forget();
    throw error;
  }
}
