import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import { TableReader } from '@/core/read/reader';
import type { StoredRun } from '@/core/documents/run';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/kinds';
import { packBlock } from '@/core/read/packed-block';
import { storeFile, filePieces, fileSize, IncomingFile, sweepIncoming } from './files/store';
import { StagedLog } from './log-blocks';
import type { Db, Trx } from './db/client';
import { ServerProblem } from './errors';
import { addJob, jobFinding, refreshFinding } from './jobs';
import { jobComparison, jobExtras } from './comparison';
import { addRuns, bringBackRuns, listRuns, newRunDoc, readChannels, removeRun, runReport, runsOfLog, saveRun } from './runs';
import { logOfFile, mapColumns } from './logs';
import { freshDatabase } from '../../test/database';
import { loadDemo } from '@/server/demo/load';
import { dynoFile } from '@/server/demo/dyno-files';
import { larkspurJob } from '@/server/demo/larkspur';
import { DEMO_RUNS, SAMPLE_RUNS } from '@/server/demo/runs';
import { comparedUnit } from '@/core/job/compared-unit';
import { presetJob } from '@/core/job/presets';

let db: Db;
let drop: () => Promise<void>;
beforeAll(async () => ({ db, drop } = await freshDatabase()));
afterAll(() => drop());

const within = <T>(work: (trx: Trx) => Promise<T>): Promise<T> => db.transaction().execute(work);
const stream = (bytes: Uint8Array): ReadableStream<Uint8Array> => new Blob([Uint8Array.from(bytes)]).stream();
const text = (s: string): Uint8Array => new TextEncoder().encode(s);

async function whole(hash: string): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of filePieces(db, hash)) pieces.push(piece);
  return Buffer.concat(pieces);
}

