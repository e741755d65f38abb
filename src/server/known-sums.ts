import { createHash } from 'node:crypto';
import { deserialize, serialize } from 'node:v8';
import { sql } from 'kysely';
import type { Db, Trx } from './db/client';
import { log } from './watch';

/** What one release worked out is not another's answer. A build that does not know its own keeps nothing beyond its process. */
const RELEASE = process.env.VANNER_RELEASE ?? '';

/** Kept for so long, and so many of them, whoever asks for them still: they are worked out again. */
const KEPT_days = 30;
const MOST_KEPT = 2000;

/**
 * Results by everything they hang on: the last so many in this process, and what any process of this release worked out in the
 * database. Two who ask this process for the same at once have it worked out once. What failed is not kept.
 */
export class KnownSums<T> {
  private readonly results = new Map<string, Promise<T>>();

  constructor(
    private readonly what: string,
    private readonly most: number,
    private readonly release = RELEASE,
  ) {}

  /**
   * What is known under `asked`; else `read` gathers what goes in and gives what works it out. That second half may not wait for the
   * database: others may wait for it who hold a connection, and it would wait for who waits for one.
   */
  async get(db: Db | Trx, asked: unknown, read: () => Promise<() => Promise<T>>): Promise<T> {
    const key = createHash('sha256')
      .update(JSON.stringify([this.what, this.release, asked]))
      .digest('base64');
    const here = this.results.get(key);
    if (here) return here;
    const kept = await this.kept(db, key);
    if (kept) return this.begin(key, () => Promise.resolve(kept.result));
    const workOut = await read();
    const meanwhile = this.results.get(key);
    if (meanwhile) return meanwhile;
    const result = await this.begin(key, workOut);
    await this.keep(db, key, result);
    return result;
  }

  private begin(key: string, workOut: () => Promise<T>): Promise<T> {
    const begun = workOut();
    if (this.results.size >= this.most) this.results.delete(this.results.keys().next().value!);
    this.results.set(key, begun);
    begun.catch(() => {
      if (this.results.get(key) === begun) this.results.delete(key);
    });
    return begun;
  }

  private async kept(db: Db | Trx, key: string): Promise<{ readonly result: T } | null> {
    if (this.release === '') return null;
    return this.orWithout(db, async () => {
      const row = await db.selectFrom('kept_sum').select('result').where('key', '=', key).executeTakeFirst();
      // Written by a newer Node.js on another machine, it may not be readable here.
      return row ? { result: deserialize(row.result) as T } : null;
    });
  }

  private async keep(db: Db | Trx, key: string, result: T): Promise<void> {
    if (this.release === '') return;
    await this.orWithout(db, async () => {
      await db
        .insertInto('kept_sum')
        .values({ key, result: serialize(result) })
        .onConflict((c) => c.doNothing())
        .execute();
      return null;
    });
  }

  /** A database that only reads keeps nothing and has none of it; an answer does not fail for that. What fails in a transaction ends it. */
  private async orWithout<R>(db: Db | Trx, work: () => Promise<R>): Promise<R | null> {
    try {
      return await work();
    } catch (error) {
      if (db.isTransaction && isOfDatabase(error)) throw error;
      log().warn({ err: error, what: this.what }, 'what is worked out is not kept');
      return null;
    }
  }
}

const isOfDatabase = (error: unknown): boolean => typeof (error as { severity?: unknown } | null)?.severity === 'string';

/** Lets go of what was kept for long, and of what is more than is kept. */
export async function sweepKeptSums(db: Db, days = KEPT_days, most = MOST_KEPT): Promise<number> {
  const { numAffectedRows } = await sql`
    DELETE FROM kept_sum WHERE kept_at < now() - make_interval(days => ${days})
      OR key IN (SELECT key FROM kept_sum ORDER BY kept_at DESC, key OFFSET ${most})`.execute(db);
  return Number(numAffectedRows ?? 0);
}
