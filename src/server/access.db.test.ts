import { freshDatabase } from '../../test/database';
import { admit, forgetGate, refusal, renewal, signOut } from './access';
import type { Db } from './db/client';
import { sessionKey, setPassphrase } from './passphrase';
import { SESSION_COOKIE, sessionValue } from './session';

let db: Db;
let drop: () => Promise<void>;
const own = globalThis as { vannerDb?: Db };
beforeAll(async () => {
  ({ db, drop } = await freshDatabase());
  own.vannerDb = db;
});
afterAll(async () => {
  delete own.vannerDb;
  await drop();
});
afterEach(async () => {
  delete process.env['VANNER_LISTEN'];
  await setPassphrase(db, null);
  forgetGate();
});

const ask = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
  refusal({ method, url: `http://shop.lan:4310${path}`, headers: new Headers({ host: 'shop.lan:4310', ...headers }) });
const here = { host: '127.0.0.1:4310' };

it('on its own machine and without a passphrase everybody there comes in, and nobody from elsewhere', async () => {
  expect(await ask('/', here)).toBeNull();
  expect(await ask('/')).toMatchObject({ status: 403, code: 'foreign' });
  await expect(
    admit(new Request('http://127.0.0.1:4310/api/files', { method: 'POST', headers: { ...here, 'sec-fetch-site': 'cross-site' } })),
  ).rejects.toMatchObject({
    status: 403,
  });
});

it('listening beyond its machine it answers nobody before it has a passphrase', async () => {
  process.env['VANNER_LISTEN'] = '0.0.0.0';
  expect(await ask('/')).toMatchObject({ status: 403, code: 'no_passphrase' });
  expect(await ask('/api/v1/jobs', here)).toMatchObject({ status: 403, code: 'no_passphrase' });
});

it('with one it asks for it everywhere but at the door and on a customer’s page', async () => {
  process.env['VANNER_LISTEN'] = '0.0.0.0';
  await setPassphrase(db, 'three plain words');
  forgetGate();
  for (const path of ['/', '/jobs/x/air', '/api/v1/jobs', '/api/search?q=a', '/c/', '/c/a/b', '/sign-in/x', '/api/health/x'])
    expect(await ask(path)).toMatchObject({ status: 401, code: 'sign_in' });
  for (const path of [
    '/sign-in?to=/',
    '/favicon.ico',
    '/manifest.webmanifest',
    '/api/sign-in',
    '/api/health',
    `/c/${'A'.repeat(43)}`,
    `/c/${'A'.repeat(43)}/pdf`,
    `/c/${'A'.repeat(43)}/photo/0`,
  ])
    expect(await ask(path)).toBeNull();
  const value = sessionValue((await sessionKey(db))!, Date.now());
  expect(await ask('/', { cookie: `a=b; ${SESSION_COOKIE}=${value}` })).toBeNull();
  expect(await ask('/', { cookie: `${SESSION_COOKIE}=${value}x` })).toMatchObject({ status: 401 });
  // Signed out on the server a copy of the cookie opens nothing.
  const gone = sessionValue((await sessionKey(db))!, Date.now());
  expect(await ask('/', { cookie: `${SESSION_COOKIE}=${gone}` })).toBeNull();
  await signOut(new Request('http://127.0.0.1:4310/api/sign-in', { method: 'DELETE', headers: { cookie: `${SESSION_COOKIE}=${gone}` } }));
  expect(await ask('/', { cookie: `${SESSION_COOKIE}=${gone}` })).toMatchObject({ status: 401 });
  expect(await ask('/', { cookie: `${SESSION_COOKIE}=${value}` })).toBeNull();
  // A session in use is written anew once its last sight is a while ago.
  expect(await renewal({ headers: new Headers({ cookie: `${SESSION_COOKIE}=${value}` }) })).toBeNull();
  const old = sessionValue((await sessionKey(db))!, Date.now() - 2 * 3_600_000);
  expect(await renewal({ headers: new Headers({ cookie: `${SESSION_COOKIE}=${old}` }) })).toMatch(/^vanner-session=\d/);
  // A session does not let another site's page in.
  expect(await ask('/api/jobs', { cookie: `${SESSION_COOKIE}=${value}`, origin: 'https://elsewhere.example' }, 'POST')).toMatchObject({
    status: 403,
  });
});

it('while the database is away it lets nobody in from beyond, and the machine’s own people see what is wrong', async () => {
  own.vannerDb = {
    selectFrom: () => {
      throw new Error('away');
    },
  } as unknown as Db;
  forgetGate();
  try {
    expect(await ask('/', here)).toBeNull();
    process.env['VANNER_LISTEN'] = '0.0.0.0';
    expect(await ask('/')).toMatchObject({ status: 503 });
  } finally {
    own.vannerDb = db;
  }
});
