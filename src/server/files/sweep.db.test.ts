import { sql } from 'kysely';
import { freshDatabase } from '../../../test/database';
import { aUnit } from '../../../test/units';
import { loadDemo } from '../demo/load';
import { addUnit, saveUnit } from '../units';
import { storeFile } from './store';
import { KEPT_UNPOINTED_days, sweepUnpointed } from './sweep';

let fresh: Awaited<ReturnType<typeof freshDatabase>>;
const db = () => fresh.db;
beforeAll(async () => {
  fresh = await freshDatabase();
});
afterAll(() => fresh.drop());

const store = async (text: string): Promise<string> =>
  (
    await db()
      .transaction()
      .execute((trx) => storeFile(trx, [new TextEncoder().encode(text)]))
  ).hash;
const grow = (days: number) => sql`UPDATE file SET created_at = created_at - make_interval(days => ${days})`.execute(db());
const there = async (hash: string) => (await db().selectFrom('file').select('hash').where('hash', '=', hash).execute()).length === 1;

it('what nothing points at goes once it is old; what a document, a former version or a recording names stays', async () => {
  await db()
    .transaction()
    .execute((trx) => loadDemo(trx));
  const before = (await db().selectFrom('file').select('hash').execute()).length;
  const [lost, pictured, former] = [await store('nobody’s'), await store('a picture'), await store('a picture of before')];
  const { doc } = aUnit(62);
  await db()
    .transaction()
    .execute(async (trx) => {
      const unit = await addUnit(trx, { ...doc, name: `named ${former}`.slice(0, 80) });
      await saveUnit(trx, unit.id, unit.version, { ...unit.doc, name: `named ${pictured}`.slice(0, 80) });
    });
  await sql`INSERT INTO document_version (kind, doc_id, version, doc, saved_by, saved_at)
    VALUES ('unit', ${crypto.randomUUID()}, 1, ${JSON.stringify({ picture: former })}::jsonb, '', now())`.execute(db());
  await grow(KEPT_UNPOINTED_days - 1);
  expect(await sweepUnpointed(db())).toBe(0);
  await grow(2);
  expect(await sweepUnpointed(db())).toBe(1);
  expect([await there(lost), await there(pictured), await there(former)]).toEqual([false, true, true]);
  expect((await db().selectFrom('file').select('hash').execute()).length).toBe(before + 2);
});

it('many old files that are pointed at do not hide one that is not', async () => {
  const hashes: string[] = [];
  for (let i = 0; i < 230; i += 1) hashes.push(await store(`pictured ${i}`));
  await sql`INSERT INTO document_version (kind, doc_id, version, doc, saved_by, saved_at)
    VALUES ('unit', ${crypto.randomUUID()}, 1, ${JSON.stringify(hashes)}::jsonb, '', now())`.execute(db());
  const lost = await store('nobody’s, and newer');
  await grow(KEPT_UNPOINTED_days + 1);
  expect(await sweepUnpointed(db())).toBe(1);
  expect(await there(lost)).toBe(false);
});

it('one that is sent again counts as new: what will point at it may not be saved yet', async () => {
  const again = await store('given up, then wanted after all');
  await grow(KEPT_UNPOINTED_days + 1);
  expect(await store('given up, then wanted after all')).toBe(again);
  await sweepUnpointed(db());
  expect(await there(again)).toBe(true);
});

it('what is still coming in, or waits for a worker, is not its business', async () => {
  for (const hash of ['incoming-1', 'work-1']) await db().insertInto('file').values({ hash, size: 0 }).execute();
  await grow(60);
  await sweepUnpointed(db());
  expect([await there('incoming-1'), await there('work-1')]).toEqual([true, true]);
});
