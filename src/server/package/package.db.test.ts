import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { sql } from 'kysely';
import { cutText } from '@/core/cut-text';
import { packageDoc, packageJsonSchema, type PackageDoc } from '@/core/documents/package';
import { presetJob } from '@/core/job/presets';
import type { ImportReport } from '@/core/read/result';
import { TableReader } from '@/core/read/reader';
import { loadDemo } from '@/server/demo/load';
import { freshDatabase } from '../../../test/database';
import type { Db } from '../db/client';
import { jobFacts } from '../facts';
import { filePieces, storeFile } from '../files/store';
import { listVersions } from '../history';
import { addJob, listJobs, readJob, saveJob } from '../jobs';
import { addRuns, listRuns, saveRun } from '../runs';
import { setTrashed } from '../trash';
import { asPerson } from '../who';
import { takeInPackage } from './read';
import { packageOf, packageStream } from './write';

let from: Db;
let to: Db;
let drops: (() => Promise<void>)[];
let larkspur: string;
let archive: Uint8Array;

const collected = async (stream: ReadableStream<Uint8Array>): Promise<Uint8Array> =>
  new Uint8Array(await new Response(stream).arrayBuffer());
const streamOf = (bytes: Uint8Array, piece = 65_536): ReadableStream<Uint8Array> => {
  let at = 0;
  return new ReadableStream({
    pull(c) {
      if (at >= bytes.length) return c.close();
      c.enqueue(bytes.slice(at, at + piece));
      at += piece;
    },
  });
};
const bytesOf = async (db: Db, hash: string): Promise<Buffer> => {
  const all: Buffer[] = [];
  for await (const p of filePieces(db, hash)) all.push(p);
  return Buffer.concat(all);
};

beforeAll(async () => {
  const [a, b] = [await freshDatabase(), await freshDatabase()];
  [from, to, drops] = [a.db, b.db, [a.drop, b.drop]];
  await from.transaction().execute((trx) => loadDemo(trx));
  larkspur = (await listJobs(from)).find((j) => j.name === 'Larkspur estate')!.id;
  // Something in every corner of a job: an older version, a run in the trash, and samples that are awkward as text.
  const { doc, version } = await readJob(from, larkspur);
  await asPerson('Maud', () => from.transaction().execute((trx) => saveJob(trx, larkspur, version, { ...doc, tags: ['towing', 'kept'] })));
  const [run] = await listRuns(from, larkspur);
  await from.transaction().execute((trx) => saveRun(trx, run!.id, run!.version, { ...run!.doc, tune: 'as it came, "quoted", ünïcode' }));
  await from.transaction().execute((trx) => setTrashed(trx, 'run', run!.id, true));
  const awkward = new TextEncoder().encode(
    'Engine speed (rpm),Power (kW)\n2000,0.1\n2025,1e-300\n2050,\n2075,123456789.123456789\n2100,-0\n2125,5e-324\n3000,40\n',
  );
  await from.transaction().execute(async (trx) => {
    const { hash } = await storeFile(trx, streamOf(awkward));
    const reader = new TableReader();
    reader.push(awkward);
    const read = reader.finish();
    if (read.refused !== null) throw new Error(read.refused);
    const file = { jobId: larkspur, hash, fileName: 'awkward, "quoted".csv', side: null, report: read.report };
    await addRuns(trx, { ...file, columns: read.columns });
    // Another table of the same file, its names as odd as an older release or another program could have kept them.
    const odd = ['Engine\nspeed, "rpm"', '=漢字 \r\n Š ł 🛠'];
    await addRuns(trx, { ...file, part: 'sheet › 2', columns: read.columns.map((c, i) => ({ ...c, name: odd[i]! })) });
  });
  archive = await collected(packageStream(from, await packageOf(from, larkspur)));
});
afterAll(async () => {
  for (const drop of drops) await drop();
});

/** A package without what belongs to the moment it was written and to the shop's own counting. */
const compared = (p: PackageDoc) => ({
  ...p,
  exportedAt: '',
  shop: '',
  job: { ...p.job, number: 0, savedAt: '', savedBy: '', archived: false },
});

