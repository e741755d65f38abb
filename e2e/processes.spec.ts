import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { request } from 'node:http';
import { App, expect, test } from './app';

test.use({ shop: 'processes' });

interface Reply {
  readonly status: number;
  readonly text: string;
  readonly cookie: string;
}
/** A request on a connection of its own: the next process in turn takes it. */
const ask = (url: string, { method = 'GET', body, ...headers }: Record<string, string> = {}): Promise<Reply> =>
  new Promise((resolve, reject) => {
    const json = body === undefined ? {} : { 'content-type': 'application/json' };
    const req = request(
      url,
      { method, agent: false, headers: { connection: 'close', origin: new URL(url).origin, ...json, ...headers } },
      (res) => {
        let text = '';
        res.setEncoding('utf8').on('data', (d: string) => (text += d));
        res.on('end', () => resolve({ status: res.statusCode!, text, cookie: String(res.headers['set-cookie'] ?? '').split(';')[0]! }));
      },
    );
    req.on('error', reject);
    req.end(body);
  });
const times = async (n: number, one: () => Promise<Reply>): Promise<number[]> => {
  const out: number[] = [];
  for (let i = 0; i < n; i += 1) out.push((await one()).status);
  return out;
};
const all = (n: number, status: number): number[] => Array.from({ length: n }, () => status);
/** The processes of a server, the one that holds the address and those that answer. */
const answering = (url: string): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((name) => {
      try {
        const [, script, , port] = readFileSync(`/proc/${name}/cmdline`, 'utf8').split('\0');
        return script?.endsWith('web.mjs') === true && port === new URL(url).port;
      } catch {
        return false; // It has ended meanwhile.
      }
    })
    .map(Number)
    .sort((a, b) => a - b);

test('two processes behind one address know the same of the passphrase, add up their measures, and one that is killed is begun again', async () => {
  process.env['VANNER_WEB'] = '2';
  const app = await App.begin();
  try {
    await expect.poll(() => answering(app.url).length, { timeout: 20_000 }).toBe(3);
    await expect
      .poll(async () => (await times(8, () => ask(`${app.url}/api/health`))).every((s) => s === 200), { timeout: 20_000 })
      .toBe(true);

    expect(await times(8, () => ask(`${app.url}/api/v1/jobs`))).toEqual(all(8, 200));
    const measured = /vanner_http_request_seconds_count\{method="GET",route="\/api\/v1\/jobs",status="200"\} (\d+)/;
    for (let i = 0; i < 4; i += 1) expect(Number(measured.exec((await ask(`${app.url}/api/metrics`)).text)?.[1])).toBe(8);

    const next = 'rivets under a slow lamp 42';
    const set = await ask(`${app.url}/api/shop/passphrase`, { method: 'PUT', body: JSON.stringify({ next }) });
    expect(set.status).toBe(200);
    expect(await times(8, () => ask(`${app.url}/api/jobs`, { method: 'POST', body: '{}' }))).toEqual(all(8, 401));
    expect(await times(8, () => ask(`${app.url}/`, { cookie: set.cookie }))).toEqual(all(8, 200));
    await ask(`${app.url}/api/sign-in`, { method: 'DELETE', cookie: set.cookie });
    expect(await times(8, () => ask(`${app.url}/`, { cookie: set.cookie }))).toEqual(all(8, 303));

    // A second server on the same port says so and ends; nothing of it goes on trying.
    const second = spawnSync(process.execPath, ['scripts/web.mjs', '127.0.0.1', new URL(app.url).port], {
      encoding: 'utf8',
      timeout: 20_000,
    });
    expect(second.status).toBe(1);
    expect(second.stderr).toMatch(/EADDRINUSE/);

    const [, one] = answering(app.url);
    process.kill(one!, 'SIGKILL');
    await expect.poll(() => answering(app.url).filter((p) => p !== one).length, { timeout: 20_000 }).toBe(3);
    await expect
      .poll(async () => (await times(6, () => ask(`${app.url}/api/health`))).every((s) => s === 200), { timeout: 20_000 })
      .toBe(true);
  } finally {
    delete process.env['VANNER_WEB'];
    await app.end();
  }
  expect(answering(app.url)).toEqual([]);
});