describe('original files', () => {
  it('are kept byte for byte under the hash of their content, in pieces', async () => {
    const bytes = Uint8Array.from({ length: 3_300_000 }, (_, i) => (i * 31) % 251);
    const { hash, size, known } = await within((trx) => storeFile(trx, stream(bytes)));
    expect({ size, known }).toEqual({ size: bytes.length, known: false });
    expect(hash).toBe(createHash('sha256').update(bytes).digest('hex'));
    expect(Buffer.compare(await whole(hash), Buffer.from(bytes))).toBe(0);
    expect(await fileSize(db, hash)).toBe(bytes.length);
  });

  it('are recognised when they come again', async () => {
    const first = await within((trx) => storeFile(trx, stream(text('a,b\n1,2\n'))));
    const again = await within((trx) => storeFile(trx, stream(text('a,b\n1,2\n'))));
    expect(again).toMatchObject({ hash: first.hash, known: true });
    expect((await whole(first.hash)).toString()).toBe('a,b\n1,2\n');
  });

  it('over the limit leave nothing behind', async () => {
    const piece = new Uint8Array(8 * 1024 * 1024);
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        sent += piece.length;
        controller.enqueue(piece);
      },
    });
    const before = await db
      .selectFrom('file')
      .select(({ fn }) => fn.countAll().as('n'))
      .executeTakeFirstOrThrow();
    await expect(within((trx) => storeFile(trx, endless))).rejects.toMatchObject({ status: 413, code: 'too_large' });
    expect(sent).toBeLessThan(UPLOAD_LIMIT_BYTES + 10 * piece.length);
    const after = await db
      .selectFrom('file')
      .select(({ fn }) => fn.countAll().as('n'))
      .executeTakeFirstOrThrow();
    expect(after.n).toBe(before.n);
  }, 60_000);

  it('that break off leave nothing behind', async () => {
    const broken = new ReadableStream<Uint8Array>({
      start(controller) {
        controller.enqueue(text('half a file'));
        controller.error(new Error('connection lost'));
      },
    });
    await expect(within((trx) => storeFile(trx, broken))).rejects.toThrow('connection lost');
    expect(await db.selectFrom('file').select('hash').where('hash', 'like', 'incoming%').execute()).toEqual([]);
  });

  it('whose pieces the database lost in between are not taken for whole', async () => {
    const { id } = await within((trx) => addJob(trx, presetJob('lost', 'straight six, 2.9 L')));
    const file = new IncomingFile(db);
    await file.push(new Uint8Array(3 << 20).fill(65));
    await file.settle();
    await sql`DELETE FROM file_chunk WHERE seq = 1 AND hash LIKE 'incoming-%'`.execute(db);
    await expect(within((trx) => file.finish(trx))).rejects.toMatchObject({ status: 503, code: 'pieces_lost' });
    await file.discard();

    const log = new StagedLog(db, id);
    for (const block of [0, 1]) log.put([{ col: 0, block, ...packBlock(Float64Array.of(1, 2)) }]);
    await log.settle();
    await within((trx) => log.checkWhole(trx));
    await sql`DELETE FROM log_block WHERE block = 0 AND log_id = ${log.id}`.execute(db);
    await expect(within((trx) => log.checkWhole(trx))).rejects.toMatchObject({ code: 'pieces_lost' });
    await log.discard();
  });

  it('cut short by a kill are swept once they are old, with the samples stored so far', async () => {
    const { id } = await within((trx) => addJob(trx, presetJob('swept', 'straight six, 2.9 L')));
    const [file, log] = [new IncomingFile(db), new StagedLog(db, id)];
    await file.push(text('half a file'));
    await file.settle();
    log.put([{ col: 0, block: 0, ...packBlock(Float64Array.of(1, 2)) }]);
    await log.settle();
    const left = async () => ({
      files: (await db.selectFrom('file').select('hash').where('hash', 'like', 'incoming%').execute()).length,
      blocks: (await db.selectFrom('log_block').select('col').where('log_id', '=', log.id).execute()).length,
    });
    await sweepIncoming(db);
    expect(await left()).toEqual({ files: 2, blocks: 1 });
    await sql`UPDATE file SET created_at = now() - interval '13 hours' WHERE hash LIKE 'incoming%'`.execute(db);
    await sweepIncoming(db);
    expect(await left()).toEqual({ files: 0, blocks: 0 });
  });
});

async function stored(trx: Trx, jobId: string, csv: string, fileName = 'stock run.csv'): Promise<StoredRun> {
  const { hash } = await storeFile(trx, stream(text(csv)));
  const reader = new TableReader();
  reader.push(text(csv));
  const read = reader.finish();
  if (read.refused !== null) throw new Error(read.refused);
  const [run] = await addRuns(trx, { jobId, hash, fileName, side: { kind: 'stock' }, columns: read.columns, report: read.report });
  return run!;
}