const blocksOf = (db: Db, jobId: string) =>
  sql<object>`SELECT log_id, col, block, width, decimals, md5(data) AS h FROM log_block
    WHERE log_id IN (SELECT id FROM log WHERE job_id = ${jobId}) ORDER BY 1, 2, 3`.execute(db);

/** What the reader says of a table of four rows. */
function awkwardReport(): ImportReport {
  const reader = new TableReader();
  reader.push(strToU8('a,b\n1,2\n3,4\n5,6\n7,8\n'));
  const read = reader.finish();
  if (read.refused !== null) throw new Error(read.refused);
  return read.report;
}

describe('a job’s archive', () => {
  it('holds what it says, by a published schema', () => {
    const files = unzipSync(archive);
    expect(Object.keys(files)).toEqual(expect.arrayContaining(['README.txt', 'job.json', 'schema.json']));
    const doc = packageDoc.parse(JSON.parse(new TextDecoder().decode(files['job.json'])));
    expect(doc.files.length).toBeGreaterThan(8);
    for (const f of doc.files) expect(files[f.path]?.length).toBe(f.size);
    const oneLine = (l: PackageDoc['logs'][number]): boolean => !l.columns.some((c) => /[\n\r]/.test(String(c['name'])));
    for (const l of doc.logs.filter(oneLine))
      expect(new TextDecoder().decode(files[`logs/${l.id}.csv`]).split('\n').length).toBe(l.rows + 3);
    const schema = packageJsonSchema() as { properties: object };
    expect(JSON.parse(new TextDecoder().decode(files['schema.json']))).toEqual(JSON.parse(JSON.stringify(schema)));
    expect(Object.keys(schema.properties)).toEqual(expect.arrayContaining(['job', 'runs', 'passes', 'sheet', 'history']));
  });

  it('goes into another installation without loss: originals byte for byte, samples bit for bit, all else value for value', async () => {
    const taken = await takeInPackage(to, streamOf(archive, 10_007));
    expect(taken).toMatchObject({ id: larkspur, name: 'Larkspur estate', units: 3, passes: 12 });
    const [a, b] = [await packageOf(from, larkspur), await packageOf(to, larkspur)];
    expect(compared(b)).toEqual(compared(a));
    for (const f of a.files) expect(await bytesOf(to, f.hash)).toEqual(await bytesOf(from, f.hash));
    expect((await blocksOf(to, larkspur)).rows).toEqual((await blocksOf(from, larkspur)).rows);
    expect((await listVersions(to, 'job', larkspur)).map((v) => [v.version, v.savedBy])).toEqual(
      (await listVersions(from, 'job', larkspur)).map((v) => [v.version, v.savedBy]),
    );
    const [x, y] = [await readJob(from, larkspur), await readJob(to, larkspur)];
    // What was measured is the same there; what is made of it also stands on the other shop's own history.
    const facts = async (db: Db, doc: typeof x.doc) => {
      const { comparison, strip, guesses, confounders, stripCost } = await jobFacts(db, larkspur, doc);
      const { study, a_W, b_W, grid_rpm } = comparison!;
      return JSON.parse(
        JSON.stringify({
          study,
          a_W,
          b_W,
          grid_rpm,
          passes: strip!.passes,
          guesses: guesses.toSorted((a, b) => a.id.localeCompare(b.id)),
          codes: confounders.map((c) => c.code),
          stripCost,
        }),
      ) as object;
    };
    expect(await facts(to, y.doc)).toEqual(await facts(from, x.doc));
  });

  it('of any job that can be made goes out and in without loss', async () => {
    const words = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 60 }).filter((t) => t.trim() === t && t !== '');
    const samples = fc.array(
      fc.oneof(
        fc.double({ noDefaultInfinity: true }),
        fc.integer().map((n) => n / 100),
      ),
      { minLength: 4, maxLength: 4 },
    );
    const column = fc.record({ name: words, unit: fc.oneof(fc.constant(''), words), samples });
    const recording = fc.record({
      fileName: words,
      tune: words,
      columns: fc.array(column, { minLength: 1, maxLength: 5 }),
      trashed: fc.boolean(),
    });
    const job = fc.record({
      name: words,
      tags: fc.uniqueArray(
        words.map((w) => cutText(w, 20).trim() || 'x'),
        { maxLength: 4 },
      ),
      files: fc.array(recording, { maxLength: 3 }),
    });
    const report = awkwardReport();
    await fc.assert(
      fc.asyncProperty(job, async ({ name, tags, files }) => {
        const id = await from.transaction().execute(async (trx) => {
          const made = await addJob(trx, { ...presetJob(name, 'straight six, 2.9 L'), tags });
          for (const [i, file] of files.entries()) {
            const { hash } = await storeFile(trx, streamOf(strToU8(`${name} ${i} ${file.fileName}`)));
            const columns = file.columns.map((c) => ({ ...c, blocks: [Float64Array.from(c.samples)], count: 4 }));
            const [run] = await addRuns(trx, { jobId: made.id, hash, fileName: file.fileName, side: null, columns, report });
            await saveRun(trx, run!.id, run!.version, { ...run!.doc, tune: file.tune });
            if (file.trashed) await setTrashed(trx, 'run', run!.id, true);
          }
          return made.id;
        });
        const out = await packageOf(from, id);
        await takeInPackage(to, streamOf(await collected(packageStream(from, out))));
        expect(compared(await packageOf(to, id))).toEqual(compared(out));
        expect((await blocksOf(to, id)).rows).toEqual((await blocksOf(from, id)).rows);
      }),
      { numRuns: 25, seed: 1311, endOnFailure: true },
    );
  }, 120_000);

  it('taken in where it is already becomes a second job, and leaves the first alone', async () => {
    const before = await packageOf(to, larkspur);
    const again = await takeInPackage(to, streamOf(archive));
    expect(again.id).not.toBe(larkspur);
    expect(again.units).toBe(0);
    expect(await packageOf(to, larkspur)).toEqual({ ...before, exportedAt: expect.any(String) });
    const copy = await packageOf(to, again.id);
    expect(copy.runs).toHaveLength(before.runs.length);
    expect(copy.passes.every((p) => copy.visits.some((v) => v.id === p.visitId))).toBe(true);
    expect(copy.history.every((h) => [copy.job, ...copy.runs, ...copy.visits, ...copy.passes].some((d) => d.id === h.id))).toBe(true);
    expect(new Set([...copy.runs, ...before.runs].map((r) => r.id)).size).toBe(2 * before.runs.length);
  });
});

