import { z } from 'zod';
import { isDatabaseAway, problemOf, ServerProblem, stale } from './errors';
import { log } from './watch';
import { body, problemResponse, query, route } from './http';

const withCode = (code: string): Error => Object.assign(new Error('x'), { code });

it('tells a database that is away from a fault of ours', () => {
  expect(isDatabaseAway(withCode('ECONNREFUSED'))).toBe(true);
  expect(isDatabaseAway(withCode('57P01'))).toBe(true);
  expect(isDatabaseAway(new Error('Connection terminated unexpectedly'))).toBe(true);
  expect(isDatabaseAway(withCode('23505'))).toBe(false);
  expect(isDatabaseAway('no error')).toBe(false);
  expect(problemOf(withCode('ECONNREFUSED'))).toMatchObject({ status: 503, code: 'database_away' });
});

it('says that the disk is full, not that something went wrong', () => {
  expect(problemOf(withCode('53100'))).toMatchObject({
    status: 507,
    code: 'disk_full',
    message: expect.stringMatching(/disk of the database is full/),
  });
});

it('an unknown fault tells nothing of the inside', () => {
  const told = jest.spyOn(log(), 'error').mockImplementation(() => {});
  const problem = problemOf(new Error('secret detail'));
  expect(problem).toMatchObject({ status: 500, code: 'failed' });
  expect(problem.message).not.toContain('secret');
  expect(told).toHaveBeenCalledWith({ err: expect.objectContaining({ message: 'secret detail' }) as Error }, expect.any(String));
  told.mockRestore();
});

it('a problem answers with its code, its sentence and its data', async () => {
  const response = problemResponse(stale({ version: 4 }));
  expect(response.status).toBe(409);
  expect(await response.json()).toMatchObject({ error: 'stale', current: { version: 4 } });
});

describe('a request body', () => {
  const schema = z.object({ name: z.string().min(1, 'Give it a name.') });
  const request = (text: string): Request => new Request('http://x/', { method: 'POST', body: text });

  it('comes out as the document', async () => {
    expect(await body(request('{"name":"a"}'), schema)).toEqual({ name: 'a' });
  });

  it('is refused with the field and the reason', async () => {
    await expect(body(request('{"name":""}'), schema)).rejects.toMatchObject({
      status: 422,
      message: 'name: Give it a name.',
      data: { issues: [{ path: 'name' }] },
    });
    await expect(body(request('not json'), schema)).rejects.toMatchObject({ status: 400 });
    await expect(body(request(`"${'x'.repeat(2_100_000)}"`), schema)).rejects.toMatchObject({ status: 413 });
  });

  it('a route turns whatever is thrown into an answer', async () => {
    const handler = route(() => Promise.reject(new ServerProblem(418, 'teapot', 'Short and stout.')));
    const response = await handler(request('{}'), { params: Promise.resolve({}) });
    expect(response.status).toBe(418);
    expect(await response.json()).toEqual({ error: 'teapot', message: 'Short and stout.' });
  });
});

it('a NUL or half a letter is refused with its reason, wherever it stands; an emoji and an escape are text', async () => {
  const schema = z.object({ name: z.string(), more: z.record(z.string(), z.unknown()).optional() });
  const said = (json: string) => body(new Request('http://x/', { method: 'POST', body: json }), schema);
  for (const json of [
    '{"name":"a\\u0000b"}',
    '{"name":"\\ud83d"}',
    '{"name":"x","more":{"a":[{"b\\u0000":1}]}}',
    '{"name":"x","more":{"a":["\\uDC00"]}}',
  ])
    await expect(said(json)).rejects.toMatchObject({ status: 422, code: 'unstorable_text' });
  expect((await said('{"name":"\\ud83d\\ude00 \\\\u0000"}')).name).toBe('\u{1f600} \\u0000');
  expect(() => query(new Request('http://x/?q=a%00b'), z.object({ q: z.string() }))).toThrow(expect.objectContaining({ status: 422 }));
});

it('what the database says of a text or an id that is none is told, not a fault of ours', () => {
  expect(problemOf(withCode('22P05'))).toMatchObject({ status: 422, code: 'unstorable_text' });
  expect(problemOf(withCode('22021'))).toMatchObject({ status: 422 });
  expect(problemOf(withCode('22P02'))).toMatchObject({ status: 404, code: 'not_found' });
});

it('a queue is no database that is away: it says when to come again', async () => {
  const crowded = new Error('timeout exceeded when trying to connect');
  expect(isDatabaseAway(crowded)).toBe(false);
  expect(problemOf(crowded)).toMatchObject({ status: 503, code: 'busy' });
  const answer = problemResponse(crowded);
  expect(answer.headers.get('retry-after')).toBe('5');
  expect(problemResponse(withCode('ECONNREFUSED')).headers.get('retry-after')).toBe('5');
  expect(problemResponse(new ServerProblem(404, 'x', 'x')).headers.get('retry-after')).toBeNull();
});
