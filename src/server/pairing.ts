import { sql } from 'kysely';
import { createHash, randomBytes } from 'node:crypto';
import { networkInterfaces } from 'node:os';
import type { Db, Trx } from './db/client';
import { listensBeyond } from './guard';

/** How long a code is good for, min: long enough to fetch a phone, too short to be found later. */
export const PAIRING_MINUTES = 10;
const PREFIX = 'pairing:';
const keyOf = (token: string): string => PREFIX + createHash('sha256').update(token).digest('hex');

/** A code that opens one page on another device, once. What is kept of it is its hash. */
export async function newPairing(db: Db | Trx, to: string, now_ms: number): Promise<string> {
  await db
    .deleteFrom('meta')
    .where('key', 'like', `${PREFIX}%`)
    .where(sql<boolean>`(value ->> 'until_ms')::numeric <= ${now_ms}`)
    .execute();
  const token = randomBytes(18).toString('base64url');
  const value = JSON.stringify({ to, until_ms: now_ms + PAIRING_MINUTES * 60_000 });
  await db
    .insertInto('meta')
    .values({ key: keyOf(token), value })
    .execute();
  return token;
}

/** Where a code leads; null: it was used, has run out, or never was. It is gone after this, whichever process is asked. */
export async function takePairing(db: Db | Trx, token: string, now_ms: number): Promise<string | null> {
  const row = await db.deleteFrom('meta').where('key', '=', keyOf(token)).returning('value').executeTakeFirst();
  const found = row?.value as unknown as { to: string; until_ms: number } | undefined;
  return found && found.until_ms > now_ms ? found.to : null;
}

const LOOPBACK_NAME = /^(localhost|127\.|\[?::1)/i;

/** Addresses under which a phone in this house reaches the page at `origin`; none when only this machine does. */
export function reachableOrigins(origin: URL): string[] {
  if (!LOOPBACK_NAME.test(origin.hostname)) return [origin.origin];
  if (!listensBeyond()) return [];
  const addresses = Object.values(networkInterfaces()).flatMap((list) =>
    (list ?? []).filter((a) => !a.internal && a.family === 'IPv4').map((a) => a.address),
  );
  return addresses.map((a) => `${origin.protocol}//${a}${origin.port === '' ? '' : `:${origin.port}`}`);
}
