/** `npm run bench [-- PART …]`: one JSON line a measure, {"name","value","unit","limit","ok"}. The limits are the project's own figures. */
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ensureBuilt } from './lib/build.mjs';
import { withDemoBrowser } from './lib/demo-app.mjs';
import { ensureChromium, ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { must, run } from './lib/run.mjs';
import { fail } from './lib/step.mjs';
import { measureLogs } from './bench/logs.mjs';
import { framesPerSecond, measurePages } from './bench/page.mjs';
import { measureShop } from './bench/shop.mjs';

let allOk = true;
const line = (measure) => {
  allOk &&= measure.ok;
  console.log(JSON.stringify(measure));
};
const say = (name, value, unit, limit) => line({ name, value: Number(value.toFixed(3)), unit, limit, ok: value <= limit });

const atLeast = (name, value, limit) => line({ name, value: Number(value.toFixed(1)), unit: 'per s', limit, ok: value >= limit });

/** A measure that cannot run here says why, and is not ok. */
async function attempt(name, unit, limit, work) {
  try {
    await work();
  } catch (error) {
    line({ name, value: null, unit, limit, ok: false, why: String(error.message ?? error).split('\n')[0] });
  }
}

async function bundled(name) {
  const outfile = join(ROOT, `dist/bench/${name}.mjs`);
  const entryPoints = [join(ROOT, `scripts/bench/${name}.ts`)];
  await build({ entryPoints, outfile, bundle: true, platform: 'node', format: 'esm', target: 'node20', logLevel: 'warning' });
  return outfile;
}

/** The sums are measured as they ship: bundled. Run from their sources, a loader's wrappers would be measured with them. */
async function core() {
  const output = await must(process.execPath, [await bundled('solve')], { cwd: ROOT });
  for (const text of output.trim().split('\n')) if (text.startsWith('{')) line(JSON.parse(text));
}

/** The unsteady inlet, one thread's time shared by the workers there are at least. */
async function waves() {
  const output = await must(process.execPath, [await bundled('waves')], { cwd: ROOT });
  for (const text of output.trim().split('\n')) if (text.startsWith('{')) line(JSON.parse(text));
  await attempt('waves: numpy, the same scheme', 'times as long', 10, wavesYardstick);
}

/** The gas in five ducts by the same scheme in vectorised numpy, timed in the same run. */
async function wavesYardstick() {
  const name = 'waves: numpy, the same scheme, 5 ducts of 20 cells, 12,000 steps';
  const python = await scientificPython();
  if (!python) return line({ name, value: null, unit: 'times as long', limit: 10, ok: true, why: 'python3-scipy is not here' });
  const folder = mkdtempSync(join(tmpdir(), 'vanner-bench-'));
  try {
    const file = join(folder, 'case.json');
    const ours = JSON.parse(await must(process.execPath, [await bundled('same-waves'), file], { cwd: ROOT }));
    const theirs = JSON.parse(await must(python, ['scripts/bench/same_waves.py', file], { cwd: ROOT }));
    console.log(`# ${ours.ms.toFixed(0)} ms here, ${theirs.ms.toFixed(0)} ms in numpy`);
    const times = theirs.ms / ours.ms;
    line({ name, value: Number(times.toFixed(1)), unit: 'times as long', limit: 10, ok: times >= 10 });
    say('waves: numpy, largest difference of a pressure', theirs.off, 'relative', 1e-9);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A python3 with numpy and scipy, wherever it is; null where there is none. */
async function scientificPython() {
  for (const python of ['/usr/bin/python3', 'python3']) {
    const { code } = await run(python, ['-c', 'import numpy, scipy.optimize'], { stdio: 'ignore' }).catch(() => ({ code: 1 }));
    if (code === 0) return python;
  }
  return null;
}

/** The same sums in plain vectorised numpy and scipy, timed in the same run: how many times as long they take, and how far apart the figures are. */
async function yardstick() {
  const python = await scientificPython();
  if (!python) {
    line({
      name: 'numpy and scipy, the same sums',
      value: null,
      unit: 'times as long',
      limit: null,
      ok: true,
      why: 'python3-scipy is not here',
    });
    return;
  }
  const folder = mkdtempSync(join(tmpdir(), 'vanner-bench-'));
  try {
    const file = join(folder, 'case.json');
    const ours = JSON.parse(await must(process.execPath, [await bundled('same-sums'), file], { cwd: ROOT }));
    const theirs = JSON.parse(await must(python, ['scripts/bench/same_sums.py', file], { cwd: ROOT }));
    const sums = { units: '12 units x 60 rpm', knee: '60 bores x 60 rpm', ranges: '2000 draws x 60 rpm x 4 units' };
    for (const [key, name] of Object.entries(sums)) {
      const [a, b] = [ours[`${key}_ms`], theirs[`${key}_ms`]];
      console.log(`# ${name}: ${a.toFixed(1)} ms here, ${b.toFixed(1)} ms in numpy and scipy`);
      line({ name: `numpy and scipy, ${name}`, value: Number((b / a).toFixed(2)), unit: 'times as long', limit: null, ok: true });
    }
    say('numpy and scipy, largest difference of a peak power', Math.max(theirs.units_off, theirs.knee_off), 'relative', 1e-9);
    say('numpy and scipy, largest difference of a range', theirs.ranges_off_points, 'points of a percent', 0.05);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const pages = () => withDemoBrowser('bench-database', (browser, url) => measurePages(browser, url, say, atLeast));

/** A long log: read against the parser library, each in a process of its own; then in the built app. A comparison beside it. */
async function proof() {
  const folder = mkdtempSync(join(tmpdir(), 'vanner-bench-log-'));
  const file = join(folder, 'long log.csv');
  try {
    const script = await bundled('proof');
    const once = async (...args) => JSON.parse(await must(process.execPath, [script, ...args], { cwd: ROOT }));
    say('Comparison of 12 and 12 runs with its band', (await once('compare')).ms, 'ms', 300);
    for (const days of ['1', '3']) {
      const { ms, passes } = await once('strip', days);
      say(`Strip’s answer, ${passes} passes on ${days} ${days === '1' ? 'day' : 'days'}`, ms, 'ms', 150);
    }
    const workbook = join(folder, 'log.xlsx');
    await once('book', workbook);
    const sheet = await once('sheet', workbook);
    say(`Workbook (.xlsx) of ${sheet.MB.toFixed(1)} MB read`, sheet.ms / 1000, 's', 3);
    say('Curve of a photographed sheet of two megapixels traced', (await once('picture')).ms / 1000, 's', 1);
    await once('write', file);
    const parser = async () => (await once('parser', file)).ms;
    const alone_ms = await parser();
    const ours = await once('ours', file);
    say('Log, 1 M rows x 20: read, against the parser library alone', ours.ms / alone_ms, 'times as long', 2.5);
    say('Log, 1 M rows x 20: peak memory of the reading process', ours.peak_MB, 'MB', 300);
    await withDemoBrowser('bench-database', (browser, url) => measureLogs(browser, url, file, parser, say, atLeast, framesPerSecond));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Runs npm start's script until it answers, then stops it; seconds. */
function startOnce(data) {
  return new Promise((resolve, reject) => {
    const from = performance.now();
    const child = spawn(process.execPath, ['scripts/start.mjs'], {
      cwd: ROOT,
      env: { ...process.env, VANNER_DATA: data, CI: '1' },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let text = '';
    let took = null;
    child.stdout.on('data', (d) => {
      text += d;
      if (took !== null || !text.includes('Vanner answers on')) return;
      took = (performance.now() - from) / 1000;
      child.kill('SIGINT');
    });
    child.on('close', () => (took === null ? reject(new Error(`it did not start: ${text.slice(-300)}`)) : resolve(took)));
  });
}

async function secondStart() {
  const data = mkdtempSync(join(tmpdir(), 'vanner-bench-start-'));
  try {
    await startOnce(data);
    say('second start answers', await startOnce(data), 's', 10);
  } finally {
    rmSync(data, { recursive: true, force: true });
  }
}

/** What the app must be there for. */
const inApp = (work) => async () => {
  await ensurePostgres();
  await ensureChromium();
  await ensureBuilt();
  await work();
};

/** The parts; `npm run bench -- NAME …` runs those alone. */
const PARTS = {
  waves,
  solve: () => attempt('solve', 'ms', 40, core),
  numpy: () => attempt('numpy and scipy, the same sums', 'times as long', null, yardstick),
  pages: () => attempt('pages', 'ms', 34, inApp(pages)),
  log: () => attempt('long log', 'times as long', 1.5, inApp(proof)),
  shop: () =>
    attempt(
      '500 jobs and 5,000 runs',
      'ms',
      150,
      inApp(() => measureShop(say, line)),
    ),
  start: () => attempt('second start answers', 's', 10, secondStart),
};

async function main() {
  await ensureNpm();
  const asked = process.argv.slice(2);
  const unknown = asked.filter((name) => !(name in PARTS));
  if (unknown.length > 0)
    throw new Error(`No part of the bench is called ${unknown.join(', ')}. There are: ${Object.keys(PARTS).join(', ')}.`);
  for (const [name, part] of Object.entries(PARTS)) if (asked.length === 0 || asked.includes(name)) await part();
  process.exitCode = allOk ? 0 : 1;
}

main().catch(fail);