const STRANGER = '11111111-2222-4333-8444-555555555555';
const logOf = (files: Record<string, Uint8Array>): string => Object.keys(files).find((n) => n.startsWith('logs/'))!;

describe('what is no archive of a job is refused with the reason, and nothing of it stays', () => {
  const counts = async () =>
    (
      await sql<{
        n: string;
      }>`SELECT (SELECT count(*) FROM job) || '/' || (SELECT count(*) FROM run) || '/' || (SELECT count(*) FROM file) AS n`.execute(to)
    ).rows[0]!.n;
  const changed = (edit: (files: Record<string, Uint8Array>) => void): Uint8Array => {
    const files = unzipSync(archive);
    edit(files);
    return zipSync(files, { level: 1 });
  };
  const job = (files: Record<string, Uint8Array>, edit: (doc: PackageDoc) => unknown): void => {
    const doc = JSON.parse(new TextDecoder().decode(files['job.json'])) as PackageDoc;
    files['job.json'] = strToU8(JSON.stringify(edit(doc)));
  };

  it.each([
    ['a text', () => strToU8('rpm,power\n2000,40\n'), /no job of Vanner|not a zip/],
    ['an empty file', () => new Uint8Array(0), /no job of Vanner|not a zip/],
    ['another zip', () => zipSync({ 'a.txt': strToU8('hello') }), /no job\.json/],
    ['a cut-off archive', () => archive.slice(0, archive.length >> 1), /missing|broken|not all|no job\.json/],
    ['a job of a later release', () => changed((f) => job(f, (d) => ({ ...d, version: 2 }))), /newer Vanner/],
    ['another format', () => changed((f) => job(f, (d) => ({ ...d, format: 'other' }))), /not a job of Vanner/],
    [
      'a field that cannot be',
      () => changed((f) => job(f, (d) => ({ ...d, job: { ...d.job, doc: { ...d.job.doc, name: '' } } }))),
      /job\.doc\.name/,
    ],
    [
      'an original that was changed',
      () =>
        changed((f) => {
          const name = Object.keys(f).find((n) => n.startsWith('originals/'))!;
          f[name] = strToU8('changed');
        }),
      /missing in this archive, or not what it was/,
    ],
    [
      'samples that are missing',
      () =>
        changed((f) => {
          const name = Object.keys(f).find((n) => n.startsWith('logs/'))!;
          f[name] = f[name]!.slice(0, f[name]!.length >> 1);
        }),
      /not all in this archive|cells instead/,
    ],
    [
      'a run of another job’s recording',
      () => changed((f) => job(f, (d) => ({ ...d, runs: d.runs.map((r) => ({ ...r, logId: STRANGER })) }))),
      /a run is of a recording/,
    ],
    [
      'a pass of another job’s day',
      () => changed((f) => job(f, (d) => ({ ...d, passes: d.passes.map((p) => ({ ...p, visitId: STRANGER })) }))),
      /a pass is of a day/,
    ],
    [
      'a former version of another job',
      () =>
        changed((f) =>
          job(f, (d) => ({
            ...d,
            history: [...d.history, { kind: 'job', id: STRANGER, version: 1, savedBy: '', savedAt: d.exportedAt, doc: {} }],
          })),
        ),
      /a former version is of a document/,
    ],
    ['a throttle that is not in it', () => changed((f) => job(f, (d) => ({ ...d, units: [] }))), /speaks of a throttle/],
    [
      'two things of one id',
      () => changed((f) => job(f, (d) => ({ ...d, passes: d.passes.map((p) => ({ ...p, id: d.job.id })) }))),
      /the same id/,
    ],
    [
      'a recording of a million channels',
      () => changed((f) => (f[logOf(f)] = strToU8(`a\nb\n${'1,'.repeat(1e6)}1\n`))),
      /channels at most|longer than any line/,
    ],
    ['a line without an end', () => changed((f) => (f[logOf(f)] = strToU8(`a\nb\n${'1'.repeat(4e6)}`))), /longer than any line/],
    ['a bomb', () => changed((f) => (f[logOf(f)] = new Uint8Array(3e8).fill(10))), /times what was sent|more samples/],
  ])('%s', async (_what, bytes, why) => {
    const before = await counts();
    await expect(takeInPackage(to, streamOf(bytes()))).rejects.toMatchObject({ status: 422, message: expect.stringMatching(why) });
    expect(await counts()).toBe(before);
  });
});

it('an archive whose ids are taken here by another job gets new ones, and touches nothing of that job', async () => {
  const before = await packageOf(to, larkspur);
  const files = unzipSync(archive);
  const doc = JSON.parse(new TextDecoder().decode(files['job.json'])) as PackageDoc;
  // Another job by its own id, all the rest as the first one's.
  const stranger = { ...doc, job: { ...doc.job, id: STRANGER } };
  files['job.json'] = strToU8(JSON.stringify(stranger).replaceAll(doc.job.id, STRANGER));
  const taken = await takeInPackage(to, streamOf(zipSync(files, { level: 1 })));
  expect(taken.id).not.toBe(larkspur);
  const after = await packageOf(to, larkspur);
  expect({ ...after, exportedAt: '' }).toEqual({ ...before, exportedAt: '' });
  const mine = await packageOf(to, taken.id);
  expect(mine.runs.length).toBe(before.runs.length);
  for (const r of mine.runs) expect(before.runs.some((x) => x.id === r.id)).toBe(false);
});
