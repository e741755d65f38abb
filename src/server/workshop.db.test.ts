import { sql } from 'kysely';
import type { StoredJob } from '@/core/documents/job';
import { NO_DEFAULTS } from '@/core/documents/blank';
import type { StoredPrediction } from '@/core/documents/prediction';
import type { StoredPart, StoredUnit } from '@/core/documents/unit';
import type { FlowBenchReading } from '@/core/stand-ins/flow-bench';
import { POST as postFile } from '@/app/api/files/route';
import { GET as getFile } from '@/app/api/files/[hash]/route';
import { POST as postJob } from '@/app/api/jobs/route';
import { GET as getParts, POST as postPart } from '@/app/api/parts/route';
import { PUT as putPart } from '@/app/api/parts/[id]/route';
import { GET as getGuesses, POST as postGuess } from '@/app/api/predictions/route';
import { PUT as putReading } from '@/app/api/predictions/[id]/route';
import { GET as getDefaults, PUT as putDefaults } from '@/app/api/shop/defaults/route';
import { POST as postBench } from '@/app/api/stand-ins/flow-bench/route';
import { GET as getUnits, POST as postUnits } from '@/app/api/units/route';
import { GET as getUnit, PATCH as patchUnit, PUT as putUnit } from '@/app/api/units/[id]/route';
import { ask, at, bare, json, NOBODY, none, sendBytes, onFreshDatabase } from '../../test/api';
import { aRecord, aUnit } from '../../test/units';
import { db } from './db/client';
import { pictureType } from './files/picture';
import { listUnits } from './units';

onFreshDatabase();

const shelve = async (...units: StoredUnit[]): Promise<StoredUnit[]> =>
  json(await postUnits(ask({ units: units.map((u) => u.doc) }), none));

describe('units', () => {
  it('are put on the shelf in their order, all or none', async () => {
    const before = (await listUnits(db())).length;
    const added = await shelve(aUnit(62), aUnit(66));
    expect(added.map((u) => u.doc.name)).toEqual(['Unit 62', 'Unit 66']);
    const broken = { ...aUnit(70).doc, name: '' };
    expect((await postUnits(ask({ units: [aUnit(68).doc, broken] }), none)).status).toBe(422);
    const now = await json<StoredUnit[]>(await getUnits(bare(), none));
    expect(now).toHaveLength(before + 2);
    expect(now.slice(-2)).toEqual(added);
  });

  it('are saved at the version they were read at; a newer one comes back with the refusal', async () => {
    const [unit] = await shelve(aUnit(62));
    const { id } = unit!;
    const saved = await putUnit(ask({ version: 1, doc: { ...unit!.doc, price: 99 } }, 'PUT'), at({ id }));
    expect(await json(saved)).toMatchObject({ id, version: 2, doc: { price: 99 } });
    const stale = await putUnit(ask({ version: 1, doc: { ...unit!.doc, price: 1 } }, 'PUT'), at({ id }));
    expect(stale.status).toBe(409);
    expect(await json(stale)).toMatchObject({ error: 'stale', current: { version: 2, doc: { price: 99 } } });
    expect(await json(await getUnit(bare(), at({ id })))).toMatchObject({ doc: { price: 99 } });
  });

  it('of five saves at once exactly one lands', async () => {
    const [unit] = await shelve(aUnit(62));
    const answers = await Promise.all(
      [1, 2, 3, 4, 5].map((price) => putUnit(ask({ version: 1, doc: { ...unit!.doc, price } }, 'PUT'), at({ id: unit!.id }))),
    );
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409, 409, 409]);
  });

  it('are refused in words when they cannot be', async () => {
    const [unit] = await shelve(aUnit(62));
    const thick = { ...unit!.doc, throttle: { ...unit!.doc.throttle, shaft_m: 0.07 } };
    const refused = await putUnit(ask({ version: 1, doc: thick }, 'PUT'), at({ id: unit!.id }));
    expect(refused.status).toBe(422);
    expect((await json<{ message: string }>(refused)).message).toMatch(/shaft/i);
  });

  it('a copy is another piece: same make, none of its readings', async () => {
    const [unit] = await shelve(aUnit(66, { bench: [aRecord(0.3)], note: 'mine' }));
    const [copy] = await json<StoredUnit[]>(await postUnits(ask({ duplicateOf: unit!.id }), none));
    expect(copy!.doc).toMatchObject({ name: 'Unit 66 (copy)', throttle: unit!.doc.throttle, bench: [], photo: null, note: 'mine' });
  });

  it('taken off the shelf they stay for the jobs that speak of them', async () => {
    const [unit] = await shelve(aUnit(62));
    await patchUnit(ask({ retired: true }, 'PATCH'), at({ id: unit!.id }));
    const ids = async (also: string[] = []): Promise<string[]> => (await listUnits(db(), also)).map((u) => u.id);
    expect(await ids()).not.toContain(unit!.id);
    expect(await ids([unit!.id, 'not an id'])).toContain(unit!.id);
    await patchUnit(ask({ retired: false }, 'PATCH'), at({ id: unit!.id }));
    expect(await ids()).toContain(unit!.id);
  });

  it('that are not there are said not to be', async () => {
    for (const id of [NOBODY, 'nonsense']) {
      expect((await getUnit(bare(), at({ id }))).status).toBe(404);
      expect((await patchUnit(ask({ retired: true }, 'PATCH'), at({ id }))).status).toBe(404);
      expect((await putUnit(ask({ version: 1, doc: aUnit(62).doc }, 'PUT'), at({ id }))).status).toBe(404);
    }
    expect((await postUnits(ask({ duplicateOf: NOBODY }), none)).status).toBe(404);
  });
});

