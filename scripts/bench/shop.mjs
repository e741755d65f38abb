import { readdirSync, readFileSync } from 'node:fs';
import { builtRelease } from '../lib/build.mjs';
import { Cluster } from '../lib/cluster.mjs';
import { whenInterrupted } from '../lib/interrupted.mjs';
import { ROOT } from '../lib/paths.mjs';
import { anyPort } from '../lib/ports.mjs';
import { must } from '../lib/run.mjs';
import { endChild, spawnApp, usualProcesses, waitForApp } from '../lib/server.mjs';

const quantile = (list, q) => list.toSorted((a, b) => a - b)[Math.min(list.length - 1, Math.ceil(q * list.length) - 1)];

async function timed(url, init) {
  const from = performance.now();
  const response = await fetch(url, init);
  const body = await response.arrayBuffer();
  return { ms: performance.now() - from, ok: response.ok, status: response.status, body };
}

/** One person's reading between two clicks in a crowd, and typing between two saves. */
const READING_ms = 1000;
const TYPING_ms = 1500;
/** A crowd that is not measured comes first, s. */
const WARM_s = 15;

/** So many people reading and saving at once: what failed, and what was acknowledged and is not there afterwards. */
async function crowd(base, ids, { readers, writers, seconds, typing_ms = TYPING_ms }) {
  const until = Date.now() + seconds * 1000;
  const wrong = [];
  let reads = 0;
  let writes = 0;
  const times = [];
  const saves = [];
  const wait = (ms) => new Promise((done) => setTimeout(done, ms));
  const reader = async (k) => {
    await wait((k * READING_ms) / readers);
    for (let i = k; Date.now() < until; i += 1) {
      const id = ids[(i * 37 + k) % ids.length];
      const path = ['/', `/jobs/${id}/air`, `/jobs/${id}/test`, '/shelf', `/api/search?q=kestrel`][i % 5];
      const answer = await timed(`${base}${path}`).catch((e) => ({ ok: false, status: e.message, ms: 0 }));
      if (!answer.ok) wrong.push(`${path}: ${answer.status}`);
      times.push(answer.ms);
      reads += 1;
      await wait(READING_ms);
    }
  };
  const writer = async (k) => {
    const id = ids[k];
    const page = await (await fetch(`${base}/api/v1/jobs/${id}`)).json();
    let { version, doc } = page;
    let last = null;
    for (let i = 0; Date.now() < until; i += 1) {
      const next = { ...doc, car: { ...doc.car, goal: `said ${i} by ${k}` } };
      const from = performance.now();
      const answer = await fetch(`${base}/api/jobs/${id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json', origin: base },
        body: JSON.stringify({ version, doc: next }),
      }).catch((e) => ({ ok: false, status: e.message }));
      saves.push(performance.now() - from);
      if (answer.ok) {
        ({ version } = await answer.json());
        last = next.car.goal;
        doc = next;
        writes += 1;
      } else wrong.push(`save ${i} of ${k}: ${answer.status}`);
      await wait(typing_ms);
    }
    return async () => {
      const now = await (await fetch(`${base}/api/v1/jobs/${id}`)).json();
      if (now.doc.car.goal !== last) wrong.push(`writer ${k}: "${last}" was acknowledged, "${now.doc.car.goal}" is there`);
    };
  };
  const [, checks] = await Promise.all([
    Promise.all(Array.from({ length: readers }, (_, k) => reader(k))),
    Promise.all(Array.from({ length: writers }, (_, k) => writer(k))),
  ]);
  for (const check of checks) await check();
  return { wrong, reads, writes, times, saves };
}

/** Every job of the shop, page after page of its list. */
async function allJobs(base) {
  const jobs = [];
  let after = '';
  do {
    const { items, next } = await (await fetch(`${base}/api/v1/jobs${after && `?after=${encodeURIComponent(after)}`}`)).json();
    jobs.push(...items);
    after = next;
  } while (after);
  return jobs;
}

/** Processor time of the server's processes and their threads so far, ms. Linux. */
function processorTime(pid) {
  const stats = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((name) => {
      try {
        // After the name, which may hold anything: state, parent …, time of its own, time of the system for it.
        return [[Number(name), ...readFileSync(`/proc/${name}/stat`, 'utf8').split(') ').at(-1).split(' ')]];
      } catch {
        return []; // It has ended meanwhile.
      }
    });
  const own = stats.filter(([id, , parent]) => id === pid || Number(parent) === pid);
  return own.reduce((sum, fields) => sum + (Number(fields[12]) + Number(fields[13])) * 10, 0);
}

/** A shop with 500 jobs and 5,000 runs, and how it holds. */
export async function measureShop(say, line) {
  const cluster = new Cluster('bench-shop');
  let server = null;
  let over = () => {};
  try {
    await cluster.startForNow();
    // A shop that has worked with this release: what it looked at is worked out.
    const env = { ...process.env, DATABASE_URL: cluster.url(), VANNER_RELEASE: builtRelease() };
    await must(process.execPath, ['--import', 'tsx', 'scripts/db/prepare.ts', '--reset'], { cwd: ROOT, env });
    await must(process.execPath, ['--import', 'tsx', 'scripts/bench/fill.ts'], { cwd: ROOT, env });
    const port = await anyPort();
    process.env.VANNER_WEB ??= usualProcesses();
    server = spawnApp(port, cluster.url());
    over = whenInterrupted(() => server.kill());
    await waitForApp(port, server);
    const base = `http://127.0.0.1:${port}`;
    const jobs = await allJobs(base);
    const ids = jobs.map((j) => j.id);
    const demo = jobs.find((j) => j.name === 'Larkspur estate').id;
    const views = {
      board: () => '/',
      car: (i) => `/jobs/${ids[(i * 17) % ids.length]}/car`,
      air: (i) => `/jobs/${ids[(i * 19) % ids.length]}/air`,
      pick: (i) => `/jobs/${ids[(i * 23) % ids.length]}/pick`,
      fit: (i) => `/jobs/${ids[(i * 27) % ids.length]}/fit`,
      install: (i) => `/jobs/${ids[(i * 25) % ids.length]}/install`,
      test: (i) => `/jobs/${ids[(i * 29) % ids.length]}/test`,
      verdict: (i) => `/jobs/${ids[(i * 31) % ids.length]}/verdict`,
      shelf: () => '/shelf',
      bench: () => '/bench',
      trash: () => '/trash',
      settings: () => '/settings',
    };
    let slowest = { name: '', p95: 0 };
    for (const [name, path] of Object.entries(views)) {
      const times = [];
      for (let i = 0; i < 220; i += 1) {
        const answer = await timed(`${base}${path(i)}`);
        if (!answer.ok) throw new Error(`${path(i)} answered ${answer.status}`);
        // The first ones warm the server up.
        if (i >= 20) times.push(answer.ms);
      }
      const p95 = quantile(times, 0.95);
      console.log(`# ${name}: p95 ${p95.toFixed(1)} ms over ${times.length} requests`);
      if (p95 > slowest.p95) slowest = { name, p95 };
    }
    say(`slowest main view (${slowest.name}), server time p95, 500 jobs and 5,000 runs`, slowest.p95, 'ms', 100);
    const words = ['kestrel', 'towing', 'hill climbs', 'stock 58', 'flat top', 'fenwick', 'osprey van 4', 'nothing at all'];
    const searches = [];
    for (let i = 0; i < 200; i += 1) {
      const answer = await timed(`${base}/api/search?q=${encodeURIComponent(words[i % words.length])}`);
      if (i >= 20) searches.push(answer.ms);
    }
    say('search, p95', quantile(searches, 0.95), 'ms', 100);
    const pdfs = [];
    for (let i = 0; i < 6; i += 1) {
      const answer = await timed(`${base}/api/jobs/${demo}/pdf`);
      if (!answer.ok || Buffer.from(answer.body).subarray(0, 5).toString() !== '%PDF-')
        throw new Error(`the PDF answered ${answer.status}`);
      pdfs.push(answer.ms);
    }
    say('customer PDF, the slowest of six', Math.max(...pdfs), 'ms', 2000);
    const seconds = Number(process.env.VANNER_BENCH_SECONDS ?? 60);
    // Each web process has to have drawn its pages a few hundred times: one that has just begun takes twice as long.
    await crowd(base, ids, { readers: 34, writers: 6, seconds: WARM_s, typing_ms: READING_ms });
    const forty = await crowd(base, ids, { readers: 34, writers: 6, seconds: seconds / 2, typing_ms: READING_ms });
    say('40 mixed users, 1 s between: p95 of reads and saves', quantile([...forty.times, ...forty.saves], 0.95), 'ms', 1000);
    const before_ms = processorTime(server.pid);
    const held = await crowd(base, ids, { readers: 50, writers: 10, seconds });
    const each_ms = (processorTime(server.pid) - before_ms) / (held.reads + held.writes);
    console.log(
      `# crowd: ${held.reads} reads, ${held.writes} saves; the web processes take ${each_ms.toFixed(1)} ms of processor time for one`,
    );
    say('50 reading and 10 saving: reads, p95', quantile(held.times, 0.95), 'ms', 1000);
    say('50 reading and 10 saving: slowest read', Math.max(...held.times), 'ms', 1000);
    const wrong = [...forty.wrong, ...held.wrong];
    for (const w of wrong.slice(0, 10)) console.log(`# ${w}`);
    line({ name: 'both crowds: errors and lost writes', value: wrong.length, unit: 'count', limit: 0, ok: wrong.length === 0 });
  } finally {
    over();
    if (server) await endChild(server);
    await cluster.stop();
  }
}
