/**
 * `npm run mutants [-- SPANS [SEED]]`: changes the core in many small places and looks which of them no test notices. SPANS places of a
 * few lines are drawn over the whole core by SEED (30, 1); named files (`npm run mutants -- src/core/…`) are taken whole. Prints
 * those that survived and the share that was noticed; not part of `npm test`, for it takes minutes. By Stryker.
 */
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './lib/paths.mjs';

const SPAN_LINES = 4;
/** Share of the mutants that tests are to notice. */
const WANTED = 0.85;

const args = process.argv.slice(2);
const files = args.filter((a) => a.startsWith('src/'));
const [spans = 30, seed = 1] = args.filter((a) => /^\d+$/.test(a)).map(Number);

/** Draws evenly over the core's lines: a long file is hit as often as its length deserves. */
function drawn() {
  const all = readdirSync(join(ROOT, 'src/core'), { recursive: true })
    .map((f) => `src/core/${String(f)}`)
    // Schemas, words of workings and made-up machines are held by tests of what uses them.
    .filter((f) => /\.ts$/.test(f) && !/\.test\.ts$|\/(documents|working|sums|stand-ins)\//.test(f))
    .sort()
    .map((f) => ({ f, lines: readFileSync(join(ROOT, f), 'utf8').split('\n').length }));
  const total = all.reduce((s, { lines }) => s + lines, 0);
  let state = seed >>> 0 || 1;
  const random = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
  return Array.from({ length: spans }, () => {
    let at = Math.floor(random() * total);
    const { f, lines } = all.find((x) => (at -= x.lines) < 0);
    const from = Math.min(lines, Math.max(1, lines + at));
    return `${f}:${from}-${Math.min(lines, from + SPAN_LINES)}`;
  });
}

mkdirSync(join(ROOT, 'test-results'), { recursive: true });
const mutate = (files.length > 0 ? files : drawn()).join(',');
const { status } = spawnSync(process.execPath, ['node_modules/@stryker-mutator/core/bin/stryker.js', 'run', '--mutate', mutate], {
  cwd: ROOT,
  stdio: 'inherit',
});
if (status !== 0) process.exit(status ?? 1);
const report = JSON.parse(readFileSync(join(ROOT, 'test-results/mutants.json'), 'utf8'));
const counts = {};
for (const { mutants } of Object.values(report.files)) for (const m of mutants) counts[m.status] = (counts[m.status] ?? 0) + 1;
const noticed = (counts.Killed ?? 0) + (counts.Timeout ?? 0);
const counted = noticed + (counts.Survived ?? 0) + (counts.NoCoverage ?? 0);
const share = counted === 0 ? 1 : noticed / counted;
console.log(`${noticed} of ${counted} noticed, ${(100 * share).toFixed(0)} % (wanted: ${100 * WANTED} %)`);
process.exitCode = share < WANTED ? 1 : 0;
