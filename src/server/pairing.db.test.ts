import { POST as postPairing } from '@/app/api/pairings/route';
import { GET as openPairing } from '@/app/pair/[token]/route';
import { POST as postJob } from '@/app/api/jobs/route';
import type { StoredJob } from '@/core/documents/job';
import { ask, askAs, at, bare, json, none, onFreshDatabase } from '../../test/api';
import { db } from './db/client';
import { newPairing, reachableOrigins, takePairing } from './pairing';
import { setPassphrase } from './passphrase';

onFreshDatabase();
afterEach(() => void delete process.env['VANNER_LISTEN']);

it('a code opens its page once, and not after its time', async () => {
  const token = await newPairing(db(), '/jobs/x/install', 0);
  expect(await takePairing(db(), token, 1000)).toBe('/jobs/x/install');
  expect(await takePairing(db(), token, 1000)).toBeNull();
  expect(await takePairing(db(), await newPairing(db(), '/', 0), 11 * 60_000)).toBeNull();
  expect(await takePairing(db(), 'made-up', 0)).toBeNull();
});

it('is told where a phone can reach it, and that it cannot where only this machine does', () => {
  expect(reachableOrigins(new URL('http://127.0.0.1:4310'))).toEqual([]);
  expect(reachableOrigins(new URL('https://192.0.2.4:4310'))).toEqual(['https://192.0.2.4:4310']);
  process.env['VANNER_LISTEN'] = '0.0.0.0';
  for (const o of reachableOrigins(new URL('https://127.0.0.1:4310'))) expect(o).toMatch(/^https:\/\/\d+\.\d+\.\d+\.\d+:4310$/);
});

it('signs the phone in and brings it to the run-sheet', async () => {
  await setPassphrase(db(), 'three green bottles');
  const { id } = await json<StoredJob>(await postJob(ask({ name: 'Pair', preset: 'straight six, 2.9 L' }), none));
  const wrong = await postPairing(askAs({ jobId: id, stop: 'install', origin: 'http://elsewhere.example' }, { host: '192.0.2.4' }), none);
  expect(wrong.status).toBe(422);
  const made = await postPairing(askAs({ jobId: id, stop: 'strip', origin: 'http://192.0.2.4' }, { host: '192.0.2.4' }), none);
  const { links } = (await made.json()) as { links: string[] };
  const token = links[0]!.split('/').at(-1)!;
  const opened = await openPairing(bare(), at({ token }));
  expect([opened.status, opened.headers.get('location')]).toEqual([303, `/jobs/${id}/test?view=strip`]);
  expect(opened.headers.get('set-cookie')).toMatch(/^vanner-session=\d+\./);
  const again = await openPairing(bare(), at({ token }));
  expect(again.headers.get('location')).toBe('/sign-in?code=old');
  expect(again.headers.get('set-cookie')).toBeNull();
});
