import { gzipSync, strToU8 } from 'fflate';
import { POST as postJob } from '@/app/api/jobs/route';
import type { StoredJob } from '@/core/documents/job';
import { ask, json, NOBODY, none, onFreshDatabase } from '../../test/api';
import { client, csv, good, newKey, opened, raw, runsOf, upload } from '../../test/api-v1';

onFreshDatabase();

let job: StoredJob;

beforeAll(async () => {
  job = await json<StoredJob>(await postJob(ask({ name: 'From afar', preset: 'straight six, 2.9 L' }), none));
  opened.token = await newKey({});
});

describe('a write under an Idempotency-Key', () => {
  const body = JSON.stringify({ name: 'Once', preset: 'straight six, 2.9 L' });
  const post = (key: string, text = body): Promise<Response> =>
    raw('/jobs', { method: 'POST', headers: { 'content-type': 'application/json', 'idempotency-key': key }, body: text });

  it('is done once, however often and from however many senders it comes', async () => {
    const first = await post('k1');
    const second = await post('k1');
    expect(second.headers.get('idempotency-replayed')).toBe('true');
    expect(await second.json()).toEqual(await first.json());
    const many = await Promise.all(Array.from({ length: 5 }, () => post('k2')));
    expect(many.every((r) => r.status === 201 || (r.status === 409 && r.headers.get('retry-after') === '1'))).toBe(true);
    const names = (await good(client.GET('/jobs', { params: { query: { name: 'once', limit: 500 } } }))).items;
    expect(names).toHaveLength(2);
  });

  it('with another request behind it is refused; one that failed may be tried again', async () => {
    expect((await post('k1', body.replace('Once', 'Twice'))).status).toBe(422);
    expect((await post('k3', '{"name":""}')).status).toBe(422);
    expect((await post('k3')).status).toBe(201);
  });
});

describe('keys', () => {
  it('that only read do not write; those for one job open no other', async () => {
    const kept = opened.token;
    const other = await good(client.POST('/jobs', { body: { name: 'Other', preset: 'straight six, 2.9 L' } }));
    opened.token = await newKey({ scope: 'read' });
    expect((await client.GET('/jobs/{id}', { params: { path: { id: other.id } } })).response.status).toBe(200);
    expect((await upload(other.id, { fileName: 'x.csv' }, csv(4, 0))).response.status).toBe(403);
    opened.token = await newKey({ scope: 'write', jobId: job.id });
    expect((await upload(job.id, { fileName: 'own.csv' }, csv(4, 0))).response.status).toBe(201);
    expect((await upload(other.id, { fileName: 'x.csv' }, csv(4, 0))).response.status).toBe(403);
    expect((await client.GET('/jobs/{id}', { params: { path: { id: other.id } } })).response.status).toBe(403);
    expect((await good(client.GET('/jobs'))).items.map((j) => j.id)).toEqual([job.id]);
    expect((await raw('/export')).status).toBe(403);
    expect((await raw('/units', { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })).status).toBe(403);
    const [own] = (await runsOf(job.id)).filter((r) => r.fileName === 'own.csv');
    expect((await client.DELETE('/runs/{id}', { params: { path: { id: own!.id } } })).response.status).toBe(200);
    opened.token = kept;
  });
});

describe('what is wrong is told as JSON, with the status it has', () => {
  const problem = async (response: Response): Promise<[number, string]> => [
    response.status,
    (await json<{ error: string }>(response)).error,
  ];

  it.each([
    ['an unknown path', '/cars', {}, [404, 'not_found']],
    ['an id that is none', '/jobs/7', {}, [404, 'not_found']],
    ['another method', '/jobs', { method: 'PATCH' }, [405, 'method_not_allowed']],
    ['an answer nobody has', '/jobs', { headers: { accept: 'image/png' } }, [406, 'not_acceptable']],
    ['an unknown parameter', '/jobs?colour=red', {}, [422, 'unknown_parameter']],
    ['a page of no list', `/jobs?after=${NOBODY}`, {}, [422, 'invalid']],
    [
      'a body of another type',
      '/jobs',
      { method: 'POST', headers: { 'content-type': 'text/plain' }, body: 'x' },
      [415, 'unsupported_type'],
    ],
    ['a body that is no JSON', '/jobs', { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{' }, [400, 'not_json']],
    [
      'a strange field',
      '/jobs',
      { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"name":"x","colour":1}' },
      [422, 'invalid'],
    ],
    [
      'too large a body',
      '/jobs',
      { method: 'POST', headers: { 'content-type': 'application/json' }, body: `"${'x'.repeat(2_200_000)}"` },
      [413, 'too_large'],
    ],
    [
      'a body packed otherwise',
      '/jobs',
      { method: 'POST', headers: { 'content-type': 'application/json', 'content-encoding': 'br' }, body: 'x' },
      [415, 'unsupported_type'],
    ],
  ] as const)('%s', async (_say, path, init, wanted) => {
    expect(await problem(await raw(path, init as RequestInit))).toEqual(wanted);
  });

  it('says in plain words what is wrong with a body, of all that is, and what was sent', async () => {
    const asked = await raw('/jobs', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"name":5,"preset":"rotary"}',
    });
    const answer = await json<{ message: string; issues: { path: string }[] }>(asked);
    expect(answer.message).toBe('name: It has to be a text, not 5.');
    expect(answer.issues.map((i) => i.path)).toEqual(['name', 'preset']);
    const page = await raw('/jobs?limit=lots', {});
    expect((await json<{ message: string }>(page)).message).toMatch(/^limit: It has to be a (figure|whole number)/);
  });

  it('says which methods there are, and answers HEAD like GET without its body', async () => {
    expect((await raw('/jobs', { method: 'DELETE' })).headers.get('allow')).toBe('GET, POST');
    const head = await raw(`/jobs/${job.id}`, { method: 'HEAD' });
    expect([head.status, head.headers.get('etag'), await head.text()]).toEqual([200, expect.stringMatching(/^"\d+"$/), '']);
  });

  it('takes a packed body, and refuses one that unpacks to too much', async () => {
    const send = (text: string): Promise<Response> =>
      raw('/jobs', {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'content-encoding': 'gzip' },
        body: gzipSync(strToU8(text)) as BodyInit,
      });
    expect((await send(JSON.stringify({ name: 'Packed', preset: 'straight six, 2.9 L' }))).status).toBe(201);
    expect(await problem(await send(`"${'x'.repeat(3_000_000)}"`))).toEqual([413, 'too_large']);
  });

  it('asks to come again later after too many requests in a minute', async () => {
    const kept = opened.token;
    opened.token = await newKey({ name: 'eager', scope: 'read' });
    let last: Response | null = null;
    for (let i = 0; i < 1300 && last?.status !== 429; i += 1) last = await raw('/nowhere-that-is', {}).then(() => raw('/jobs?colour=red'));
    expect(await problem(last!)).toEqual([429, 'too_many_requests']);
    expect(Number(last!.headers.get('retry-after'))).toBeGreaterThan(0);
    opened.token = kept;
  });
});
