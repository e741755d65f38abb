import { strToU8, zipSync } from 'fflate';
import { GET as getDocument } from '@/app/api/v1/openapi.json/route';
import { POST as postImport } from '@/app/api/imports/route';
import { GET as listKeys, POST as makeKey } from '@/app/api/keys/route';
import { DELETE as revokeKey } from '@/app/api/keys/[id]/route';
import { GET as original } from '@/app/api/runs/[id]/original/route';
import { POST as postJob } from '@/app/api/jobs/route';
import { POST as postUnits } from '@/app/api/units/route';
import type { StoredJob } from '@/core/documents/job';
import type { StoredUnit } from '@/core/documents/unit';
import { DOUBTS } from '@/core/read/guess';
import { ask, at, bare, json, none, onFreshDatabase } from '../../test/api';
import { asPromised, client, csv, good, handle, newKey, opened, raw, runsOf, upload, type Document } from '../../test/api-v1';
import { aUnit } from '../../test/units';
import { OPERATIONS, PROBLEMS } from './api/operations';

onFreshDatabase();

let description: Document;
let job: StoredJob;
let unit: StoredUnit;

beforeAll(async () => {
  description = await json<Document>(await getDocument(bare(), none));
  job = await json<StoredJob>(await postJob(ask({ name: 'From afar', preset: 'straight six, 2.9 L' }), none));
  [unit] = (await json<StoredUnit[]>(await postUnits(ask({ units: [aUnit(66, { name: 'Far 66' }).doc] }), none))) as [StoredUnit];
});

it('describes every operation that is dispatched, every problem and every doubt', () => {
  const described = Object.values(description.paths).flatMap((p) => Object.values(p).map((o) => o.operationId));
  expect(described.sort()).toEqual(OPERATIONS.map((o) => o.id).sort());
  for (const code of Object.keys(PROBLEMS)) expect(description.info.description).toContain(`\`${code}\``);
  for (const doubt of DOUBTS) expect(description.info.description).toContain(`\`${doubt}\``);
});

it('reads jobs and units and solves without a key', async () => {
  const jobs = await good(client.GET('/jobs'));
  expect(jobs.items).toEqual([expect.objectContaining({ id: job.id, name: 'From afar' })]);
  const one = await client.GET('/jobs/{id}', { params: { path: { id: job.id } } });
  expect(one.data!.doc).toEqual(job.doc);
  expect(one.response.headers.get('etag')).toBe('"1"');
  await asPromised(description, 'readJob', await raw(`/jobs/${job.id}`));
  expect((await good(client.GET('/units', { params: { query: { name: 'far' } } }))).items.map((u) => u.doc.name)).toEqual(['Far 66']);
  const solved = await good(client.POST('/solve', { body: { jobId: job.id, unitIds: [unit.id] } }));
  expect(solved.candidates[0]!.gain_pct).toHaveLength(solved.rpm.length);
  const same = await good(client.POST('/solve', { body: { job: job.doc as never, unitIds: [unit.id] } }));
  expect(same).toEqual(solved);
  await expect(good(client.POST('/solve', { body: { unitIds: [] } }))).rejects.toThrow(/give a job, or a jobId/);
  await expect(good(client.GET('/jobs/{id}', { params: { path: { id: unit.id } } }))).rejects.toThrow(/404 .*does not exist/);
});