describe('tested parts', () => {
  const doc = { schema: 1, name: 'Meter 74', kind: 'air meter', bore_m: 0.074, bench: [], note: '' };

  it('are kept, and their records saved like a throttle’s', async () => {
    const part = await json<StoredPart>(await postPart(ask(doc), none));
    const saved = await putPart(ask({ version: 1, doc: { ...part.doc, bench: [aRecord(0.37)] } }, 'PUT'), at({ id: part.id }));
    expect(await json(saved)).toMatchObject({ version: 2, doc: { bench: [{ flow_m3ps: 0.37 }] } });
    expect((await putPart(ask({ version: 1, doc: part.doc }, 'PUT'), at({ id: part.id }))).status).toBe(409);
    expect((await json<StoredPart[]>(await getParts(bare(), none))).map((p) => p.id)).toContain(part.id);
  });

  it('need a name, a known kind and a bore', async () => {
    for (const wrong of [
      { ...doc, name: ' ' },
      { ...doc, kind: 'cup holder' },
      { ...doc, bore_m: 2 },
    ])
      expect((await postPart(ask(wrong), none)).status).toBe(422);
    expect((await putPart(ask({ version: 1, doc }, 'PUT'), at({ id: NOBODY }))).status).toBe(404);
  });
});

describe('guesses', () => {
  const guess = {
    subject: 'bench',
    subjectId: NOBODY,
    title: 'Unit 66 at 28 inH₂O',
    source: 'Maud',
    predicted: 0.3,
    low: 0.29,
    high: 0.31,
  };

  it('come before their reading, which is written once', async () => {
    const made = await json<StoredPrediction>(await postGuess(ask(guess), none));
    expect(made).toMatchObject({ source: 'Maud', measured: null });
    const read = await putReading(ask({ measured: 0.305 }, 'PUT'), at({ id: made.id }));
    expect(await json(read)).toMatchObject({ measured: 0.305, predicted: 0.3 });
    const again = await putReading(ask({ measured: 0.3 }, 'PUT'), at({ id: made.id }));
    expect(again.status).toBe(409);
    expect(await json(again)).toMatchObject({ message: 'This guess has its reading already.' });
    expect((await json<StoredPrediction[]>(await getGuesses(bare(), none)))[0]).toMatchObject({ id: made.id, measured: 0.305 });
  });

  it('cannot be changed afterwards, not even in the database', async () => {
    const made = await json<StoredPrediction>(await postGuess(ask(guess), none));
    await expect(sql`UPDATE prediction SET predicted = 0.4 WHERE id = ${made.id}`.execute(db())).rejects.toThrow(/cannot be changed/);
    await putReading(ask({ measured: 0.305 }, 'PUT'), at({ id: made.id }));
    await expect(sql`UPDATE prediction SET measured = 0.4 WHERE id = ${made.id}`.execute(db())).rejects.toThrow(/reading already/);
  });

  it('with a range that does not hold the guess, or of nobody, are refused', async () => {
    for (const wrong of [
      { ...guess, low: 0.32 },
      { ...guess, source: '' },
      { ...guess, subject: 'weather' },
    ])
      expect((await postGuess(ask(wrong), none)).status).toBe(422);
    expect((await putReading(ask({ measured: 1 }, 'PUT'), at({ id: NOBODY }))).status).toBe(404);
  });
});

