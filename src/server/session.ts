import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Db, Trx } from './db/client';

export const SESSION_COOKIE = 'vanner-session';
const DAY_ms = 86_400_000;
/** A session lasts this long, and this long without being used. */
const SESSION_ms = 14 * DAY_ms;
const IDLE_ms = 3 * DAY_ms;
/** A session that was last seen longer ago than this is written anew. */
const RENEWED_AFTER_ms = 3_600_000;

const sign = (text: string, key: string): string => createHmac('sha256', Buffer.from(key, 'base64')).update(text).digest('base64url');

interface Session {
  readonly since_ms: number;
  readonly seen_ms: number;
  readonly id: string;
}

const valueOf = ({ since_ms, seen_ms, id }: Session, key: string): string => {
  const text = `${since_ms}.${seen_ms}.${id}`;
  return `${text}.${sign(text, key)}`;
};

/** The value of a new session's cookie: since when, last seen, which one, signed. */
export const sessionValue = (key: string, now_ms: number): string =>
  valueOf({ since_ms: now_ms, seen_ms: now_ms, id: randomBytes(16).toString('base64url') }, key);

/** What a cookie's value says, if it was signed here with this key; null: it was not. */
function readSession(value: string | undefined, key: string): Session | null {
  const [, text, since, seen, id, mark] = /^((\d+)\.(\d+)\.([\w-]+))\.([\w-]+)$/.exec(value ?? '') ?? [];
  if (text === undefined || id === undefined) return null;
  const [a, b] = [Buffer.from(mark!), Buffer.from(sign(text, key))];
  return a.length === b.length && timingSafeEqual(a, b) ? { since_ms: Number(since), seen_ms: Number(seen), id } : null;
}

const NONE: ReadonlySet<string> = new Set();

/** Whether a cookie's value opens: signed for the passphrase of now, neither run out nor idle for too long, nor signed out. */
export function isSession(value: string | undefined, key: string, now_ms: number, ended: ReadonlySet<string> = NONE): boolean {
  const s = readSession(value, key);
  return s !== null && !ended.has(s.id) && now_ms < s.since_ms + SESSION_ms && now_ms < s.seen_ms + IDLE_ms;
}

/** The value to go on with where the last sight of it is a while ago; null: it is new enough, or none. */
export function renewedSession(value: string | undefined, key: string, now_ms: number): string | null {
  const s = readSession(value, key);
  return s && now_ms - s.seen_ms > RENEWED_AFTER_ms ? valueOf({ ...s, seen_ms: now_ms }, key) : null;
}

/** Ends the session of a cookie's value, on every server of this database and however many copies of it there are. */
export async function endSession(db: Db | Trx, value: string | undefined, key: string): Promise<void> {
  const s = readSession(value, key);
  if (!s) return;
  await db
    .deleteFrom('session_end')
    .where('at', '<', new Date(Date.now() - SESSION_ms))
    .execute();
  await db
    .insertInto('session_end')
    .values({ id: s.id })
    .onConflict((c) => c.doNothing())
    .execute();
}

/** Sessions that were signed out and would open otherwise. */
export async function endedSessions(db: Db): Promise<ReadonlySet<string>> {
  const rows = await db
    .selectFrom('session_end')
    .select('id')
    .where('at', '>', new Date(Date.now() - SESSION_ms))
    .execute();
  return new Set(rows.map((r) => r.id));
}

/** The header that sets a session; `secure` where the page came over TLS. */
export const sessionCookie = (value: string, secure: boolean): string =>
  `${SESSION_COOKIE}=${value}; Path=/; HttpOnly; SameSite=Strict; Max-Age=${value === '' ? 0 : SESSION_ms / 1000}${secure ? '; Secure' : ''}`;