describe('runs', () => {
  const csv = 'rpm,power (kW),note\n2000,40,1\n3000,60,\n4000,80,3\n';

  it('keep a channel at a time, NaN where the file had nothing', async () => {
    const { run } = await within(async (trx) => {
      const job = await addJob(trx, presetJob('x', 'straight six, 2.9 L'));
      return { run: await stored(trx, job.id, csv) };
    });
    expect(run.columns).toMatchObject([
      { name: 'rpm', unit: 'rpm', count: 3, confidence: 1, doubt: null },
      { name: 'power', unit: 'kW', count: 3, low: expect.closeTo(42, 9), high: expect.closeTo(78, 9) },
      { name: 'note', unit: '', count: 2, confidence: 0 },
    ]);
    const [note, rpm] = await readChannels(db, run.id, [2, 0]);
    expect(Array.from(note!)).toEqual([1, NaN, 3]);
    expect(rpm).toHaveLength(3);
    expect(await readChannels(db, run.id, [])).toEqual([]);
    await expect(readChannels(db, run.id, [0, 9])).rejects.toBeInstanceOf(ServerProblem);
    expect((await runReport(db, run.id)).rows).toBe(3);
  });

  it('the same file is one run of a job, but may be one of another job', async () => {
    const [a, b] = await within(
      async (trx) =>
        [await addJob(trx, presetJob('a', 'straight six, 2.9 L')), await addJob(trx, presetJob('b', 'straight six, 2.9 L'))] as const,
    );
    const run = await within((trx) => stored(trx, a.id, csv));
    await expect(within((trx) => stored(trx, a.id, csv))).rejects.toThrow(/log_part_once_a_job/);
    expect(await logOfFile(db, a.id, run.fileHash, '')).toMatchObject({ id: run.logId });
    expect(await logOfFile(db, b.id, run.fileHash, '')).toBeNull();
    await within((trx) => stored(trx, b.id, csv));
  });

  it('save with a version, refuse a stale one, and can be taken out', async () => {
    const job = await within((trx) => addJob(trx, presetJob('c', 'straight six, 2.9 L')));
    const run = await within((trx) => stored(trx, job.id, csv));
    const saved = await within((trx) => saveRun(trx, run.id, 1, { ...run.doc, gear: '4th' }));
    expect(saved).toMatchObject({ version: 2, doc: { gear: '4th' } });
    await expect(within((trx) => saveRun(trx, run.id, 1, run.doc))).rejects.toMatchObject({ status: 409 });
    expect(await within((trx) => removeRun(trx, run.id))).toBe(job.id);
    expect(await listRuns(db, job.id)).toEqual([]);
    await expect(within((trx) => saveRun(trx, run.id, 2, run.doc))).rejects.toMatchObject({ status: 404 });
    await expect(within((trx) => removeRun(trx, run.id))).rejects.toMatchObject({ status: 404 });
    expect(await fileSize(db, run.fileHash)).toBe(text(csv).length);
  });
});

describe('a file with several pulls', () => {
  const pull = (from: number, power: number): string =>
    Array.from({ length: 60 }, (_, i) => `${from + i * 0.1},${2000 + 60 * i},${(power + i).toFixed(1)}`).join('\n');
  const header = 'Time (s),Engine speed (rpm),Power (kW)';
  const csv = `${header}\n${pull(0, 40)}\n${header}\n${pull(30, 41)}\n${header}\n${pull(60, 42)}\n`;

  it('gives a run each, and reading one channel of one pull gives its own rows only', async () => {
    const job = await within((trx) => addJob(trx, presetJob('split', 'straight six, 2.9 L')));
    const first = await within((trx) => stored(trx, job.id, csv, 'three pulls.csv'));
    const runs = await runsOfLog(db, first.logId);
    expect(runs.map((r) => [r.doc.name, r.firstRow, r.lastRow])).toEqual([
      ['three pulls, pull 1', 0, 59],
      ['three pulls, pull 2', 60, 119],
      ['three pulls, pull 3', 120, 179],
    ]);
    const [power] = await readChannels(db, runs[1]!.id, [2]);
    expect([power!.length, power![0], power!.at(-1)]).toEqual([60, 41, 100]);
    await within((trx) => removeRun(trx, runs[0]!.id));
    expect(await logOfFile(db, job.id, first.fileHash, '')).not.toBeNull();
    for (const r of runs.slice(1)) await within((trx) => removeRun(trx, r.id));
    expect(await listRuns(db, job.id)).toEqual([]);
    // The file dropped in again brings them back as they were.
    expect(await within((trx) => bringBackRuns(trx, first.logId))).toBe(3);
    expect((await listRuns(db, job.id)).map((r) => r.id)).toEqual(runs.map((r) => r.id));
  });

  it('a column that was put right once is right in the next file with that header', async () => {
    const job = await within((trx) => addJob(trx, presetJob('again', 'straight six, 2.9 L')));
    const odd = (k: number): string =>
      `Time (s),Engine speed (rpm),Messwert 7\n${Array.from({ length: 9 }, (_, i) => `${i},${2000 + 500 * i},${40 + i + k}`).join('\n')}\n`;
    const run = await within((trx) => stored(trx, job.id, odd(0), 'a.csv'));
    expect(run.doc.channels[2]).toMatchObject({ quantity: 'other' });
    const channels = run.doc.channels.map((c) => (c.column === 2 ? { column: 2, quantity: 'torque' as const, unit: 'Nm' } : c));
    await within((trx) => saveRun(trx, run.id, 1, { ...run.doc, channels }));
    const next = await within((trx) => stored(trx, job.id, odd(1), 'b.csv'));
    expect(next.doc.channels[2]).toEqual({ column: 2, quantity: 'torque', unit: 'Nm' });
    expect(next.columns[2]).toMatchObject({ confidence: 1, remembered: true });
    expect(next.doc.kind).toBe('dyno');
  });
});

