import { execFileSync } from 'node:child_process';
import { z } from 'zod';
import { GET as getDocument } from '@/app/api/v1/openapi.json/route';
import { GET as listJobs } from '@/app/api/v1/jobs/route';
import { GET as readJob } from '@/app/api/v1/jobs/[id]/route';
import { GET as listRuns, POST as uploadRun } from '@/app/api/v1/jobs/[id]/runs/route';
import { GET as compare } from '@/app/api/v1/jobs/[id]/comparison/route';
import { GET as readRun } from '@/app/api/v1/runs/[id]/route';
import { POST as solve } from '@/app/api/v1/solve/route';
import { GET as listUnits } from '@/app/api/v1/units/route';
import { POST as postImport } from '@/app/api/imports/route';
import { GET as listKeys, POST as makeKey } from '@/app/api/keys/route';
import { DELETE as revokeKey } from '@/app/api/keys/[id]/route';
import { GET as original } from '@/app/api/runs/[id]/original/route';
import { POST as postJob } from '@/app/api/jobs/route';
import { POST as postUnits } from '@/app/api/units/route';
import type { StoredJob } from '@/core/documents/job';
import type { StoredRun } from '@/core/documents/run';
import type { StoredUnit } from '@/core/documents/unit';
import { ask, at, bare, json, none, onFreshDatabase } from '../../test/api';
import { aUnit } from '../../test/units';

onFreshDatabase();

type Handler = (request: Request, context: { params: Promise<never> }) => Promise<Response>;
/** The routes as the server would find them by their path. */
const ROUTES: Readonly<Record<string, Readonly<Record<string, unknown>>>> = {
  '/jobs': { get: listJobs },
  '/jobs/{id}': { get: readJob },
  '/jobs/{id}/runs': { get: listRuns, post: uploadRun },
  '/jobs/{id}/comparison': { get: compare },
  '/runs/{id}': { get: readRun },
  '/solve': { post: solve },
  '/units': { get: listUnits },
};

interface Described {
  readonly operationId: string;
  readonly security?: readonly object[];
  readonly parameters: readonly { readonly name: string; readonly in: string; readonly required: boolean }[];
  readonly requestBody?: { readonly content: Readonly<Record<string, object>> };
  readonly responses: Readonly<Record<string, { readonly content: Readonly<Record<string, { readonly schema: object }>> }>>;
}
interface Document {
  readonly openapi: string;
  readonly paths: Readonly<Record<string, Readonly<Record<string, Described>>>>;
}

/** A client that knows nothing but the document: what it sends and what it believes comes from there. */
class Client {
  token: string | null = null;
  constructor(private readonly document: Document) {}

  static async open(): Promise<Client> {
    return new Client(await json<Document>(await getDocument(bare(), none)));
  }

  get operations(): readonly string[] {
    return Object.values(this.document.paths).flatMap((p) => Object.values(p).map((o) => o.operationId));
  }

  async raw(
    operationId: string,
    given: Readonly<Record<string, string>> = {},
    body?: unknown,
  ): Promise<{ response: Response; described: Described }> {
    for (const [path, methods] of Object.entries(this.document.paths)) {
      for (const [method, described] of Object.entries(methods)) {
        if (described.operationId !== operationId) continue;
        const query = new URLSearchParams();
        for (const p of described.parameters) {
          if (p.required && given[p.name] === undefined) throw new Error(`${operationId} needs ${p.name}`);
          if (p.in === 'query' && given[p.name] !== undefined) query.set(p.name, given[p.name]!);
        }
        const type = described.requestBody && Object.keys(described.requestBody.content)[0]!;
        const headers = {
          host: '127.0.0.1',
          ...(type && { 'content-type': type }),
          ...(this.token && described.security && { authorization: `Bearer ${this.token}` }),
        };
        const request = new Request(`http://127.0.0.1/api/v1${path}?${query}`, {
          method: method.toUpperCase(),
          headers,
          ...(body !== undefined && { body: type === 'application/json' ? JSON.stringify(body) : (body as BodyInit) }),
        });
        return { response: await (ROUTES[path]![method] as Handler)(request, at(given) as { params: Promise<never> }), described };
      }
    }
    throw new Error(`the document has no ${operationId}`);
  }

  /** Calls an operation and holds the answer to what the document promises. */
  async call<T>(operationId: string, given: Readonly<Record<string, string>> = {}, body?: unknown): Promise<T> {
    const { response, described } = await this.raw(operationId, given, body);
    const promised = described.responses[String(response.status)];
    if (!promised) throw new Error(`${operationId} answered ${response.status}, which the document does not know`);
    const answer: unknown = await response.json();
    z.fromJSONSchema(promised.content['application/json']!.schema as Parameters<typeof z.fromJSONSchema>[0]).parse(answer);
    if (response.status >= 400) throw new Error((answer as { message: string }).message);
    return answer as T;
  }
}

