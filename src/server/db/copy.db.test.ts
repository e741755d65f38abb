import { sql } from 'kysely';
import { freshDatabase } from '../../../test/database';
import { copyRows, int2, int4, text, uuid } from './copy';

let fresh: Awaited<ReturnType<typeof freshDatabase>>;
const database = () => fresh.db;
beforeAll(async () => {
  fresh = await freshDatabase();
});
afterAll(() => fresh.drop());

beforeEach(() => sql`CREATE TABLE copied (name text PRIMARY KEY, id uuid, small smallint, n integer, bytes bytea)`.execute(database()));
afterEach(() => sql`DROP TABLE copied`.execute(database()));

const COLUMNS = ['name', 'id', 'small', 'n', 'bytes'];
const ID = '6f1f0a9e-3c1f-4a53-9a4e-0d2f6a3a1b2c';
const all = async () => (await sql`SELECT * FROM copied ORDER BY name`.execute(database())).rows;

it('gives back what it was given: words of any script, whole numbers to their ends, bytes short and long', async () => {
  const long = Uint8Array.from({ length: 300_000 }, (_, i) => (i * 7) % 256);
  const shared = new Uint8Array(new SharedArrayBuffer(1 << 20)).fill(9);
  await copyRows(database(), 'copied', COLUMNS, [
    [text('a\\N\t"quote"\n'), uuid(ID), int2(-32_768), int4(-2_147_483_648), new Uint8Array(0)],
    [text('b Öl 油'), uuid(ID), int2(32_767), int4(2_147_483_647), long],
    [text('c'), uuid(ID), int2(0), int4(0), shared],
  ]);
  expect(await all()).toEqual([
    { name: 'a\\N\t"quote"\n', id: ID, small: -32_768, n: -2_147_483_648, bytes: Buffer.alloc(0) },
    { name: 'b Öl 油', id: ID, small: 32_767, n: 2_147_483_647, bytes: Buffer.from(long) },
    { name: 'c', id: ID, small: 0, n: 0, bytes: Buffer.from(shared) },
  ]);
});

it('is all or none, and a refusal costs no connection', async () => {
  const row = (name: string) => [text(name), uuid(ID), int2(1), int4(1), new Uint8Array(5000)];
  for (let i = 0; i < 15; i += 1)
    await expect(copyRows(database(), 'copied', COLUMNS, [row('x'), row('y'), row('x')])).rejects.toThrow('duplicate key');
  expect(await all()).toEqual([]);
  await copyRows(database(), 'copied', COLUMNS, [row('x')]);
  await copyRows(database(), 'copied', COLUMNS, []);
  expect(await all()).toHaveLength(1);
});

it('rows that break off while they are made leave nothing', async () => {
  function* rows() {
    yield [text('x'), uuid(ID), int2(1), int4(1), new Uint8Array(9000)];
    throw new Error('no more');
  }
  await expect(copyRows(database(), 'copied', COLUMNS, rows())).rejects.toThrow('no more');
  expect(await all()).toEqual([]);
});
