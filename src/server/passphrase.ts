import { sql } from 'kysely';
import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import type { Db, Trx } from './db/client';
import { ServerProblem } from './errors';

/** Cost of the hash: 64 MB and about a quarter of a second an attempt. */
const COST = { N: 2 ** 16, r: 8, p: 1, maxmem: 128 * 1024 * 1024 } as const;
const KEY_BYTES = 32;
export const SHORTEST_PASSPHRASE = 10;

/** Attempts looked back on, ms, and how many are free before each further one has to wait twice as long. */
const WINDOW_ms = 15 * 60_000;
const FREE_ATTEMPTS = 5;
const LONGEST_WAIT_s = 120;

interface Kept {
  readonly salt: string;
  readonly hash: string;
  /** Signs the sessions of this passphrase: a new one ends them all. */
  readonly key: string;
}

function derived(passphrase: string, salt: Buffer): Promise<Buffer> {
  return new Promise((done, fail) =>
    // Composed letters: an é typed on another keyboard is the same é.
    scrypt(passphrase.normalize('NFC'), salt, KEY_BYTES, COST, (error, key) => (error ? fail(error) : done(key))),
  );
}

async function kept(db: Db | Trx): Promise<Kept | null> {
  const row = await db.selectFrom('meta').select('value').where('key', '=', 'passphrase').executeTakeFirst();
  return row ? (row.value as unknown as Kept) : null;
}

/** The key that signs sessions; null: this installation has no passphrase. */
export const sessionKey = async (db: Db): Promise<string | null> => (await kept(db))?.key ?? null;

/** Sets the passphrase, or takes it away (null). Every session ends. */
export async function setPassphrase(db: Db | Trx, passphrase: string | null): Promise<void> {
  if (passphrase === null) {
    await db.deleteFrom('meta').where('key', '=', 'passphrase').execute();
    return;
  }
  if (passphrase.length < SHORTEST_PASSPHRASE)
    throw new ServerProblem(422, 'too_short', `A passphrase has ${SHORTEST_PASSPHRASE} characters at least: three or four words will do.`);
  const salt = randomBytes(16);
  const value = JSON.stringify({
    salt: salt.toString('base64'),
    hash: (await derived(passphrase, salt)).toString('base64'),
    key: randomBytes(32).toString('base64'),
  } satisfies Kept);
  await db
    .insertInto('meta')
    .values({ key: 'passphrase', value })
    .onConflict((c) => c.column('key').doUpdateSet({ value }))
    .execute();
}

/** Seconds an attempt now has to wait after the failed ones before it. */
async function waitFor(db: Db): Promise<number> {
  const rows = await db
    .selectFrom('sign_in_attempt')
    .select('at')
    .where('at', '>', new Date(Date.now() - WINDOW_ms))
    .orderBy('at', 'desc')
    .limit(64)
    .execute();
  if (rows.length < FREE_ATTEMPTS) return 0;
  const wait_s = Math.min(LONGEST_WAIT_s, 2 ** (rows.length - FREE_ATTEMPTS + 1));
  return Math.max(0, Math.ceil((rows[0]!.at.getTime() + wait_s * 1000 - Date.now()) / 1000));
}

/** Whether these are the shop's words. Failed attempts slow down the next ones, whoever makes them. */
export async function checkPassphrase(db: Db, passphrase: string, from: string): Promise<void> {
  const wait_s = await waitFor(db);
  if (wait_s > 0) throw new ServerProblem(429, 'wait', `Too many wrong attempts. Wait ${wait_s} s, then try again.`, { wait_s });
  const known = await kept(db);
  if (!known) return;
  // Counted before it is tried, so that many at once are not free.
  const { id } = await db
    .insertInto('sign_in_attempt')
    .values({ who: from.slice(0, 80) })
    .returning('id')
    .executeTakeFirstOrThrow();
  const given = await derived(passphrase.slice(0, 1000), Buffer.from(known.salt, 'base64'));
  if (!timingSafeEqual(given, Buffer.from(known.hash, 'base64'))) {
    // The wait begins with the answer: a machine that is slow to try words would else have waited it out by then.
    await sql`UPDATE sign_in_attempt SET at = clock_timestamp() WHERE id = ${id}`.execute(db);
    throw new ServerProblem(401, 'wrong_passphrase', 'These are not the words of this shop.');
  }
  await db.deleteFrom('sign_in_attempt').where('id', '=', id).execute();
}
