import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { sql } from 'kysely';
import type { JobDoc } from '@/core/documents/job';
import type { UnitDoc } from '@/core/documents/unit';
import { freshDatabase } from '../../../test/database';
import { checkKey, listKeys } from '../api-keys';
import { boardPage, boardQuery } from '../board';
import { filePieces } from '../files/store';
import { listVersions } from '../history';
import { readJob } from '../jobs';
import { mapColumns } from '../logs';
import { listParts } from '../parts';
import { listPractice } from '../practice';
import { listPredictions } from '../predictions';
import { listRuns, readChannels } from '../runs';
import { search } from '../search';
import { openLink } from '../share';
import { listSheet } from '../sheet-events';
import { readBook } from '../strip';
import { listUnits } from '../units';
import type { Db } from './client';
import { migrate, MIGRATION_NAMES } from './migrate';

const first = JSON.parse(readFileSync('test/fixtures/first-release.json', 'utf8')) as { ids: string[]; job: JobDoc; units: UnitDoc[] };
const id = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const sha = (text: string): string => createHash('sha256').update(text).digest('hex');
const doubles = (...values: number[]): Buffer => Buffer.from(Float64Array.from(values).buffer);
const shorts = (...values: number[]): Buffer => Buffer.from(Int16Array.from(values).buffer);

const JOB = id(1);
const KEY = 'vnr_of-an-earlier-release';
const TOKEN = 'a'.repeat(43);
const COLUMNS = JSON.stringify(['rpm', 'kW'].map((unit) => ({ name: unit, unit, count: 2 })));
/** What every release has asked of a run's record. */
const RUN = {
  ...{ schema: 1, side: { kind: 'stock' }, measuredAt: 'wheels', carried: 'none', carriedSmoothing_rpm: 0, weather: null, takenOn: null },
  ...{ gear: '', fuel: '', tune: '', otherChanges: '', coolantStart_K: null, leftOut: null },
  channels: [
    { column: 0, quantity: 'rpm', unit: 'rpm' },
    { column: 1, quantity: 'power', unit: 'kW' },
  ],
};
const runOf = (name: string, more: object = {}): string => JSON.stringify({ ...RUN, name, ...more });

/** Writes a row as a release wrote it, whatever the tables are called and hold today. */
const row = async (db: Db, table: string, values: Record<string, unknown>): Promise<void> => {
  await sql`INSERT INTO ${sql.table(table)} (${sql.join(Object.keys(values).map((c) => sql.ref(c)))}) VALUES (${sql.join(Object.values(values))})`.execute(
    db,
  );
};
const file = async (db: Db, hash: string, bytes: string): Promise<void> => {
  await row(db, 'file', { hash, size: bytes.length });
  await row(db, 'file_chunk', { hash, seq: 0, bytes: Buffer.from(bytes) });
};
const log = (db: Db, n: number, hash: string, more: object = {}): Promise<void> =>
  row(db, 'log', {
    id: id(n),
    job_id: JOB,
    file_hash: hash,
    file_name: `${hash}.csv`,
    columns: COLUMNS,
    report: '{"rows":2}',
    rows: 2,
    ...more,
  });
const run = (db: Db, n: number, of: number, doc: string): Promise<void> =>
  row(db, 'run', { id: id(n), job_id: JOB, log_id: id(of), first_row: 0, last_row: 1, doc });

