import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import net from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';

/** `npm start` itself, on a data folder of its own; the packages and the build are those of the checks. */
const data = mkdtempSync(join(tmpdir(), 'vanner-start-'));
const env = { ...process.env, VANNER_DATA: data, DATABASE_URL: '', CI: '1' };
delete (env as NodeJS.ProcessEnv)['DATABASE_URL'];
const note = (): { pid: number; server: number; port: number } => JSON.parse(readFileSync(join(data, 'running.json'), 'utf8')) as never;

interface Started {
  readonly child: ChildProcess;
  readonly text: () => string;
  readonly says: (words: RegExp) => Promise<void>;
  readonly ended: Promise<number | null>;
}

function start(...args: string[]): Started {
  const child = spawn(process.execPath, ['scripts/start.mjs', ...args], { env, stdio: ['ignore', 'pipe', 'pipe'] });
  let text = '';
  child.stdout.on('data', (d) => (text += String(d)));
  child.stderr.on('data', (d) => (text += String(d)));
  return {
    child,
    text: () => text,
    says: (words) => expect.poll(() => text, { timeout: 60_000 }).toMatch(words),
    ended: new Promise((resolve) => child.once('exit', (code) => resolve(code))),
  };
}

const health = (port: number): Promise<unknown> => fetch(`http://127.0.0.1:${port}/api/health`).then((r) => r.json());
const postmaster = (): number =>
  Number(
    readFileSync(
      join(JSON.parse(readFileSync(join(data, 'database', 'state.json'), 'utf8')).data as string, 'postmaster.pid'),
      'utf8',
    ).split('\n')[0],
  );

test.afterAll(() => rmSync(data, { recursive: true, force: true }));

test('starts, knows when it runs already, survives kill -9 of itself, of its server and of the database, stops cleanly', async () => {
  test.setTimeout(240_000);
  const taken = net.createServer();
  await new Promise<void>((resolve) => taken.listen(0, '127.0.0.1', resolve));
  const wanted = (taken.address() as net.AddressInfo).port;

  const first = start('--port', String(wanted));
  await first.says(/Vanner answers on http:\/\/127\.0\.0\.1:\d+/);
  expect(first.text()).toMatch(/database\s+\d+\.\d s/);
  expect(first.text()).toContain(`Port ${wanted} is taken; using ${note().port}.`);
  expect(await health(note().port)).toEqual({ app: 'vanner', database: true });

  const twice = start();
  expect(await twice.ended).toBe(0);
  expect(twice.text()).toContain(`Vanner is already running on http://127.0.0.1:${note().port}`);

  process.kill(postmaster(), 'SIGKILL');
  await first.says(/The database is back\./);
  await expect.poll(() => health(note().port), { timeout: 20_000 }).toEqual({ app: 'vanner', database: true });

  const { server } = note();
  process.kill(server, 'SIGKILL');
  await first.says(/The server is back\./);
  expect(note().server).not.toBe(server);
  expect(await health(note().port)).toEqual({ app: 'vanner', database: true });

  first.child.kill('SIGKILL');
  await first.ended;
  const again = start('--port', String(wanted + 1));
  const from = Date.now();
  await again.says(/Vanner answers on/);
  expect(Date.now() - from).toBeLessThan(30_000);
  expect(again.text()).toContain('as left');
  expect(await health(note().port)).toEqual({ app: 'vanner', database: true });

  const { port } = note();
  again.child.kill('SIGINT');
  expect(await again.ended).toBe(0);
  expect(existsSync(join(data, 'running.json'))).toBe(false);
  await expect(health(port)).rejects.toThrow();
  taken.close();
});

test('says what is wrong with its options', async () => {
  const odd = start('--port', 'many');
  expect(await odd.ended).toBe(1);
  expect(odd.text()).toContain('--port takes a number from 1 to 65535, not "many".');
  const unknown = start('--colour');
  expect(await unknown.ended).toBe(1);
  expect(unknown.text()).toContain('Known options: --port N, --host ADDRESS (beyond this machine; wants a passphrase), --tls');
});
