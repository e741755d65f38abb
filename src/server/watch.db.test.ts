import { sql } from 'kysely';
import { GET as getMetrics } from '@/app/api/metrics/route';
import { GET as getUnits } from '@/app/api/units/route';
import { at, bare, none, onFreshDatabase } from '../../test/api';
import { dispatcher } from './api/dispatch';
import { db } from './db/client';
import { ServerProblem } from './errors';
import { fromThisMachine } from './guard';
import { route } from './http';
import { log, routeOf } from './watch';

onFreshDatabase();

const asked = (path: string, headers: Record<string, string> = {}) =>
  new Request(`http://127.0.0.1:4310${path}`, { headers: { host: '127.0.0.1:4310', ...headers } });
const metrics = async (): Promise<string> => (await getMetrics(asked('/api/metrics'))).text();

afterEach(() => {
  delete process.env['VANNER_SLOW_MS'];
  jest.restoreAllMocks();
});

it('tells how long answers took by their kind, what was refused, and what the database does', async () => {
  const refused = route(() => Promise.reject(new ServerProblem(409, 'made_up_code', 'no')));
  const id = '6f1f0a9e-3c1f-4a53-9a4e-0d2f6a3a1b2c';
  await refused(asked(`/api/jobs/${id}/strip`), at({ id }) as never);
  await sql`SELECT 1`.execute(db());
  const text = await metrics();
  expect(text).toMatch(/vanner_http_request_seconds_count\{method="GET",route="\/api\/jobs\/\{id\}\/strip",status="409"\} 1/);
  expect(text).toContain('vanner_problems_total{code="made_up_code"} 1');
  expect(text).toMatch(/vanner_database_query_seconds_count [1-9]/);
  expect(text).toMatch(/vanner_database_connections [1-9]/);
  expect(text).toMatch(/vanner_process_resident_memory_bytes \d/);
});

it('is told to this machine alone, straight', async () => {
  for (const headers of [
    { host: 'tuner.example' },
    { 'x-forwarded-for': '192.168.1.20' },
    { 'x-forwarded-for': '127.0.0.1, 192.168.1.20' },
    { 'x-forwarded-for': '127.0.0.1', 'x-forwarded-proto': 'https' },
    { forwarded: 'for=192.168.1.20' },
  ])
    expect((await getMetrics(asked('/api/metrics', headers as unknown as Record<string, string>))).status).toBe(403);
  expect(fromThisMachine(asked('/', { 'x-forwarded-for': '::ffff:127.0.0.1' }))).toBe(true);
});

it('an address is told as its route, what was given in it by its name', () => {
  expect(routeOf('/c/Zq3-8xk/photo/3', { token: 'Zq3-8xk', at: '3' })).toBe('/c/{token}/photo/{at}');
  expect(routeOf('/api/parts/%C3%96l%20', { id: 'Öl ' })).toBe('/api/parts/{id}');
  expect(routeOf('/api/x/%E0%A4%A', {})).toBe('/api/x/%E0%A4%A');
});

it('a route whose address holds nothing is given no parameters by the frame, and answers', async () => {
  const seen: unknown[] = [];
  const handler = route((_request, params) => {
    seen.push(params);
    return Promise.resolve(new Response('here'));
  });
  const answer = await handler(asked('/api/jobs'), { params: Promise.resolve(undefined) });
  expect([answer.status, seen]).toEqual([200, [{}]]);
});

it('addresses that are made up, one after the other, are told as one: they do not fill the memory', async () => {
  const api = dispatcher(() => Promise.reject(new Error('nothing is sent')));
  for (let i = 0; i < 300; i += 1) await api(asked(`/api/v1/made-up-${i}`), at({ path: [`made-up-${i}`] }));
  const routes = new Set([...(await metrics()).matchAll(/route="([^"]+)"/g)].map((m) => m[1]));
  expect(routes).toContain('/api/v1/others');
  expect(routes.size).toBeLessThan(20);
});

it('by a switch a slow answer tells its queries, never what was put into them', async () => {
  const told = jest.spyOn(log(), 'warn').mockImplementation(() => {});
  const slow = route(async () => {
    await sql`SELECT pg_sleep(0.06), ${'a secret'}::text`.execute(db());
    return Response.json({});
  });
  await slow(asked('/api/made-up'), none);
  expect(told).not.toHaveBeenCalled();
  process.env['VANNER_SLOW_MS'] = '50';
  await slow(asked('/api/made-up'), none);
  expect(told).toHaveBeenCalledTimes(1);
  const [line] = told.mock.calls[0] as unknown as [Record<string, unknown>];
  expect(line).toMatchObject({ route: '/api/made-up', status: 200, queries: 1 });
  expect(line['database_ms']).toBeGreaterThanOrEqual(50);
  expect(JSON.stringify(line)).toContain('pg_sleep');
  expect(JSON.stringify(line)).not.toContain('a secret');
});

it('an answer is nobody’s to keep on the way, unless it says so itself', async () => {
  const units = await getUnits(bare(), none);
  expect([units.headers.get('cache-control'), units.headers.get('x-content-type-options')]).toEqual(['private, no-store', 'nosniff']);
  const kept = await route(() => Promise.resolve(new Response('x', { headers: { 'cache-control': 'max-age=5' } })))(asked('/x'), none);
  expect(kept.headers.get('cache-control')).toBe('max-age=5');
});