/** What one shop wrote down under each release, in the order of the releases: each row in the form of its own time. */
const WRITTEN: Record<string, (db: Db) => Promise<void>> = {
  '001-first': async (db) => {
    for (const [i, doc] of first.units.entries()) await row(db, 'unit', { id: first.ids[i], doc: JSON.stringify(doc) });
    await row(db, 'job', { id: JOB, doc: JSON.stringify(first.job), finding: '{"stops":[]}' });
    await row(db, 'meta', { key: 'demo', value: '{"loaded":true}' });
    await file(db, 'first', 'rpm;kW');
    await row(db, 'run', {
      id: id(10),
      job_id: JOB,
      file_hash: 'first',
      file_name: 'first.csv',
      columns: COLUMNS,
      report: '{"rows":2}',
      doc: runOf('of the first release'),
    });
    for (const [col, data] of [doubles(3000, 3010), doubles(61.5, 62.25)].entries())
      await row(db, 'run_channel', { run_id: id(10), col, data });
  },
  '002-workshop': async (db) => {
    await sql`UPDATE unit SET retired_at = now() WHERE id = ${first.ids[0]}`.execute(db);
    await row(db, 'tested_part', {
      id: id(20),
      doc: JSON.stringify({ schema: 1, name: 'Plain filter', kind: 'filter', bore_m: 0.08, bench: [], note: 'dry' }),
    });
    const guess = { subject: 'bench', title: 'A guess', source: 'typed', predicted: 0.2, low: 0.19, high: 0.21 };
    await row(db, 'prediction', { ...guess, id: id(21), subject_id: first.ids[0], measured: 0.205, measured_at: new Date() });
    await row(db, 'prediction', { ...guess, id: id(22) });
  },
  '003-run-sheet': async (db) => {
    const stamp = { who: 'Maud', at_ms: 1_776_000_000_000 };
    await row(db, 'sheet_event', {
      id: id(30),
      job_id: JOB,
      event: JSON.stringify({ ...stamp, id: id(30), type: 'done', step: 'spring' }),
    });
    await row(db, 'sheet_event', {
      id: id(31),
      job_id: JOB,
      event: JSON.stringify({ ...stamp, id: id(31), type: 'note', step: 'spring', text: 'Heavier than stock' }),
    });
  },
  '004-logs': async (db) => {
    await file(db, 'two-pulls', 'rpm;kW');
    await log(db, 40, 'two-pulls');
    for (const [col, data] of [doubles(3000, 3010), doubles(63, NaN)].entries())
      await row(db, 'log_block', { log_id: id(40), col, block: 0, data });
    await run(db, 41, 40, runOf('first pull', { tune: 'base map' }));
    await run(db, 42, 40, runOf('second pull'));
    await row(db, 'header_map', {
      signature: 'n[]|p[]',
      channels: JSON.stringify([
        { quantity: 'rpm', unit: 'rpm' },
        { quantity: 'power', unit: 'hp' },
      ]),
    });
    await row(db, 'api_key', { id: id(43), name: 'Old tablet', hash: sha(KEY) });
    const plan = { threshold_pct: 1.5 };
    await row(db, 'practice', {
      id: id(44),
      job_id: JOB,
      seed: 7,
      setup: JSON.stringify({ unitId: first.ids[0], plan, guess_pct: 2 }),
      truth: JSON.stringify({ bottom_pct: 1, top_pct: 2, driftPerPull_pct: 0, curve: { rpm: [], power_W: [] } }),
    });
    await row(db, 'practice_run', {
      practice_id: id(44),
      seq: 0,
      run: JSON.stringify({
        side: 'A',
        rest_min: 5,
        at_min: 0,
        rpm: [3000],
        power_W: [60_000],
        inletStart_K: 300,
        inletPeak_K: 310,
        coolantStart_K: 360,
        leftOut: null,
      }),
    });
  },
  '005-record': async (db) => {
    await row(db, 'strip_visit', {
      id: id(50),
      job_id: JOB,
      doc: JSON.stringify({ schema: 1, track: 'Long Acre', takenOn: '2026-04-18' }),
    });
    await row(db, 'strip_pass', {
      id: id(51),
      visit_id: id(50),
      doc: JSON.stringify({ schema: 1, at: '10:20', slip: { t18_s: 2.1, t402_s: 14.2, v402_mps: 43 } }),
    });
    // A save under this release leaves what stood there before.
    await sql`UPDATE tested_part SET doc = doc || '{"note":"oiled"}', version = 2, saved_by = 'Tobin' WHERE id = ${id(20)}`.execute(db);
    await row(db, 'share_link', {
      id: id(52),
      job_id: JOB,
      token_hash: sha(TOKEN),
      pack: 'metric',
      expires_at: new Date(Date.now() + 9e7),
    });
    await row(db, 'sign_in_attempt', { who: '192.0.2.1' });
  },
  '006-parts-of-files': async (db) => {
    await log(db, 60, 'two-pulls', { part: 'Sheet 2' });
    await row(db, 'log_block', { log_id: id(60), col: 0, block: 0, data: doubles(2000, 2010) });
    await run(db, 61, 60, runOf('of the second sheet'));
  },
  '007-api': async (db) => {
    await row(db, 'api_key', { id: id(70), name: 'Wall screen', hash: sha('vnr_reads-only'), scope: 'read', job_id: JOB });
    await row(db, 'api_answer', { key: 'k', fingerprint: 'f', status: 201, headers: '{}', body: '{}' });
  },
  '008-packed-samples': async (db) => {
    await file(db, 'packed', 'rpm');
    await log(db, 80, 'packed');
    await row(db, 'log_block', { log_id: id(80), col: 0, block: 0, data: shorts(30_000, 30_105), width: 2, decimals: 1 });
    await run(db, 81, 80, runOf('in short figures'));
  },
  '009-owners': async (db) => {
    const about = { owner: 'Ottilie', contact: '', plate: 'VN 41' };
    await row(db, 'job', {
      id: id(90),
      doc: JSON.stringify({ ...first.job, name: 'With an owner', about, tags: ['spring'] }),
      finding: '{"stops":[]}',
    });
  },
  '010-sessions': (db) => row(db, 'session_end', { id: 'signed-out' }),
  '011-attempts': (db) => row(db, 'sign_in_attempt', { who: '192.0.2.2', passed: true }),
  '012-work': (db) => row(db, 'work', { id: id(120), kind: 'wave sweep', state: 'done', share: 1, result: '{}', ended_at: new Date() }),
  '013-last-runs': (db) => run(db, 130, 80, runOf('with a day', { takenOn: '2026-05-02' })),
  '014-headings': (db) => run(db, 140, 80, runOf('in no damp', { weather: { p_Pa: 99_000, T_K: 300, rh: 0 } })),
  '015-guessed-humidity': (db) => run(db, 150, 80, runOf('of today', { takenOn: '2026-12-01' })),
  '016-kept-sums': (db) => row(db, 'kept_sum', { key: 'of a comparison', result: doubles(1, 2) }),
};

