/** `npm start`: everything from a bare clone to the app answering. Node's own modules only: nothing is installed yet. */
import { existsSync, readFileSync, rmSync, writeFileSync, mkdirSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { Cluster } from './lib/cluster.mjs';
import { ensureBuilt } from './lib/build.mjs';
import { ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { LOCAL, ROOT } from './lib/paths.mjs';
import { portFrom } from './lib/ports.mjs';
import { isOurs } from './lib/process.mjs';
import { must } from './lib/run.mjs';
import { answers, endChild, spawnApp, usualProcesses, waitForApp } from './lib/server.mjs';
import { fail, Plain, step } from './lib/step.mjs';

const DEFAULT_PORT = 4310;
const NOTE = join(LOCAL, 'running.json');
const ME = 'scripts/start.mjs';

function options() {
  try {
    const { values } = parseArgs({
      options: { port: { type: 'string' }, host: { type: 'string' }, tls: { type: 'boolean' }, empty: { type: 'boolean' } },
    });
    const port = values.port === undefined ? DEFAULT_PORT : Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65_535)
      throw new Plain(`--port takes a number from 1 to 65535, not "${values.port}".`);
    const host = values.host ?? (values.tls ? '0.0.0.0' : '127.0.0.1');
    return { port, host, tls: values.tls ?? false, empty: values.empty ?? false };
  } catch (error) {
    if (error instanceof Plain) throw error;
    throw new Plain(
      `${error.message}\nKnown options: --port N, --host ADDRESS (beyond this machine; wants a passphrase), --tls (with a certificate of its own), --empty (no demo data on the first start).`,
    );
  }
}

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '::1']);

/** Beyond this machine nobody is let in without the shop's words. */
async function wantPassphrase(env) {
  const said = await must(process.execPath, ['--import', 'tsx', 'scripts/db/passphrase.ts', '--check'], { cwd: ROOT, env });
  if (said.trim().endsWith('set')) return 'set';
  throw new Plain('Listening beyond this machine wants a passphrase first:\n\n  npm run passphrase\n\nThen start again.');
}

const readNote = () => {
  try {
    return JSON.parse(readFileSync(NOTE, 'utf8'));
  } catch {
    return null;
  }
};

/** Takes the note of who runs here, or says that somebody already does. */
async function takeNote() {
  mkdirSync(LOCAL, { recursive: true, mode: 0o755 });
  for (;;) {
    try {
      writeFileSync(NOTE, JSON.stringify({ pid: process.pid }), { flag: 'wx' });
      return true;
    } catch {
      const other = readNote();
      if (other && isOurs(other.pid, ME)) {
        const at = other.port ? `http://127.0.0.1:${other.port}` : null;
        if (at && (await answers(other.port))) console.log(`Vanner is already running on ${at}`);
        else console.log(`Vanner is already being started by process ${other.pid}.`);
        return false;
      }
      // A server that outlived its killed starter would hold the port and the database connections: it is ours to end.
      if (other?.server && isOurs(other.server, 'web.mjs')) process.kill(other.server, 'SIGTERM');
      rmSync(NOTE, { force: true });
    }
  }
}

function openBrowser(address) {
  if (!process.stdout.isTTY || !(process.env.DISPLAY || process.env.WAYLAND_DISPLAY) || process.env.CI) return;
  const child = spawn('xdg-open', [address], { stdio: 'ignore', detached: true });
  child.on('error', () => {});
  child.unref();
}

async function main() {
  const { port: wanted, host, tls, empty } = options();
  if (!(await takeNote())) return;
  const ownDatabase = process.env.DATABASE_URL;
  let cluster = null;
  let server = null;
  let doors = [];
  let closing = false;

  const close = async (code) => {
    if (closing) return;
    closing = true;
    for (const door of doors) door.close();
    if (server) await endChild(server);
    if (cluster?.data) await cluster.stop().catch(() => {});
    rmSync(NOTE, { force: true });
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
    process.on(signal, () => {
      console.log('\nStopping.');
      void close(0);
    });
  }

  try {
    await step('npm packages', ensureNpm);
    if (!ownDatabase) {
      await step('PostgreSQL', ensurePostgres);
      cluster = new Cluster();
      await step('database', () => cluster.start());
    }
    const databaseUrl = ownDatabase ?? cluster.url();
    const env = { ...process.env, DATABASE_URL: databaseUrl };
    await step('tables and demo data', () =>
      must(process.execPath, ['--import', 'tsx', 'scripts/db/prepare.ts', ...(empty ? ['--empty'] : [])], { cwd: ROOT, env }).then((s) =>
        s.trim().split('\n').at(-1),
      ),
    );
    if (!LOOPBACK.has(host)) await step('passphrase', () => wantPassphrase(env));
    await step('build', ensureBuilt);
    const port = await portFrom(wanted);
    if (port !== wanted) console.log(`Port ${wanted} is taken; using ${port}.`);
    const inner = tls ? await portFrom(port + INNER) : port;
    process.env.VANNER_WEB ??= usualProcesses();
    const begin = () => {
      server = spawnApp(inner, databaseUrl, {}, tls ? '127.0.0.1' : host, host);
      writeFileSync(NOTE, JSON.stringify({ pid: process.pid, server: server.pid, port: inner }));
      return server;
    };
    await step('server', async () => {
      await waitForApp(inner, begin());
      if (tls) doors = await openDoors({ port, host, appPort: inner });
    });
    const address = `${tls ? 'https' : 'http'}://127.0.0.1:${port}`;
    console.log(`\nVanner answers on ${address}  (Ctrl-C stops it)`);
    if (!LOOPBACK.has(host)) await tellPhones({ port, host, tls });
    openBrowser(address);
    watchServer(server, { begin, port: inner, isClosing: () => closing, giveUp: () => void close(1) });
    if (cluster) watchDatabase(cluster, () => closing);
  } catch (error) {
    if (closing) return;
    console.error(error instanceof Plain ? `\n${error.message}` : error);
    await close(1);
  }
}

