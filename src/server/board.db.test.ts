import { boardPage, boardQuery } from './board';
import type { Db } from './db/client';
import { loadDemo, loadExample, removeExamples } from './demo/load';
import { readJob, saveJob, setArchived } from './jobs';
import { search } from './search';
import { listUnits } from './units';
import { freshDatabase } from '../../test/database';

let db: Db;
let drop: () => Promise<void>;
beforeAll(async () => {
  ({ db, drop } = await freshDatabase());
  await db.transaction().execute(loadDemo);
}, 120_000);
afterAll(() => drop());

const names = async (asked: Record<string, string>): Promise<string[]> =>
  (await boardPage(db, boardQuery.parse(asked), null)).jobs.map((j) => j.name);
const jobNamed = async (name: string) => (await boardPage(db, {}, null)).jobs.find((j) => j.name.startsWith(name))!;

it('shows every car, the last touched first, and counts them', async () => {
  const page = await boardPage(db, {}, null);
  expect(page).toMatchObject({ total: 5, all: 5, archived: 0 });
  expect(page.jobs[0]!.name).toBe('Larkspur estate');
});

it('is narrowed by words, state, verdict, who and since; what is no filter is left out', async () => {
  expect(await names({ q: 'heron COUPÉ' })).toEqual(['Heron coupé']);
  expect(await names({ q: '100%_' })).toEqual([]);
  const all = (await names({})).toSorted();
  expect([...(await names({ state: 'tested' })), ...(await names({ state: 'not tested' }))].toSorted()).toEqual(all);
  const kept = await names({ verdict: 'keep' });
  expect(kept).toContain('Larkspur estate');
  expect(kept.length).toBeLessThan(4);
  const sinceAt = async (at: Date) => (await boardPage(db, {}, at)).jobs.map((j) => j.name);
  const last = new Date((await boardPage(db, {}, null)).jobs[0]!.savedAt);
  expect(await sinceAt(new Date(last.getTime() + 1000))).toEqual([]);
  expect(await sinceAt(new Date(last.getTime() - 1))).toContain('Larkspur estate');
  expect(await names({ since: 'last spring', state: 'lost', page: 'x' })).toHaveLength(5);
  expect(await names({ who: 'nobody of that name' })).toEqual([]);
});

it('is sorted by name and by number, both ways', async () => {
  const up = await names({ sort: 'name', up: '1' });
  expect(up).toEqual(up.toSorted((a, b) => a.toLowerCase().localeCompare(b.toLowerCase())));
  expect(await names({ sort: 'name' })).toEqual(up.toReversed());
  expect(await names({ sort: 'number', up: '1' })).toEqual((await names({ sort: 'number' })).toReversed());
});

it('owner and plate are found by the board and the search; tags and archived jobs apart', async () => {
  const { id } = await jobNamed('Pipit');
  const { doc, version } = await readJob(db, id);
  const about = { ...doc.about, owner: 'Imke Voss', plate: 'QL 66 PIP', mileage_m: 1.24e8 };
  await db.transaction().execute((trx) => saveJob(trx, id, version, { ...doc, about, tags: ['track day'] }));
  expect(await names({ q: 'voss' })).toEqual([doc.name]);
  expect(await names({ tag: 'track day' })).toEqual([doc.name]);
  expect((await search(db, 'ql 66')).map((f) => f.title)).toEqual([doc.name]);
  expect((await boardPage(db, {}, null)).tags).toContain('track day');
  await db.transaction().execute((trx) => setArchived(trx, id, true));
  expect(await names({})).not.toContain(doc.name);
  expect(await names({ state: 'archived' })).toEqual([doc.name]);
  expect(await boardPage(db, {}, null)).toMatchObject({ total: 4, all: 4, archived: 1 });
});

it('the example comes in one go with its throttles, says what it is, and goes again', async () => {
  const before = (await listUnits(db)).length;
  const job = await db.transaction().execute(loadExample);
  expect(job.doc.tags).toEqual(['example']);
  expect((await jobNamed('Larkspur estate, an example')).findings.stops.find((s) => s.stop === 'verdict')).toMatchObject({ word: 'keep' });
  expect((await listUnits(db)).length).toBeGreaterThan(before);
  expect(await db.transaction().execute(removeExamples)).toBe(1);
  expect((await listUnits(db)).length).toBe(before);
  expect(await names({ tag: 'example' })).toEqual([]);
  expect(await names({ q: 'larkspur' })).toEqual(['Larkspur estate']);
}, 60_000);