/** Rows of every table there is. */
async function counts(db: Db): Promise<Record<string, number>> {
  const { rows } = await sql<{ name: string }>`
    SELECT table_name AS name FROM information_schema.tables WHERE table_schema = 'public' AND table_name NOT LIKE 'kysely%'`.execute(db);
  const counted = rows.map(async ({ name }) => {
    const { rows: found } = await sql<{ n: string }>`SELECT count(*) AS n FROM ${sql.table(name)}`.execute(db);
    return [name, Number(found[0]!.n)] as const;
  });
  return Object.fromEntries(await Promise.all(counted));
}

/** Its rows go into another table, whose own are counted instead. */
const MOVED: Record<string, { table: string; into: string }> = { '004-logs': { table: 'run_channel', into: 'log_block' } };

it('every migration has rows of its own time to take along', () => expect(Object.keys(WRITTEN)).toEqual(MIGRATION_NAMES));

describe('a shop that came along with every release', () => {
  let db: Db;
  let drop: () => Promise<void>;
  beforeAll(async () => {
    ({ db, drop } = await freshDatabase(MIGRATION_NAMES[0]));
  });
  afterAll(() => drop());

  it.each(MIGRATION_NAMES.map((name, i) => [name, MIGRATION_NAMES[i + 1]] as const))('keeps what it wrote under %s', async (name, next) => {
    await WRITTEN[name]!(db);
    if (next === undefined) return;
    const before = await counts(db);
    expect(await migrate(db, next)).toEqual([next]);
    const after = await counts(db);
    const moved = MOVED[next];
    for (const [table, n] of Object.entries(before)) {
      if (table === moved?.table) expect([moved.into, after[moved.into]]).toEqual([moved.into, n]);
      else expect([table, after[table]]).toEqual([table, n]);
    }
  });

  it('has its jobs, its shelf and its guesses', async () => {
    const { jobs } = await boardPage(db, boardQuery.parse({}), null);
    expect(jobs.map((j) => [j.name, j.owner ?? '']).sort()).toEqual([
      [first.job.name, ''],
      ['With an owner', 'Ottilie'],
    ]);
    expect((await readJob(db, JOB)).doc).toMatchObject({ name: first.job.name, car: first.job.car, pick: first.job.pick });
    expect((await listUnits(db)).map((u) => u.doc.name)).toEqual(first.units.slice(1).map((u) => u.name));
    expect((await listUnits(db, first.ids)).map((u) => u.doc.name)).toEqual(first.units.map((u) => u.name));
    expect((await listParts(db)).map((p) => [p.version, p.doc.note])).toEqual([[2, 'oiled']]);
    expect((await listVersions(db, 'tested_part', id(20))).map((v) => [v.version, (v.doc as { note: string }).note])).toEqual([
      [2, 'oiled'],
      [1, 'dry'],
    ]);
    expect((await listPredictions(db, 'bench')).map((p) => [p.id, p.measured]).sort()).toEqual([
      [id(21), 0.205],
      [id(22), null],
    ]);
  });

  it('has its runs with every sample, its originals and what it once said of a header', async () => {
    const runs = await listRuns(db, JOB);
    expect(runs.map((r) => r.doc.name).sort()).toEqual(
      [
        'first pull',
        'in no damp',
        'in short figures',
        'of the first release',
        'of the second sheet',
        'of today',
        'second pull',
        'with a day',
      ].sort(),
    );
    expect(runs.find((r) => r.id === id(140))!.doc).toMatchObject({ weather: { rh: 0.5 }, weatherGuessed: ['rh'] });
    const samples = async (n: number, ...cols: number[]) => (await readChannels(db, id(n), cols)).map((c) => [...c]);
    expect(await samples(10, 0, 1)).toEqual([
      [3000, 3010],
      [61.5, 62.25],
    ]);
    expect(await samples(42, 0, 1)).toEqual([
      [3000, 3010],
      [63, NaN],
    ]);
    expect(await samples(61, 0)).toEqual([[2000, 2010]]);
    expect(await samples(81, 0)).toEqual([[3000, 3010.5]]);
    for (const hash of ['first', 'two-pulls']) {
      const pieces: Buffer[] = [];
      for await (const piece of filePieces(db, hash)) pieces.push(piece);
      expect(Buffer.concat(pieces).toString()).toBe('rpm;kW');
    }
    const columns = ['n', 'p'].map((name) => ({ name, unit: '', count: 2, blocks: [Float64Array.of(3000, 3100)] }));
    expect((await mapColumns(db, columns)).channels.map((c) => c.unit)).toEqual(['rpm', 'hp']);
  });

  it('has its run-sheet, its practice, its nights at the strip and what opens to others', async () => {
    expect((await listSheet(db, JOB)).map((e) => e.type)).toEqual(['done', 'note']);
    const [practice] = await listPractice(db, JOB);
    expect(practice).toMatchObject({
      id: id(44),
      setup: { rig: 'dyno', guess_pct: 2 },
      runs: [{ power_W: [60_000], day: 1 }],
      truth: null,
    });
    const book = await readBook(db, JOB);
    expect(book.visits.map((v) => [v.doc.track, v.doc.course])).toEqual([['Long Acre', 'quarter']]);
    expect(book.passes.map((p) => p.doc.slip.t402_s)).toEqual([14.2]);
    expect((await listKeys(db)).map((k) => [k.name, k.scope, k.jobId]).sort()).toEqual([
      ['Old tablet', 'write', null],
      ['Wall screen', 'read', JOB],
    ]);
    const asked = new Request('http://127.0.0.1/', { headers: { authorization: `Bearer ${KEY}` } });
    expect(await checkKey(db, asked)).toEqual({ keyId: id(43), scope: 'write', jobId: null });
    expect(await openLink(db, TOKEN)).toMatchObject({ jobId: JOB });
  });

  it.each([
    ['Ottilie', 'job'],
    ['base map', 'run'],
    ['long acre', 'visit'],
    ['heavier', 'note'],
    ['oiled', 'part'],
  ])('finds %s', async (words, kind) => expect((await search(db, words)).map((f) => f.kind)).toEqual([kind]));
});