it('writes only with a key of this installation, and not with one that was taken back', async () => {
  const query = { fileName: 'stock 1.csv', side: 'stock' };
  await expect(good(upload(job.id, query, csv(1, 0)))).rejects.toThrow(/401 Writing needs a key/);
  opened.token = 'vnr_made_up';
  await expect(good(upload(job.id, query, csv(1, 0)))).rejects.toThrow(/Writing needs a key/);
  opened.token = await newKey({ name: 'the dyno' });
  const done = await good(upload(job.id, query, csv(1, 0)));
  expect(done).toMatchObject({
    known: false,
    report: { rows: 120 },
    runs: [{ fileName: 'stock 1.csv', doc: { side: { kind: 'stock' }, takenOn: '2026-05-01' } }],
  });
  const again = await good(upload(job.id, query, csv(1, 0)));
  expect(again).toMatchObject({ known: true, otherSide: false, runs: [{ id: done.runs[0]!.id }] });
  expect(await good(upload(job.id, { ...query, side: unit.id }, csv(1, 0)))).toMatchObject({ known: true, otherSide: true });
  const keys = await json<{ id: string; name: string; usedAt: string | null }[]>(await listKeys(bare(), none));
  expect(keys).toEqual([expect.objectContaining({ name: 'the dyno', scope: 'write', usedAt: expect.any(String) as string })]);
  expect(JSON.stringify(keys)).not.toContain(opened.token);
  const other = await json<{ key: { id: string }; token: string }>(await makeKey(ask({ name: 'lost' }), none));
  expect((await revokeKey(bare('DELETE'), at({ id: other.key.id }))).status).toBe(200);
  expect((await revokeKey(bare('DELETE'), at({ id: other.key.id }))).status).toBe(404);
  const kept = opened.token;
  opened.token = other.token;
  await expect(good(upload(job.id, query, csv(2, 0)))).rejects.toThrow(/Writing needs a key/);
  opened.token = kept;
});

it('the same file sent by several at once is one run, and nobody is answered with a failure', async () => {
  const other = await good(client.POST('/jobs', { body: { name: 'Parallel', preset: 'straight six, 2.9 L' } }));
  const answers = await Promise.all(
    Array.from({ length: 6 }, () => upload(other.id, { fileName: 'stock.csv', side: 'stock' }, csv(1.7, 0.1))),
  );
  expect(answers.map((a) => a.response.status)).toEqual(Array(6).fill(201));
  expect(answers.filter((a) => !a.data!.known)).toHaveLength(1);
  expect(await runsOf(other.id)).toHaveLength(1);
});

it('refuses what is no table with its line, and keeps nothing of it', async () => {
  await expect(good(upload(job.id, { fileName: 'letter.txt' }, 'Dear shop,\n\nno table today.\n'))).rejects.toThrow(
    /No column of figures was found; line 1 is “Dear shop,”/,
  );
  expect(await runsOf(job.id)).toHaveLength(1);
});

it('asks which table is meant, and takes each as a run of its own', async () => {
  const other = await good(client.POST('/jobs', { body: { name: 'Archive', preset: 'straight six, 2.9 L' } }));
  const zip = zipSync({ 'one.csv': strToU8(csv(1, 0)), 'two.csv': strToU8(csv(1.01, 0.1)) });
  const asked = await upload(other.id, { fileName: 'day.zip' }, zip);
  expect(asked.response.status).toBe(422);
  expect(asked.error).toMatchObject({ error: 'which_table', message: expect.stringContaining('“one.csv”, “two.csv”') as string });
  for (const table of ['one.csv', 'two.csv']) await good(upload(other.id, { fileName: 'day.zip', table }, zip));
  expect((await runsOf(other.id)).map((r) => r.doc.name)).toEqual(['day, one', 'day, two']);
});

