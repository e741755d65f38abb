import { sql } from 'kysely';
import { freshDatabase } from '../../test/database';
import { connect, type Db } from './db/client';
import { KnownSums, sweepKeptSums } from './known-sums';

let db: Db;
let url: string;
let drop: () => Promise<void>;
beforeAll(async () => ({ db, url, drop } = await freshDatabase()));
afterAll(() => drop());
beforeEach(() => db.deleteFrom('kept_sum').execute());

const later = <T>() => {
  let done!: (value: T) => void;
  let fail!: (error: Error) => void;
  const promise = new Promise<T>((resolve, reject) => ([done, fail] = [resolve, reject]));
  return { promise, done, fail };
};
/** Reads what goes in and works it out, both counted. */
const sum = <T>(comesTo: () => Promise<T>) => {
  const workOut = jest.fn(comesTo);
  const read = jest.fn(() => Promise.resolve(workOut));
  return { read, workOut };
};
const rows = async (): Promise<number> => (await db.selectFrom('kept_sum').select('key').execute()).length;

describe('within a process', () => {
  it('what is asked for by two at once is worked out once, and not again once it is there', async () => {
    const known = new KnownSums<number>('test', 2, '');
    const { promise, done } = later<number>();
    const { read, workOut } = sum(() => promise);
    const both = Promise.all([known.get(db, ['a'], read), known.get(db, ['a'], read)]);
    done(7);
    expect(await both).toEqual([7, 7]);
    expect(await known.get(db, ['a'], read)).toBe(7);
    expect(workOut).toHaveBeenCalledTimes(1);
    expect(await known.get(db, ['b'], sum(() => Promise.resolve(8)).read)).toBe(8);
    expect(await rows()).toBe(0);
  });

  it('what failed is not known: everybody who waited hears of it, and the next one begins anew', async () => {
    const known = new KnownSums<number>('test', 2, 'r1');
    const { promise, fail } = later<number>();
    const { read } = sum(() => promise);
    const both = [known.get(db, 'a', read), known.get(db, 'a', read)].map((p) => p.catch((e: Error) => e.message));
    fail(new Error('no thread'));
    expect(await Promise.all(both)).toEqual(['no thread', 'no thread']);
    expect(await rows()).toBe(0);
    expect(await known.get(db, 'a', sum(() => Promise.resolve(1)).read)).toBe(1);
  });

  it('lets go of the first begun, and a failure of one let go of does not take its successor with it', async () => {
    const known = new KnownSums<number>('test', 2, '');
    const { promise, fail } = later<number>();
    const first = known.get(db, 'a', sum(() => promise).read).catch((e: Error) => e.message);
    await new Promise((done) => setImmediate(done));
    for (const [name, value] of [
      ['b', 2],
      ['c', 3],
      ['a', 10],
    ] as const)
      expect(await known.get(db, name, sum(() => Promise.resolve(value)).read)).toBe(value);
    fail(new Error('late'));
    expect(await first).toBe('late');
    const { read, workOut } = sum(() => Promise.resolve(11));
    expect(await known.get(db, 'a', read)).toBe(10);
    expect(workOut).not.toHaveBeenCalled();
  });
});

describe('in the database', () => {
  const result = { band: [1.5, NaN, -Infinity, -0], told: undefined, at: new Map([[1, Float64Array.of(0.1, 0.2)]]), none: null };

  it('another process of the same release finds it to the last digit, without reading what goes in', async () => {
    expect(await new KnownSums('test', 2, 'r1').get(db, ['job', 1], sum(() => Promise.resolve(result)).read)).toBe(result);
    const { read } = sum(() => Promise.resolve(result));
    expect(await new KnownSums<typeof result>('test', 2, 'r1').get(db, ['job', 1], read)).toEqual(result);
    expect(read).not.toHaveBeenCalled();
  });

  it.each([
    ['of another release', new KnownSums<number>('test', 2, 'r2'), ['job', 1]],
    ['of another kind', new KnownSums<number>('other', 2, 'r1'), ['job', 1]],
    ['of another question', new KnownSums<number>('test', 2, 'r1'), ['job', 2]],
  ])('what is %s is worked out', async (_, known, asked) => {
    await new KnownSums<number>('test', 2, 'r1').get(db, ['job', 1], sum(() => Promise.resolve(1)).read);
    expect(await known.get(db, asked, sum(() => Promise.resolve(2)).read)).toBe(2);
    expect(await rows()).toBe(2);
  });

  it('what cannot be read there is worked out', async () => {
    await new KnownSums<number>('test', 2, 'r1').get(db, 'a', sum(() => Promise.resolve(1)).read);
    await db
      .updateTable('kept_sum')
      .set({ result: Buffer.from('no such thing') })
      .execute();
    expect(await new KnownSums<number>('test', 2, 'r1').get(db, 'a', sum(() => Promise.resolve(2)).read)).toBe(2);
  });

  it('a database that only reads is answered from all the same, and a transaction of its own hears of it', async () => {
    const known = () => new KnownSums<number>('test', 2, 'r1');
    const readOnly = new URL(url);
    readOnly.searchParams.set('options', '-c default_transaction_read_only=on');
    const reads = connect(readOnly.href, 1);
    try {
      expect(await known().get(reads, 'a', sum(() => Promise.resolve(3)).read)).toBe(3);
      const refused = reads.transaction().execute((trx) => known().get(trx, 'a', sum(() => Promise.resolve(3)).read));
      await expect(refused).rejects.toThrow(/read-only/);
    } finally {
      await reads.destroy();
    }
    expect(await rows()).toBe(0);
  });

  it('what is worked out in a transaction that is rolled back is known here and not there', async () => {
    const known = new KnownSums<number>('test', 2, 'r1');
    const rolledBack = db.transaction().execute(async (trx) => {
      await known.get(trx, 'a', sum(() => Promise.resolve(1)).read);
      throw new Error('refused');
    });
    await expect(rolledBack).rejects.toThrow('refused');
    expect(await rows()).toBe(0);
    expect(await known.get(db, 'a', sum(() => Promise.resolve(2)).read)).toBe(1);
  });

  it('is let go of after its days, and beyond the most that are kept, the oldest first', async () => {
    for (const age_days of [0, 1, 2, 40])
      await db
        .insertInto('kept_sum')
        .values({ key: `${age_days} days`, result: Buffer.from('x'), kept_at: sql<Date>`now() - make_interval(days => ${age_days})` })
        .execute();
    expect(await sweepKeptSums(db, 30, 2)).toBe(2);
    expect((await db.selectFrom('kept_sum').select('key').orderBy('key').execute()).map((r) => r.key)).toEqual(['0 days', '1 days']);
  });
});
