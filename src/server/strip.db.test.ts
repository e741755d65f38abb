import { jobStrip } from '@/core/job/strip';
import { presetJob } from '@/core/job/presets';
import { stripPassDoc, stripVisitDoc, type StripPassDoc } from '@/core/documents/strip';
import { towerSlip } from '@/core/stand-ins/tower';
import { DEMO_UNITS } from '@/server/demo/larkspur';
import { freshDatabase } from '../../test/database';
import type { Db, Trx } from './db/client';
import { towerCar } from './devices/strip';
import { jobFacts } from './facts';
import { restoreVersion } from './history';
import { addJob, jobFinding, refreshFinding } from './jobs';
import { addPasses, addVisit, addWeather, readBook, savePass, saveVisit } from './strip';
import { setTrashed } from './trash';
import { addUnit } from './units';

let db: Db;
let drop: () => Promise<void>;
beforeAll(async () => ({ db, drop } = await freshDatabase()));
afterAll(() => drop());
const within = <T>(work: (trx: Trx) => Promise<T>): Promise<T> => db.transaction().execute(work);

const VISIT = stripVisitDoc.parse({
  schema: 1,
  track: 'Thornby strip',
  takenOn: '2026-04-25',
  mass_kg: 1480,
  entryFee: 55,
  perPassFee: 2,
  weather: [{ at: '10:00', p_Pa: 100_200, T_K: 290, rh: 0.5 }],
});

async function driven(passes: number, gain = 0.05) {
  const unit = await addUnit(db, DEMO_UNITS[1]!);
  const doc = presetJob('Strip car', 'straight six, 2.9 L');
  const job = await within((trx) => addJob(trx, { ...doc, pick: { ...doc.pick, shown: [unit.id], chosen: unit.id } }));
  const car = await towerCar(db, job.doc, null, 1480);
  const pass = (i: number): StripPassDoc =>
    stripPassDoc.parse({
      schema: 1,
      at: `1${Math.floor(i / 2)}:${i % 2 === 0 ? '10' : '40'}`,
      side: i % 2 === 0 ? { kind: 'stock' } : { kind: 'unit', unitId: unit.id },
      slip: towerSlip({ car: { ...car, power_W: car.power_W * (i % 2 === 0 ? 1 : 1 + gain) }, seed: 4, pass: i }),
    });
  const visit = await within((trx) => addVisit(trx, job.id, VISIT));
  await within(async (trx) => {
    await addPasses(
      trx,
      visit.id,
      Array.from({ length: passes }, (_, i) => pass(i)),
    );
    await refreshFinding(trx, job.id);
  });
  return { job, unit, visit };
}

it('keeps a day at the strip and compares its sides', async () => {
  const { job, unit } = await driven(10);
  const book = await readBook(db, job.id);
  expect(book.visits).toHaveLength(1);
  expect(book.passes.map((p) => p.doc.at)).toEqual([...book.passes.map((p) => p.doc.at)].sort());
  const found = jobStrip(job.doc, await readBook(db, job.id)).analysis!;
  expect(found.effects.trap_mps).toMatchObject({ answer: { word: 'gain' } });
  const { stops } = await jobFinding(db, job.id);
  expect(stops.find((s) => s.stop === 'test')).toMatchObject({ strip: { word: 'gain', passes: 10 }, state: 'settled' });
  const facts = await jobFacts(db, job.id, job.doc);
  expect(facts).toMatchObject({ unitId: unit.id, comparison: null, stripCost: 75 });
});

it('refuses a slip that cannot be, and then nothing of its batch is kept', async () => {
  const { job, visit } = await driven(2);
  const good = (await readBook(db, job.id)).passes[0]!.doc;
  const bad = { ...good, slip: { ...good.slip, t402_s: 3 } };
  await expect(within((trx) => addPasses(trx, visit.id, [good, bad]))).rejects.toThrow(/cannot be/);
  expect((await readBook(db, job.id)).passes).toHaveLength(2);
});

it('saves a pass and a visit over the version they were read at only', async () => {
  const { job, visit } = await driven(2);
  const [pass] = (await readBook(db, job.id)).passes;
  const saved = await within((trx) => savePass(trx, pass!.id, 1, { ...pass!.doc, note: 'spun a little' }));
  expect(saved.version).toBe(2);
  await expect(within((trx) => savePass(trx, pass!.id, 1, pass!.doc))).rejects.toMatchObject({ status: 409, code: 'stale' });
  await within((trx) => saveVisit(trx, visit.id, 1, { ...VISIT, note: 'cold track' }));
  await expect(within((trx) => saveVisit(trx, visit.id, 1, VISIT))).rejects.toMatchObject({ status: 409 });
});

