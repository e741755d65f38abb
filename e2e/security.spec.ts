import { request as httpRequest } from 'node:http';
import { expect, test } from './app';

test.use({ shop: 'security' });

interface Reply {
  status: number;
  headers: NodeJS.Dict<string | string[]>;
}
const ask = (url: string, headers: Record<string, string>, method = 'GET'): Promise<Reply> =>
  new Promise((resolve, reject) => {
    const req = httpRequest(url, { method, headers }, (res) => {
      res.resume();
      resolve({ status: res.statusCode!, headers: res.headers });
    });
    req.on('error', reject);
    req.end();
  });

test('answers only to this machine’s own names, and not to other pages', async ({ app }) => {
  const host = new URL(app.url).host;
  expect((await ask(app.url, { host })).status).toBe(200);
  expect((await ask(app.url, { host: 'tuner.example:4310' })).status).toBe(403);
  expect((await ask(`${app.url}/api/health`, { host: `127.0.0.1.evil.example` })).status).toBe(403);
  expect((await ask(`${app.url}/api/jobs`, { host, origin: 'https://elsewhere.example' }, 'POST')).status).toBe(403);
  expect((await ask(`${app.url}/api/files`, { host: 'tuner.example' }, 'POST')).status).toBe(403);
  expect((await ask(`${app.url}/api/files`, { host, origin: 'https://elsewhere.example' }, 'POST')).status).toBe(403);
  expect((await ask(`${app.url}/api/jobs`, { host, 'sec-fetch-site': 'cross-site' }, 'POST')).status).toBe(403);
  expect((await ask(`${app.url}/api/jobs`, { host, origin: app.url, 'content-type': 'application/json' }, 'POST')).status).toBe(400);
});

test('sends a content policy without inline scripts, and the usual headers', async ({ app }) => {
  const { headers } = await ask(app.url, { host: new URL(app.url).host });
  const policy = String(headers['content-security-policy']);
  expect(policy).toContain("default-src 'self'");
  expect(policy).toContain("object-src 'none'");
  expect(policy).not.toMatch(/script-src[^;]*unsafe-(inline|eval)/);
  expect(headers['x-content-type-options']).toBe('nosniff');
  expect(headers['x-frame-options']).toBe('DENY');
  expect(headers['referrer-policy']).toBe('no-referrer');
  expect(headers['x-powered-by']).toBeUndefined();
});