it('a power in no known unit is asked about, corrected by its record, and the answer holds for the next file', async () => {
  const other = await good(client.POST('/jobs', { body: { name: 'Asked', preset: 'straight six, 2.9 L' } }));
  const bareCsv = (k: number): string =>
    `RPM,Power\n${Array.from({ length: 60 }, (_, i) => `${2000 + 70 * i},${(60 + 3.4 * i + k).toFixed(2)}`).join('\n')}\n`;
  await good(upload(other.id, { fileName: 'a.csv', side: 'stock' }, bareCsv(0)));
  await good(upload(other.id, { fileName: 'b.csv', side: unit.id }, bareCsv(1)));
  await expect(good(client.GET('/jobs/{id}/comparison', { params: { path: { id: other.id } } }))).rejects.toThrow(/no runs of both sides/);
  const [first] = await runsOf(other.id);
  expect(first!.columns[1]).toMatchObject({ name: 'Power', ask: true, doubt: 'unit not said' });
  const doc = { ...first!.doc, channels: first!.doc.channels.map((c) => (c.column === 1 ? { ...c, unit: 'hp' } : c)) };
  await good(client.PUT('/runs/{id}', { params: { path: { id: first!.id }, header: { 'If-Match': '"1"' } }, body: { doc: doc as never } }));
  // Its sister asked the same and took the answer; the next file of this header does not ask any more.
  const compared = await good(client.GET('/jobs/{id}/comparison', { params: { path: { id: other.id } } }));
  expect(compared.stock_W[0]! / 745.7).toBeGreaterThan(50);
  const next = await good(upload(other.id, { fileName: 'c.csv' }, bareCsv(2)));
  expect(next.runs[0]!.doc.channels[1]).toMatchObject({ quantity: 'power', unit: 'hp' });
});

describe('documents', () => {
  it('are made, changed over the version that was read, and refused over another', async () => {
    const made = await client.POST('/units', { body: { doc: { ...aUnit(70, { name: 'Made 70' }).doc } as never } });
    await asPromised(
      description,

      'createUnit',
      await raw('/units', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ doc: aUnit(71, { name: 'Made 71' }).doc }),
      }),
    );
    const { id } = made.data!;
    const path = { id };
    expect(made.response.headers.get('etag')).toBe('"1"');
    const doc = { ...made.data!.doc, note: 'by a program' } as never;
    expect((await client.PUT('/units/{id}', { params: { path, header: { 'If-Match': '' } }, body: { doc } })).response.status).toBe(428);
    const saved = await client.PUT('/units/{id}', { params: { path, header: { 'If-Match': '"1"' } }, body: { doc } });
    expect(saved.response.headers.get('etag')).toBe('"2"');
    const late = await client.PUT('/units/{id}', { params: { path, header: { 'If-Match': '"1"' } }, body: { doc } });
    expect(late.response.status).toBe(412);
    expect(late.error).toMatchObject({ error: 'stale', current: { version: 2 } });
    expect((await client.GET('/units/{id}', { params: { path } })).data!.doc.note).toBe('by a program');
    expect((await client.DELETE('/units/{id}', { params: { path } })).response.status).toBe(200);
    expect((await good(client.GET('/units'))).items.some((u) => u.id === id)).toBe(false);
  });

  it('of the strip are kept by day and pass', async () => {
    const visit = await good(
      client.POST('/jobs/{id}/visits', {
        params: { path: { id: job.id } },
        body: { doc: { schema: 1, track: 'Made-up strip', takenOn: '2026-05-02' } as never },
      }),
    );
    const slip = {
      reaction_s: -0.02,
      t18_s: 1.985,
      t100_s: 5.602,
      t201_s: 8.611,
      t305_s: 11.221,
      t402_s: 13.422,
      v201_mps: 36.8,
      v402_mps: 46.2,
    };
    const pass = await good(
      client.POST('/visits/{id}/passes', { params: { path: { id: visit.id } }, body: { doc: { schema: 1, dial_s: 13.5, slip } as never } }),
    );
    expect((await good(client.GET('/visits/{id}/passes', { params: { path: { id: visit.id } } }))).items.map((p) => p.id)).toEqual([
      pass.id,
    ]);
    const changed = await good(
      client.PUT('/passes/{id}', {
        params: { path: { id: pass.id }, header: { 'If-Match': '"1"' } },
        body: { doc: { ...pass.doc, note: 'clean' } as never },
      }),
    );
    expect(changed).toMatchObject({ version: 2, doc: { note: 'clean', dial_s: 13.5 } });
    await good(client.DELETE('/passes/{id}', { params: { path: { id: pass.id } } }));
    expect((await good(client.GET('/visits/{id}/passes', { params: { path: { id: visit.id } } }))).items).toEqual([]);
  });

  it('come a page at a time, each once', async () => {
    const seen: string[] = [];
    let after: string | undefined;
    do {
      const page = await good(client.GET('/jobs', { params: { query: { limit: 2, ...(after && { after }) } } }));
      seen.push(...page.items.map((j) => j.id));
      after = page.next ?? undefined;
    } while (after);
    const all = (await good(client.GET('/jobs'))).items.map((j) => j.id);
    expect(seen).toEqual(all);
    await asPromised(description, 'listJobs', await raw('/jobs'));
  });

  it('all go out as lines, and one job as an archive', async () => {
    const lines = (await (await raw('/export')).text())
      .trim()
      .split('\n')
      .map((l) => JSON.parse(l) as { kind: string });
    expect(new Set(lines.map((l) => l.kind))).toEqual(new Set(['unit', 'job', 'run', 'visit']));
    const archive = await raw(`/jobs/${job.id}/archive`);
    expect(archive.headers.get('content-type')).toBe('application/zip');
    expect(new Uint8Array(await archive.arrayBuffer()).slice(0, 2)).toEqual(Uint8Array.of(0x50, 0x4b));
  });
});

