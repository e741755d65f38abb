import { sql } from 'kysely';
import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import type { Db, Trx } from './db/client';
import { ServerProblem } from './errors';

/** Cost of the hash: 64 MB and about a quarter of a second an attempt. */
const COST = { N: 2 ** 16, r: 8, p: 1, maxmem: 128 * 1024 * 1024 } as const;
const KEY_BYTES = 32;
const SHORTEST_PASSPHRASE = 10;

/** Attempts looked back on, ms, and how many are free before each further one has to wait twice as long. */
const WINDOW_ms = 15 * 60_000;
const FREE_ATTEMPTS = 5;
const LONGEST_WAIT_s = 120;
/** As many of all strangers together: addresses can be made up. */
const FREE_OF_STRANGERS = 40;
const LONGEST_WAIT_FOR_STRANGERS_s = 15;
/** An address that somebody came in from is known for so long, ms. */
const KNOWN_FOR_ms = 30 * 86_400_000;

/** Who has the hash too takes most of a year for so many on one machine. */
const FEWEST_GUESSES = 1e8;
/** What is longer is at least as hard to guess as its beginning; measuring it would take long. */
const MEASURED = 64;

/** How many tries a program that knows what people take needs for a passphrase. Its lists are large: they are loaded on first use. */
async function guessesFor(passphrase: string): Promise<number> {
  const [{ ZxcvbnFactory }, common, english] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common'),
    import('@zxcvbn-ts/language-en'),
  ]);
  const meter = new ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary, shop: ['vanner', 'throttle', 'dyno', 'turbo', 'boost', 'tuner'] },
    graphs: common.adjacencyGraphs,
  });
  const tail = passphrase.length > MEASURED ? passphrase.slice(-MEASURED) : passphrase;
  return Math.max(meter.check(passphrase.slice(0, MEASURED)).guesses, meter.check(tail).guesses);
}

/** 12 345 as "ten thousand": more would claim to be known. */
function aboutWords(guesses: number): string {
  const [, words] = [
    [1e7, 'ten million'],
    [1e6, 'a million'],
    [1e4, 'ten thousand'],
    [1e2, 'a hundred'],
  ].find(([n]) => guesses >= (n as number)) ?? [0, 'a few'];
  return words as string;
}

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
  const guesses = await guessesFor(passphrase);
  if (guesses < FEWEST_GUESSES)
    throw new ServerProblem(
      422,
      'guessable',
      `A program that guesses would find this after about ${aboutWords(guesses)} tries: it is made of what everybody takes. Three or four words that have nothing to do with one another are better.`,
    );
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

/**
 * Counts an attempt, unless it has to wait: then the seconds. One after the other, so that many at once are not free, and by the
 * database's own clock. Whoever tries waits for their own failures; where strangers try from ever new addresses, so does whoever
 * has never been in from theirs, but not for long.
 */
async function begin(db: Db, who: string): Promise<{ readonly id: string } | { readonly wait_s: number }> {
  return db.transaction().execute(async (trx) => {
    await sql`SELECT pg_advisory_xact_lock(hashtextextended('sign_in_attempt', 0))`.execute(trx);
    const since = sql`clock_timestamp() - make_interval(secs => ${KNOWN_FOR_ms / 1000})`;
    await sql`DELETE FROM sign_in_attempt WHERE at < ${since}`.execute(trx);
    const recent = sql`NOT passed AND at > clock_timestamp() - make_interval(secs => ${WINDOW_ms / 1000}) AND at <= clock_timestamp()`;
    const { rows } = await sql<{ own: number; own_s: number | null; all: number; all_s: number | null; known: boolean }>`
      SELECT count(*) FILTER (WHERE ${recent} AND who = ${who})::int AS own,
        extract(epoch FROM clock_timestamp() - max(at) FILTER (WHERE ${recent} AND who = ${who}))::float AS own_s,
        count(*) FILTER (WHERE ${recent})::int AS all,
        extract(epoch FROM clock_timestamp() - max(at) FILTER (WHERE ${recent}))::float AS all_s,
        coalesce(bool_or(passed AND who = ${who}), false) AS known
      FROM sign_in_attempt`.execute(trx);
    const { own, own_s, all, all_s, known } = rows[0]!;
    const wait_s = Math.max(
      waitAfter(own, own_s, FREE_ATTEMPTS, LONGEST_WAIT_s),
      known ? 0 : waitAfter(all, all_s, FREE_OF_STRANGERS, LONGEST_WAIT_FOR_STRANGERS_s),
    );
    if (wait_s > 0) return { wait_s };
    return trx.insertInto('sign_in_attempt').values({ who }).returning('id').executeTakeFirstOrThrow();
  });
}

/** Seconds left to wait after so many failures, the last of them so long ago: none for the free ones, then twice as long each. */
function waitAfter(failures: number, last_s: number | null, free: number, longest_s: number): number {
  if (failures < free || last_s === null) return 0;
  return Math.max(0, Math.ceil(Math.min(longest_s, 2 ** (failures - free + 1)) - last_s));
}

/** Whether these are the shop's words. Failed attempts slow down the next ones `from` there. */
export async function checkPassphrase(db: Db, passphrase: string, from: string): Promise<void> {
  // Counted before it is tried.
  const attempt = await begin(db, from.slice(0, 80));
  if ('wait_s' in attempt)
    throw new ServerProblem(429, 'wait', `Too many wrong attempts. Wait ${attempt.wait_s} s, then try again.`, { wait_s: attempt.wait_s });
  const known = await kept(db);
  const given = known && (await derived(passphrase.slice(0, 1000), Buffer.from(known.salt, 'base64')));
  if (known && given && !timingSafeEqual(given, Buffer.from(known.hash, 'base64'))) {
    // The wait begins with the answer: a machine that is slow to try words would else have waited it out by then.
    await sql`UPDATE sign_in_attempt SET at = clock_timestamp() WHERE id = ${attempt.id}`.execute(db);
    throw new ServerProblem(401, 'wrong_passphrase', 'These are not the words of this shop.');
  }
  await db.updateTable('sign_in_attempt').set({ passed: true }).where('id', '=', attempt.id).execute();
}
