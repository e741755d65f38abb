import { request as httpRequest } from 'node:http';
import { answer, expect, openJob, test } from './app';

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

const VIEWS = [
  'car',
  'air',
  'pick',
  'fit',
  'install',
  'test',
  'test?view=plan',
  'test?view=log',
  'test?view=strip',
  'test?view=practice',
  'verdict',
];
const CHARTS: Readonly<Record<string, number>> = {
  car: 1,
  air: 1,
  pick: 3,
  fit: 0,
  install: 0,
  test: 3,
  'test?view=plan': 0,
  'test?view=log': 2,
  'test?view=strip': 2,
  'test?view=practice': 0,
  verdict: 1,
};

test('every main view draws its charts and passes its own content policy', async ({ quietPage: page }) => {
  test.slow();
  for (const view of ['/', '/shelf', '/bench', '/sums', '/thinking', '/keys', '/settings', '/trash', '/sign-in', ...VIEWS]) {
    if (view.startsWith('/')) {
      await page.goto(view);
      await expect(answer(page)).toBeVisible();
    } else {
      await openJob(page, 'Larkspur estate', view);
      await expect(answer(page)).toBeVisible();
      await expect(answer(page)).not.toHaveText(/^Reading the (runs|log|passes)…$/);
      await expect(page.locator('.js-plotly-plot')).toHaveCount(CHARTS[view]!);
    }
  }
});