it('a side that is none is refused by name', async () => {
  const { response, error } = await upload(job.id, { fileName: 'x.csv', side: 'left' }, csv(3, 0));
  expect(response.status).toBe(422);
  expect(error).toMatchObject({ message: 'side: a side is "stock" or the id of a unit' });
});

describe('the page’s own upload', () => {
  const send = (query: string, text: string, signal?: AbortSignal): Promise<Response> =>
    postImport(
      new Request(`http://127.0.0.1/api/imports?${query}`, {
        method: 'POST',
        headers: { host: '127.0.0.1' },
        body: text,
        ...(signal && { signal }),
      }),
      none,
    );
  const events = async (response: Response): Promise<{ event: string }[]> =>
    (await response.text())
      .split('\n')
      .filter((l) => l !== '')
      .map((l) => JSON.parse(l) as { event: string });

  it('tells its steps line by line, and knows a file again', async () => {
    const other = await json<StoredJob>(await postJob(ask({ name: 'By page', preset: 'straight six, 2.9 L' }), none));
    const query = `job=${other.id}&fileName=stock.csv&side=stock`;
    const first = await events(await send(query, csv(1, 0)));
    expect(first.map((e) => e.event)).toEqual(['storing', 'storing', 'done']);
    expect(first.at(-1)).toMatchObject({
      known: false,
      runs: [{ doc: { name: 'stock' } }],
      findings: { stops: expect.any(Array) as object },
    });
    expect(await events(await send(query, csv(1, 0)))).toEqual([expect.objectContaining({ event: 'done', known: true })]);
    expect(await events(await send(query, 'Dear shop,\n'))).toEqual([
      { event: 'refused', refusal: { refused: 'no_numeric_column', line: 1, text: 'Dear shop,' } },
    ]);
    expect(await runsOf(other.id)).toHaveLength(1);
  });

  it('cancelled, leaves nothing in the job', async () => {
    const other = await json<StoredJob>(await postJob(ask({ name: 'Cancelled', preset: 'straight six, 2.9 L' }), none));
    const ending = new AbortController();
    const response = await send(`job=${other.id}&fileName=stock.csv`, csv(1.5, 0), ending.signal);
    ending.abort();
    await response.text().catch(() => '');
    expect(await runsOf(other.id)).toEqual([]);
  });

  it('is refused from elsewhere and for a job that is not there', async () => {
    expect((await send(`job=${unit.id}&fileName=x.csv`, 'x')).status).toBe(404);
    const foreign = new Request('http://127.0.0.1/api/imports', { method: 'POST', headers: { host: 'tuner.example' }, body: 'x' });
    expect((await postImport(foreign, none)).status).toBe(403);
  });
});

