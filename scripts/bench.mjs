/** `npm run bench`: one JSON line a measure, {"name","value","unit","limit","ok"}. The limits are the project's own figures. */
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuilt } from './lib/build.mjs';
import { withDemoBrowser } from './lib/demo-app.mjs';
import { ensureChromium, ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { must } from './lib/run.mjs';
import { fail } from './lib/step.mjs';
import { measurePages } from './bench/page.mjs';

let allOk = true;
const line = (measure) => {
  allOk &&= measure.ok;
  console.log(JSON.stringify(measure));
};
const say = (name, value, unit, limit) => line({ name, value: Number(value.toFixed(3)), unit, limit, ok: value <= limit });

/** A measure that cannot run here says why, and is not ok. */
async function attempt(name, unit, limit, work) {
  try {
    await work();
  } catch (error) {
    line({ name, value: null, unit, limit, ok: false, why: String(error.message ?? error).split('\n')[0] });
  }
}

async function core() {
  const output = await must(process.execPath, ['--import', 'tsx', 'scripts/bench/solve.ts'], { cwd: ROOT });
  for (const text of output.trim().split('\n')) if (text.startsWith('{')) line(JSON.parse(text));
}

const pages = () => withDemoBrowser('bench-database', (browser, url) => measurePages(browser, url, say));

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

async function main() {
  await ensureNpm();
  await attempt('solve', 'ms', 8, core);
  await attempt('pages', 'ms', 34, async () => {
    await ensurePostgres();
    await ensureChromium();
    await ensureBuilt();
    await pages();
  });
  await attempt('second start answers', 's', 10, secondStart);
  process.exitCode = allOk ? 0 : 1;
}

main().catch(fail);