const csv = (scale: number, jitter: number): string =>
  `# Correction: none\n# Date: 2026-05-01\nTime (s),Engine speed (rpm),Power (kW),Note\n${Array.from({ length: 120 }, (_, i) => `${(i * 0.1).toFixed(1)},${2000 + 40 * i},${((20 + 0.8 * i) * scale + jitter * Math.sin(i)).toFixed(3)},${i === 3 ? '' : i}`).join('\n')}\n`;

let client: Client;
let job: StoredJob;
let unit: StoredUnit;

beforeAll(async () => {
  // The reader's thread runs bundled code, as in the built app.
  execFileSync(process.execPath, ['scripts/build-workers.mjs']);
  client = await Client.open();
  job = await json<StoredJob>(await postJob(ask({ name: 'From afar', preset: 'straight six, 2.9 L' }), none));
  [unit] = (await json<StoredUnit[]>(await postUnits(ask({ units: [aUnit(66, { name: 'Far 66' }).doc] }), none))) as [StoredUnit];
});

it('describes every operation there is a route for, and no other', () => {
  expect([...client.operations].sort()).toEqual([
    'compare',
    'listJobs',
    'listRuns',
    'listUnits',
    'readJob',
    'readRun',
    'solve',
    'uploadRun',
  ]);
});

it('reads jobs and units and solves without a key', async () => {
  const jobs = await client.call<{ id: string; name: string }[]>('listJobs');
  expect(jobs).toEqual([expect.objectContaining({ id: job.id, name: 'From afar' })]);
  expect((await client.call<StoredJob>('readJob', { id: job.id })).doc).toEqual(job.doc);
  expect((await client.call<StoredUnit[]>('listUnits')).map((u) => u.doc.name)).toContain('Far 66');
  const solved = await client.call<{ rpm: number[]; candidates: { name: string; gain_pct: number[] }[] }>(
    'solve',
    {},
    { jobId: job.id, unitIds: [unit.id] },
  );
  expect(solved.candidates[0]).toMatchObject({ name: 'Far 66' });
  expect(solved.candidates[0]!.gain_pct).toHaveLength(solved.rpm.length);
  const same = await client.call<typeof solved>('solve', {}, { job: job.doc, unitIds: [unit.id] });
  expect(same).toEqual(solved);
  await expect(client.call('solve', {}, { unitIds: [] })).rejects.toThrow(/give a job, or a jobId/);
  await expect(client.call('readJob', { id: unit.id })).rejects.toThrow(/does not exist/);
});

it('writes only with a key of this installation, and not with one that was taken back', async () => {
  const given = { id: job.id, fileName: 'stock 1.csv', side: 'stock' };
  await expect(client.call('uploadRun', given, csv(1, 0))).rejects.toThrow(/Writing needs a key/);
  client.token = 'vnr_made_up';
  await expect(client.call('uploadRun', given, csv(1, 0))).rejects.toThrow(/Writing needs a key/);
  const { token } = await json<{ token: string }>(await makeKey(ask({ name: 'the dyno' }), none));
  client.token = token;
  const done = await client.call<{ known: boolean; runs: StoredRun[]; report: { rows: number } }>('uploadRun', given, csv(1, 0));
  expect(done).toMatchObject({
    known: false,
    report: { rows: 120 },
    runs: [{ fileName: 'stock 1.csv', doc: { side: { kind: 'stock' }, takenOn: '2026-05-01' } }],
  });
  const again = await client.call<typeof done>('uploadRun', given, csv(1, 0));
  expect(again).toMatchObject({ known: true, runs: [{ id: done.runs[0]!.id }] });
  const keys = await json<{ id: string; name: string; usedAt: string | null }[]>(await listKeys(bare(), none));
  expect(keys).toEqual([expect.objectContaining({ name: 'the dyno', usedAt: expect.any(String) as string })]);
  expect(JSON.stringify(keys)).not.toContain(token);
  const other = await json<{ key: { id: string }; token: string }>(await makeKey(ask({ name: 'lost' }), none));
  expect((await revokeKey(bare('DELETE'), at({ id: other.key.id }))).status).toBe(200);
  expect((await revokeKey(bare('DELETE'), at({ id: other.key.id }))).status).toBe(404);
  client.token = other.token;
  await expect(client.call('uploadRun', given, csv(2, 0))).rejects.toThrow(/Writing needs a key/);
  client.token = token;
});