it('gives a run back as it stood in the file, as JSON and as a table with its units, and the file itself', async () => {
  const [run] = await runsOf(job.id);
  const whole = await good(client.GET('/runs/{id}', { params: { path: { id: run!.id } } }));
  expect(whole.channels.map((c) => [c.name, c.unit, c.quantity])).toEqual([
    ['Time', 's', 'time'],
    ['Engine speed', 'rpm', 'rpm'],
    ['Power', 'kW', 'power'],
    ['Note', '', 'other'],
  ]);
  expect(whole.channels[3]!.values.slice(2, 5)).toEqual([2, null, 4]);
  const response = await raw(`/runs/${run!.id}?format=csv`);
  expect(response.headers.get('content-disposition')).toMatch(/^attachment/);
  expect((await response.text()).split('\n').slice(0, 4)).toEqual([
    'Time,Engine speed,Power,Note',
    's,rpm,kW,',
    '0,2000,20,0',
    '0.1,2040,20.8,1',
  ]);
  const file = await original(bare(), at({ id: run!.id }));
  expect(file.headers.get('content-type')).toBe('application/octet-stream');
  expect(await file.text()).toBe(csv(1, 0));
});

it('compares both sides, with what makes it unfair', async () => {
  const other = await good(client.POST('/jobs', { body: { name: 'Compared', preset: 'straight six, 2.9 L' } }));
  const path = { id: other.id };
  await expect(good(client.GET('/jobs/{id}/comparison', { params: { path } }))).rejects.toThrow(/no runs of both sides/);
  for (const k of [1, 2]) await good(upload(other.id, { fileName: `stock ${k}.csv`, side: 'stock' }, csv(0.999 + 0.001 * k, 0.02)));
  for (const k of [1, 2, 3]) await good(upload(other.id, { fileName: `new ${k}.csv`, side: unit.id }, csv(1.03 + 0.0005 * k, 0.03)));
  const found = await good(client.GET('/jobs/{id}/comparison', { params: { path } }));
  expect(found).toMatchObject({ word: 'gain', deciding: { mean_pct: expect.closeTo(3.1, 0) } });
  expect(found.runs.map((r) => r.side).join('')).toBe('AABBB');
  // Five files sent without a time in or of them: their order is a guess, and it is said to be one.
  expect(found.confounders.map((c) => c.code)).toContain('order_guessed');
  expect(found.confounders.map((c) => c.code)).not.toContain('no_return');
  const table = await raw(`/jobs/${other.id}/comparison`, { headers: { accept: 'text/csv' } });
  expect((await table.text()).split('\n')[1]).toBe('rpm,W,W,W,%,%,%');
  const spreadsheet = await raw(`/jobs/${other.id}/comparison?format=csv&form=decimal%20comma`);
  expect(new Uint8Array(await spreadsheet.arrayBuffer()).slice(0, 3)).toEqual(Uint8Array.of(0xef, 0xbb, 0xbf));
});

it('gives a job in any script as a file', async () => {
  const named = await good(client.POST('/jobs', { body: { name: '漢字 Š ł “x”', preset: 'straight six, 2.9 L' } }));
  const archive = await raw(`/jobs/${named.id}/archive`);
  expect(archive.status).toBe(200);
  expect(decodeURIComponent(/filename\*=UTF-8''(\S+)/.exec(archive.headers.get('content-disposition')!)![1]!)).toBe(
    '漢字 Š ł “x”.vanner.zip',
  );
});

it('is not for pages from elsewhere', async () => {
  const foreign = new Request('http://127.0.0.1/api/v1/jobs', { headers: { host: '127.0.0.1', origin: 'https://elsewhere.example' } });
  expect((await handle(foreign)).status).toBe(403);
});