describe('the demo', () => {
  it('loads whole: a real gain at the top, nothing to speak of at the bottom, verdict settled', async () => {
    await within(loadDemo);
    const job = (await db.selectFrom('job').select(['id', 'doc']).execute()).find((j) => j.doc.name === 'Larkspur estate')!;
    const findings = await jobFinding(db, job.id);
    expect(findings.stops.find((s) => s.stop === 'pick')).toMatchObject({
      name: 'Fenwick 66',
      chosen: true,
      gain_pct: expect.closeTo(1.9, 0),
    });
    expect(findings.stops.find((s) => s.stop === 'test')).toMatchObject({ runsA: 6, runsB: 6, kind: 'gain' });
    expect(findings.stops.find((s) => s.stop === 'verdict')).toMatchObject({ state: 'settled' });
    const runs = await listRuns(db, job.id);
    expect(runs.filter((r) => r.doc.kind === 'dyno')).toHaveLength(DEMO_RUNS.length);
    const { compared, inletAir } = await jobComparison(db, job.id, job.doc);
    expect(compared!).toMatchObject({ staysA: 2, staysB: 2 });
    const beside = await jobExtras(db, job.id, job.doc, compared!);
    expect(beside.map((e) => e.kind)).toEqual(expect.arrayContaining(['inlet air', 'throttle', 'manifold pressure']));
    expect(inletAir).toEqual(beside.find((e) => e.kind === 'inlet air')!.mean);
    expect(inletAir!.a!).toBeGreaterThan(280);
    expect(compared!.thirds[2].answer).toMatchObject({ look: 'at', word: 'gain' });
    expect(compared!.thirds[0].answer.word).toBe("can't tell yet");
    expect(compared!.clear.every((r) => r.sign === 1 && r.from_rpm > 5000)).toBe(true);
    expect(comparedUnit(job.doc.pick.chosen, runs)).toBe(job.doc.pick.chosen);
    expect(await within((trx) => refreshFinding(trx, job.id))).toEqual(findings);
  });

  it('reads every dialect it writes: weather, place and channels found by themselves', async () => {
    for (const run of [...DEMO_RUNS, ...SAMPLE_RUNS]) {
      const reader = new TableReader();
      reader.push(text(dynoFile(larkspurJob([]), run)));
      const read = reader.finish();
      if (read.refused !== null) throw new Error(read.refused);
      const doc = newRunDoc(run.file, (await mapColumns(db, read.columns)).channels, read.report, null);
      expect(read.report.skippedTotal).toBe(0);
      expect(doc).toMatchObject({ carried: 'none', measuredAt: 'wheels', takenOn: run.date });
      expect(doc.weather!.p_Pa / 100).toBeCloseTo(run.p_hPa, -0.5);
      expect(doc.weather!.T_K - 273.15).toBeCloseTo(run.t_C, 0);
      expect(doc.channels.map((c) => c.quantity)).toEqual(expect.arrayContaining(['rpm', 'throttle', 'manifold pressure', 'inlet air']));
      expect(doc.channels.some((c) => c.quantity === 'power' || c.quantity === 'torque')).toBe(true);
    }
  });
});