it('refuses what is no table with its line, and keeps nothing of it', async () => {
  await expect(client.call('uploadRun', { id: job.id, fileName: 'letter.txt' }, 'Dear shop,\n\nno table today.\n')).rejects.toThrow(
    /No column of figures was found; line 1 is “Dear shop,”/,
  );
  expect(await client.call<StoredRun[]>('listRuns', { id: job.id })).toHaveLength(1);
});

it('a side that is none is refused by name', async () => {
  const { response } = await client.raw('uploadRun', { id: job.id, fileName: 'x.csv', side: 'left' }, csv(3, 0));
  expect(response.status).toBe(422);
  expect(await json(response)).toMatchObject({ message: 'side: a side is "stock" or the id of a unit' });
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
    expect(first.map((e) => e.event)).toEqual(['storing', 'storing', 'storing', 'storing', 'done']);
    expect(first.at(-1)).toMatchObject({
      known: false,
      runs: [{ doc: { name: 'stock' } }],
      findings: { stops: expect.any(Array) as object },
    });
    expect(await events(await send(query, csv(1, 0)))).toEqual([expect.objectContaining({ event: 'done', known: true })]);
    expect(await events(await send(query, 'Dear shop,\n'))).toEqual([
      { event: 'refused', refusal: { refused: 'no_numeric_column', line: 1, text: 'Dear shop,' } },
    ]);
    expect(await client.call<StoredRun[]>('listRuns', { id: other.id })).toHaveLength(1);
  });

  it('cancelled, leaves nothing in the job', async () => {
    const other = await json<StoredJob>(await postJob(ask({ name: 'Cancelled', preset: 'straight six, 2.9 L' }), none));
    const stop = new AbortController();
    const response = await send(`job=${other.id}&fileName=stock.csv`, csv(1.5, 0), stop.signal);
    stop.abort();
    await response.text().catch(() => '');
    expect(await client.call<StoredRun[]>('listRuns', { id: other.id })).toEqual([]);
  });

  it('is refused from elsewhere and for a job that is not there', async () => {
    expect((await send(`job=${unit.id}&fileName=x.csv`, 'x')).status).toBe(404);
    const foreign = new Request('http://127.0.0.1/api/imports', { method: 'POST', headers: { host: 'tuner.example' }, body: 'x' });
    expect((await postImport(foreign, none)).status).toBe(403);
  });
});

it('gives a run back as it stood in the file, as JSON and as a table with its units, and the file itself', async () => {
  const [run] = await client.call<StoredRun[]>('listRuns', { id: job.id });
  const whole = await client.call<{ channels: { name: string; unit: string; quantity: string; values: (number | null)[] }[] }>('readRun', {
    id: run!.id,
  });
  expect(whole.channels.map((c) => [c.name, c.unit, c.quantity])).toEqual([
    ['Time', 's', 'time'],
    ['Engine speed', 'rpm', 'rpm'],
    ['Power', 'kW', 'power'],
    ['Note', '', 'other'],
  ]);
  expect(whole.channels[3]!.values.slice(2, 5)).toEqual([2, null, 4]);
  const { response } = await client.raw('readRun', { id: run!.id, format: 'csv' });
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
  await expect(client.call('compare', { id: job.id })).rejects.toThrow(/no runs of both sides/);
  await client.call('uploadRun', { id: job.id, fileName: 'stock 2.csv', side: 'stock' }, csv(1.001, 0.02));
  for (const k of [1, 2, 3])
    await client.call('uploadRun', { id: job.id, fileName: `new ${k}.csv`, side: unit.id }, csv(1.03 + 0.0005 * k, 0.03));
  const found = await client.call<{
    word: string;
    deciding: { mean_pct: number };
    runs: { side: string }[];
    confounders: { code: string }[];
  }>('compare', { id: job.id });
  expect(found).toMatchObject({ word: 'gain', deciding: { mean_pct: expect.closeTo(3.1, 0) } });
  expect(found.runs.map((r) => r.side).join('')).toBe('AABBB');
  // Five files sent without a time in or of them: their order is a guess, and it is said to be one.
  expect(found.confounders.map((c) => c.code)).toContain('order_guessed');
  expect(found.confounders.map((c) => c.code)).not.toContain('no_return');
  const { response } = await client.raw('compare', { id: job.id, format: 'csv' });
  expect((await response.text()).split('\n')[1]).toBe('rpm,W,W,W,%,%,%');
});

it('is not for pages from elsewhere', async () => {
  const foreign = new Request('http://127.0.0.1/api/v1/jobs', { headers: { host: '127.0.0.1', origin: 'https://elsewhere.example' } });
  expect((await listJobs(foreign, none)).status).toBe(403);
});