it('what the strip says is worked out once for what it is told, and anew for anything else', async () => {
  const { job } = await driven(6);
  const strip = async (doc = job.doc) => (await jobFacts(db, job.id, doc)).strip;
  const first = await strip();
  expect(await strip()).toBe(first);
  expect(await strip({ ...job.doc, name: 'Another name' })).toBe(first);
  const wider = { ...job.doc.test.strip, trap_mps: 2 };
  expect(await strip({ ...job.doc, test: { ...job.doc.test, strip: wider } })).not.toEqual(first);
  const [pass] = (await readBook(db, job.id)).passes;
  await within((trx) => savePass(trx, pass!.id, 1, { ...pass!.doc, leftOut: 'missed third' }));
  const then = await strip();
  expect(then!.passes.filter((p) => p.stored.doc.leftOut === null)).toHaveLength(5);
  expect(then).not.toEqual(first);
});

it('a visit in the trash takes its passes with it, and brings them back', async () => {
  const { job, visit } = await driven(4);
  expect(await within((trx) => setTrashed(trx, 'strip_visit', visit.id, true))).toBe(job.id);
  expect(await readBook(db, job.id)).toEqual({ visits: [], passes: [] });
  expect(jobStrip(job.doc, await readBook(db, job.id)).analysis).toBeNull();
  await within((trx) => setTrashed(trx, 'strip_visit', visit.id, false));
  expect((await readBook(db, job.id)).passes).toHaveLength(4);
});

it('a pass brought back to what it was counts again in what the job comes to', async () => {
  const { job } = await driven(10);
  const [pass] = (await readBook(db, job.id)).passes;
  const word = async () => (await jobFinding(db, job.id)).stops.find((s) => s.stop === 'test');
  const before = await word();
  await within(async (trx) => {
    await savePass(trx, pass!.id, 1, { ...pass!.doc, leftOut: 'missed third' });
    await refreshFinding(trx, job.id);
  });
  expect(await word()).toMatchObject({ strip: { passes: 9 } });
  await within((trx) => restoreVersion(trx, 'strip_pass', pass!.id, 1, 2));
  expect(await word()).toEqual(before);
});

it('passes of a visit that is gone are refused', async () => {
  const { job } = await driven(2);
  const [pass] = (await readBook(db, job.id)).passes;
  await expect(within((trx) => addPasses(trx, crypto.randomUUID(), [pass!.doc]))).rejects.toMatchObject({ status: 404 });
});

it('days, passes and readings with marks of their own are taken once, however often they are sent', async () => {
  const { job, visit } = await driven(2);
  const id = '00000000-0000-4000-8000-0000000000aa';
  const pass = { ...stripPassDoc.parse({ schema: 1, slip: {} }), id };
  for (let i = 0; i < 3; i += 1) {
    expect((await within((trx) => addPasses(trx, visit.id, [pass])))[0]!.id).toBe(id);
    const day = await within((trx) => addVisit(trx, job.id, VISIT, '00000000-0000-4000-8000-0000000000ab'));
    expect(day.id).toBe('00000000-0000-4000-8000-0000000000ab');
  }
  const book = await readBook(db, job.id);
  expect([book.passes.length, book.visits.length]).toEqual([3, 2]);
  await expect(within((trx) => addPasses(trx, book.visits.find((v) => v.id !== visit.id)!.id, [pass]))).rejects.toThrow('another day');
  // The day was changed elsewhere meanwhile: both stand.
  await within((trx) => saveVisit(trx, visit.id, visit.version, { ...visit.doc, note: 'windy' }));
  const reading = { at: '12:00', p_Pa: 100_000, T_K: 295, rh: 0.4, from: 'typed' as const, rhGuessed: false };
  for (let i = 0; i < 2; i += 1) await within((trx) => addWeather(trx, visit.id, [reading]));
  const { doc } = (await readBook(db, job.id)).visits.find((v) => v.id === visit.id)!;
  expect([doc.note, doc.weather.map((w) => w.at)]).toEqual(['windy', ['10:00', '12:00']]);
});
