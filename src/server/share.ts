import { createHash, randomBytes } from 'node:crypto';
import type { PackName } from '@/core/units/measures';
import { UNIT_PACKS } from '@/core/units/measures';
import type { Db } from './db/client';
import { notFound } from './errors';
import { isUuid } from './ids';
import { personNow } from './who';

export interface ShareLink {
  readonly id: string;
  readonly pack: PackName;
  readonly madeBy: string;
  readonly madeAt: string;
  readonly expiresAt: string;
  readonly opened: number;
  readonly openedAt: string | null;
}

const DAY_ms = 86_400_000;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
const packOf = (text: string): PackName => UNIT_PACKS.find((p) => p === text) ?? 'metric';

type Row = { id: string; pack: string; made_by: string; created_at: Date; expires_at: Date; opened: number; opened_at: Date | null };
const stored = (r: Row): ShareLink => ({
  id: r.id,
  pack: packOf(r.pack),
  madeBy: r.made_by,
  madeAt: r.created_at.toISOString(),
  expiresAt: r.expires_at.toISOString(),
  opened: r.opened,
  openedAt: r.opened_at?.toISOString() ?? null,
});

/** A job's links that still open. */
export async function listLinks(db: Db, jobId: string): Promise<ShareLink[]> {
  const rows = await db
    .selectFrom('share_link')
    .selectAll()
    .where('job_id', '=', jobId)
    .where('revoked_at', 'is', null)
    .where('expires_at', '>', new Date())
    .orderBy('created_at', 'desc')
    .execute();
  return rows.map(stored);
}

/** Makes a link for a customer: 256 random bits, told once and kept as a hash. */
export async function makeLink(db: Db, jobId: string, days: number, pack: PackName): Promise<{ link: ShareLink; token: string }> {
  const token = randomBytes(32).toString('base64url');
  const row = await db
    .insertInto('share_link')
    .values({ job_id: jobId, token_hash: hashOf(token), pack, made_by: personNow(), expires_at: new Date(Date.now() + days * DAY_ms) })
    .returningAll()
    .executeTakeFirstOrThrow();
  return { link: stored(row), token };
}

export async function revokeLink(db: Db, jobId: string, id: string): Promise<void> {
  const row = isUuid(id)
    ? await db
        .updateTable('share_link')
        .set({ revoked_at: new Date() })
        .where('id', '=', id)
        .where('job_id', '=', jobId)
        .where('revoked_at', 'is', null)
        .returning('id')
        .executeTakeFirst()
    : undefined;
  if (!row) throw notFound('link');
}

const isToken = (token: string): boolean => /^[\w-]{43}$/.test(token);

/** The job a token opens, without counting a look: for the pictures on its page. Null as for `openLink`. */
export async function linkedJob(db: Db, token: string): Promise<string | null> {
  if (!isToken(token)) return null;
  const row = await db
    .selectFrom('share_link')
    .innerJoin('job', 'job.id', 'share_link.job_id')
    .select('job.id')
    .where('token_hash', '=', hashOf(token))
    .where('revoked_at', 'is', null)
    .where('expires_at', '>', new Date())
    .where('job.trashed_at', 'is', null)
    .executeTakeFirst();
  return row?.id ?? null;
}

/** The job a token opens; null for one that is unknown, revoked, run out, or whose job was thrown away. Counts the look. */
export async function openLink(db: Db, token: string): Promise<{ jobId: string; pack: PackName; expiresAt: string } | null> {
  if (!isToken(token)) return null;
  const row = await db
    .updateTable('share_link')
    .set((e) => ({ opened: e('opened', '+', 1), opened_at: new Date() }))
    .where('token_hash', '=', hashOf(token))
    .where('revoked_at', 'is', null)
    .where('expires_at', '>', new Date())
    .where((e) =>
      e.exists(e.selectFrom('job').select('job.id').whereRef('job.id', '=', 'share_link.job_id').where('job.trashed_at', 'is', null)),
    )
    .returning(['job_id', 'pack', 'expires_at'])
    .executeTakeFirst();
  return row ? { jobId: row.job_id, pack: packOf(row.pack), expiresAt: row.expires_at.toISOString() } : null;
}
