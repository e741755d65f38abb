import { createHash, randomBytes } from 'node:crypto';
import type { Db } from './db/client';
import { notFound, ServerProblem } from './errors';
import { isUuid } from './ids';

export interface ApiKey {
  readonly id: string;
  readonly name: string;
  readonly madeAt: string;
  readonly usedAt: string | null;
  readonly scope: KeyScope;
  /** The one job it opens; null: all of them, and the shelf. */
  readonly jobId: string | null;
}

export const KEY_SCOPES = ['read', 'write'] as const;
export type KeyScope = (typeof KEY_SCOPES)[number];

/** What a request may do by the key it carries. */
export interface Opened {
  readonly keyId: string;
  readonly scope: KeyScope;
  readonly jobId: string | null;
}

/** Keys begin with this, so that one found in a wrong place is known for what it is. */
const PREFIX = 'vnr_';

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Keys that still open something, the newest first. */
export async function listKeys(db: Db): Promise<ApiKey[]> {
  const rows = await db.selectFrom('api_key').selectAll().where('revoked_at', 'is', null).orderBy('created_at', 'desc').execute();
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    madeAt: r.created_at.toISOString(),
    usedAt: r.used_at?.toISOString() ?? null,
    scope: r.scope,
    jobId: r.job_id,
  }));
}

/** Makes a key. Its text is told this once; only its hash is kept (256 random bits need no slow hash). */
export async function makeKey(
  db: Db,
  name: string,
  scope: KeyScope = 'write',
  jobId: string | null = null,
): Promise<{ key: ApiKey; token: string }> {
  const token = `${PREFIX}${randomBytes(32).toString('base64url')}`;
  const row = await db
    .insertInto('api_key')
    .values({ name, hash: hashOf(token), scope, job_id: jobId })
    .returningAll()
    .executeTakeFirstOrThrow();
  return { key: { id: row.id, name: row.name, madeAt: row.created_at.toISOString(), usedAt: null, scope, jobId }, token };
}

export async function revokeKey(db: Db, id: string): Promise<void> {
  const row = isUuid(id)
    ? await db
        .updateTable('api_key')
        .set({ revoked_at: new Date() })
        .where('id', '=', id)
        .where('revoked_at', 'is', null)
        .returning('id')
        .executeTakeFirst()
    : undefined;
  if (!row) throw notFound('key');
}

/** Lets a request pass that carries a key of this installation, and remembers when it was used. */
export async function checkKey(db: Db, request: Request): Promise<Opened> {
  const token = /^Bearer\s+(\S+)$/i.exec(request.headers.get('authorization') ?? '')?.[1];
  const row = token
    ? await db
        .updateTable('api_key')
        .set({ used_at: new Date() })
        .where('hash', '=', hashOf(token))
        .where('revoked_at', 'is', null)
        .returning(['id', 'scope', 'job_id'])
        .executeTakeFirst()
    : undefined;
  if (!row)
    throw new ServerProblem(
      401,
      'key_needed',
      'Writing needs a key of this installation: Authorization: Bearer vnr_…. Make one on the page Keys.',
    );
  return { keyId: row.id, scope: row.scope, jobId: row.job_id };
}