/** With TLS the app itself stays on loopback, this far above the port that is asked for. */
const INNER = 1000;

async function openDoors({ port, host, appPort }) {
  const { ownAddresses, ownCertificate, tlsDoor, trustDoor } = await import('./lib/tls.mjs');
  const named = /^(0\.0\.0\.0|::)$/.test(host) ? ownAddresses() : [host];
  const addresses = [...new Set([...named, '127.0.0.1', 'localhost'])];
  const { key, cert, authority } = await ownCertificate(addresses);
  const address = `https://${addresses[0]}:${port}`;
  return [await tlsDoor({ key, cert, port, host, appPort }), await trustDoor({ authority, port: await portFrom(port + 1), host, address })];
}

/** How a phone in the house comes in, and what each way can do. */
async function tellPhones({ port, host, tls }) {
  const { ownAddresses } = await import('./lib/tls.mjs');
  const [first = host] = /^(0\.0\.0\.0|::)$/.test(host) ? ownAddresses() : [host];
  if (!tls) {
    console.log(`
On a phone in this network: http://${first}:${port}
Over plain HTTP a phone's browser keeps nothing for use without a network, and anybody in the network can read along.
Two ways to have TLS:
  1. npm start -- --host ${host} --tls   makes a certificate for this shop; each phone trusts it once, by a code and three steps.
  2. A proxy of your own in front, which speaks TLS, sets x-forwarded-proto: https and passes on to http://127.0.0.1:${port}.`);
    return;
  }
  const trust = `http://${first}:${port + 1}`;
  console.log(`
On a phone in this network: https://${first}:${port}
Each phone trusts this shop's certificate once. Scan this, or open ${trust}, and follow its three steps:
`);
  const { default: qr } = await import('qrcode');
  console.log(await qr.toString(trust, { type: 'terminal', small: true }));
}

/** Waits before a server that ended is started again, ms: longer each time it ends soon after, and not for ever. */
const SERVER_WAITS_ms = [200, 1000, 3000, 10_000, 30_000];
/** A server that ran this long had begun well: its next end counts as its first, ms. */
const RAN_WELL_ms = 60_000;

/** A server that ended is started again; the database stays, and what people type waits for it. */
function watchServer(first, { begin, port, isClosing, giveUp }) {
  let ends = 0;
  let since = Date.now();
  const follow = (child) =>
    child.once('exit', (code, signal) => {
      if (isClosing()) return;
      if (Date.now() - since > RAN_WELL_ms) ends = 0;
      const wait = SERVER_WAITS_ms[ends];
      ends += 1;
      if (wait === undefined) {
        console.error(`The server ended ${ends} times in a row (${signal ?? code}); giving up.`);
        return giveUp();
      }
      console.log(`The server ended by itself (${signal ?? code}); starting it again.`);
      setTimeout(() => {
        if (isClosing()) return;
        since = Date.now();
        const next = begin();
        follow(next);
        waitForApp(port, next).then(
          () => console.log('The server is back.'),
          (error) => isClosing() || console.error(error.message),
        );
      }, wait);
    });
  follow(first);
}

/** A database that was killed is started again: what people type waits for it. */
function watchDatabase(cluster, isClosing) {
  let busy = false;
  const timer = setInterval(async () => {
    if (isClosing()) return clearInterval(timer);
    if (busy || cluster.runningPid()) return;
    busy = true;
    console.log('The database stopped; starting it again.');
    try {
      await cluster.pgCtlStart();
      console.log('The database is back.');
    } catch (error) {
      console.error(error.message);
    }
    busy = false;
  }, 2000);
}

if (!existsSync(join(ROOT, 'package-lock.json'))) fail(new Plain('package-lock.json is missing: this is not a whole clone.'));
main().catch(fail);
