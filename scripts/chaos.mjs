/**
 * `npm run chaos [-- SECONDS]`: three web processes and three workers on one database, killed at random (kill -9) under load, each
 * begun again. At the end: every save that was answered is there, every archive became one job and no more, nothing lies about.
 * Prints what it saw; ends with 1 where something was lost or done twice. On loopback only.
 */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import pg from 'pg';
import { ensureBuilt } from './lib/build.mjs';
import { Cluster } from './lib/cluster.mjs';
import { whenInterrupted } from './lib/interrupted.mjs';
import { ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { anyPort } from './lib/ports.mjs';
import { sleep } from './lib/process.mjs';
import { must } from './lib/run.mjs';
import { answers, spawnApp } from './lib/server.mjs';
import { fail } from './lib/step.mjs';

const EACH = 3;
const KILL_EVERY_ms = 2500;
const SENDERS = 6;

const pick = (list) => list[Math.floor(Math.random() * list.length)];

/** A process that is begun again whenever it ends. */
function kept(name, begin) {
  const one = { name, child: null, kills: 0, over: false };
  const run = () => {
    one.child = begin();
    one.child.on('exit', () => !one.over && setTimeout(run, 300));
  };
  run();
  return one;
}

async function main() {
  const seconds = Number(process.argv[2] ?? 120);
  await ensureNpm();
  await ensurePostgres();
  await ensureBuilt();
  const cluster = new Cluster('chaos-database');
  const all = [];
  try {
    await cluster.startForNow();
    whenInterrupted(() => all.forEach((one) => one.child.kill()));
    const env = { ...process.env, DATABASE_URL: cluster.url() };
    await must(process.execPath, ['--import', 'tsx', 'scripts/db/prepare.ts', '--reset'], { cwd: ROOT, env });
    process.env.VANNER_WORKERS = '0';
    process.env.VANNER_LOG = 'silent';
    const ports = [];
    for (let i = 0; i < EACH; i += 1) ports.push(await anyPort());
    for (const port of ports) all.push(kept(`web ${port}`, () => spawnApp(port, cluster.url())));
    for (let i = 0; i < EACH; i += 1)
      all.push(
        kept(`worker ${i}`, () =>
          spawn(process.execPath, [join(ROOT, 'dist/workers/queue.mjs')], { cwd: ROOT, stdio: 'ignore', env: { ...process.env, ...env } }),
        ),
      );
    for (const port of ports) while (!(await answers(port))) await sleep(200);
    process.exitCode = (await trial(ports, all, seconds, cluster.url())) ? 0 : 1;
  } finally {
    for (const one of all) {
      one.over = true;
      one.child.kill('SIGKILL');
    }
    await cluster.stop();
  }
}

/** A request to any of the web processes, until one answers: what broke off may have been done, and is sent again as the same. */
async function sent(ports, path, init = {}) {
  for (;;) {
    const base = `http://127.0.0.1:${pick(ports)}`;
    try {
      const response = await fetch(base + path, {
        ...init,
        headers: { origin: base, ...init.headers },
        signal: AbortSignal.timeout(30_000),
      });
      if (response.status < 500) return { status: response.status, answer: await response.json() };
    } catch {
      // It was killed.
    }
    await sleep(100);
  }
}

async function trial(ports, all, seconds, url) {
  const { answer: list } = await sent(ports, '/api/v1/jobs');
  const source = list.items.find((j) => j.name === 'Pipit hatch').id;
  let archive = null;
  while (!archive) {
    const response = await fetch(`http://127.0.0.1:${pick(ports)}/api/jobs/${source}/package`).catch(() => null);
    archive = response?.ok ? Buffer.from(await response.arrayBuffer()) : null;
  }
  const before = list.items.length;
  const until = Date.now() + seconds * 1000;
  const days = new Map();
  const works = [];
  const json = { 'content-type': 'application/json' };
  const sender = async () => {
    while (Date.now() < until) {
      if (Math.random() < 0.3) {
        const { status, answer } = await sent(ports, `/api/packages?work=${crypto.randomUUID()}`, { method: 'POST', body: archive });
        if (status === 202) works.push(answer.work);
        continue;
      }
      // A day at the strip has an id of its own: sent twice it is kept once.
      const id = crypto.randomUUID();
      const track = `Track ${days.size} ${id.slice(0, 8)}`;
      const body = JSON.stringify({ id, schema: 1, track, takenOn: '2026-04-11' });
      const { status } = await sent(ports, `/api/jobs/${source}/strip`, { method: 'POST', headers: json, body });
      if (status === 201 || status === 200) days.set(id, track);
    }
  };
  const killer = async () => {
    while (Date.now() < until) {
      await sleep(KILL_EVERY_ms * (0.5 + Math.random()));
      const one = pick(all);
      one.child.kill('SIGKILL');
      one.kills += 1;
    }
  };
  await Promise.all([killer(), ...Array.from({ length: SENDERS }, sender)]);
  const ends = new Map();
  for (const work of works) {
    let seen;
    do {
      ({ answer: seen } = await sent(ports, `/api/work/${work}`));
      if (seen.state === 'waiting' || seen.state === 'running') await sleep(200);
    } while (seen.state === 'waiting' || seen.state === 'running');
    ends.set(work, seen);
  }
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const count = async (query) => Number((await client.query(query)).rows[0].n);
  const kept = new Set((await client.query('SELECT id FROM strip_visit')).rows.map((r) => r.id));
  const done = await count("SELECT count(*) AS n FROM work WHERE state = 'done'");
  const jobs = (await count('SELECT count(*) AS n FROM job')) - before;
  const left = await count("SELECT count(*) AS n FROM file WHERE hash LIKE 'work-%'");
  await client.end();
  const lost = [...days.keys()].filter((id) => !kept.has(id)).length;
  const failed = [...ends.values()].filter((s) => s.state !== 'done');
  const kills = all.map((one) => `${one.name.split(' ')[0]} ${one.kills}`).join(', ');
  console.log(`kills: ${kills}`);
  console.log(
    `${days.size} days answered, ${lost} lost; ${works.length} archives taken, ${failed.length} not done: ${JSON.stringify(failed.slice(0, 3))}`,
  );
  console.log(`${done} pieces of work done, ${jobs} jobs made of them; ${left} archives lie about`);
  return lost === 0 && failed.length === 0 && done === works.length && jobs === done && left === 0;
}

main().catch(fail);