describe('what the shop starts with', () => {
  it('is the usual until it is said, and then goes into new jobs', async () => {
    expect(await json(await getDefaults(bare(), none))).toEqual(NO_DEFAULTS);
    const own = { ...NO_DEFAULTS, speed_mps: 80, allowedLoss_Pa: 1200 };
    expect(await json(await putDefaults(ask(own, 'PUT'), none))).toEqual(own);
    const job = await json<StoredJob>(await postJob(ask({ name: 'New', preset: 'straight six, 2.9 L' }), none));
    expect(job.doc.sizing).toMatchObject({ speed_mps: 80, fit_m: null });
    expect(job.doc.air.allowedLoss_Pa).toBe(1200);
    await putDefaults(ask(NO_DEFAULTS, 'PUT'), none);
    expect(await json(await getDefaults(bare(), none))).toEqual(NO_DEFAULTS);
  });

  it('is refused outside what can be', async () => {
    expect((await putDefaults(ask({ ...NO_DEFAULTS, speed_mps: 900 }, 'PUT'), none)).status).toBe(422);
    expect((await putDefaults(ask({ ...NO_DEFAULTS, allowedLoss_Pa: 1 }, 'PUT'), none)).status).toBe(422);
  });
});

describe('pictures', () => {
  const put = async (bytes: Uint8Array<ArrayBuffer>): Promise<string> =>
    (await json<{ hash: string }>(await postFile(sendBytes(bytes), none))).hash;
  const PNG = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3]);
  const DOT = Uint8Array.from(
    Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64'),
  );

  it('are known by their bytes, not by their name', () => {
    expect(pictureType(PNG)).toBe('image/png');
    expect(pictureType(Uint8Array.from([0xff, 0xd8, 0xff, 0xe0]))).toBe('image/jpeg');
    expect(pictureType(Uint8Array.from([...Buffer.from('RIFF????WEBP')]))).toBe('image/webp');
    expect(pictureType(Uint8Array.from([...Buffer.from('<svg onload=alert(1)>')]))).toBeNull();
    expect(pictureType(new Uint8Array(0))).toBeNull();
  });

  it('come back as what they are, and nothing else does', async () => {
    const response = await getFile(bare(), at({ hash: await put(DOT) }));
    expect(response.headers.get('content-type')).toBe('image/png');
    expect(pictureType(new Uint8Array(await response.arrayBuffer()))).toBe('image/png');
    const page = await put(new TextEncoder().encode('<script>alert(1)</script>'));
    expect((await getFile(bare(), at({ hash: page }))).status).toBe(415);
    expect((await getFile(bare(), at({ hash: 'a'.repeat(64) }))).status).toBe(404);
    expect((await getFile(bare(), at({ hash: '../../etc' }))).status).toBe(404);
  });
});

describe('the flow-bench stand-in', () => {
  const settings = { throttle: aUnit(66).doc.throttle, depression_Pa: 6974.49, entryK: 0.04, seed: 3 };

  it('streams a reading a line as they come, and stops when nobody reads', async () => {
    const ending = new AbortController();
    const response = await postBench(ask(settings, 'POST', ending.signal), none);
    expect(response.headers.get('content-type')).toBe('application/x-ndjson');
    const reader = response.body!.getReader();
    const seen: FlowBenchReading[] = [];
    for (let i = 0; i < 3; i += 1) {
      const { value } = await reader.read();
      seen.push(JSON.parse(new TextDecoder().decode(value)) as FlowBenchReading);
    }
    expect(seen.map((r) => r.t_s)).toEqual([0, 0.1, 0.2]);
    expect(seen[2]!.flow_m3ps).toBeGreaterThan(0);
    await reader.cancel();
    expect((await reader.read()).done).toBe(true);
  });

  it('refuses a depression no bench pulls', async () => {
    expect((await postBench(ask({ ...settings, depression_Pa: 90_000 }), none)).status).toBe(422);
  });
});
