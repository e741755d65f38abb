/**
 * `npm run check [-- --watch]`: types, boundaries, dead code, and lint, format and the tests of what is changed against the last commit.
 * For the seconds between two thoughts: lint goes without the rules that look at types, and of the tests those run that name what is
 * changed. `npm test` is the whole.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, watch } from 'node:fs';
import { join } from 'node:path';
import { ensureApiClient } from './lib/api-client.mjs';
import { ensureNpm } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { several } from './lib/several.mjs';
import { fail } from './lib/step.mjs';
import { testsOf } from './lib/tests-of.mjs';

const JEST = ['node_modules/jest/bin/jest.js', '--selectProjects', 'unit', 'dom', '--silent', '--passWithNoTests'];
const LINT = [
  'node_modules/eslint/bin/eslint.js',
  ...['--cache', '--cache-strategy', 'content', '--cache-location', '.local/eslint', '--max-warnings', '0', '--no-warn-ignored'],
];
const FORMAT = ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '--ignore-unknown'];
const BOUNDARIES = [
  'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
  ...['src', '--config', '.dependency-cruiser.mjs', '--cache', '.local/cruiser'],
];

const git = (...args) => execFileSync('git', args, { cwd: ROOT, encoding: 'utf8' }).split('\n').filter(Boolean);
/** Files that differ from the last commit or are not in it yet, and still stand. */
const changed = () =>
  [...new Set([...git('diff', '--name-only', 'HEAD'), ...git('ls-files', '--others', '--exclude-standard')])].filter((f) =>
    existsSync(join(ROOT, f)),
  );

async function once() {
  const from = performance.now();
  await ensureApiClient();
  const files = changed();
  const code = files.filter((f) => /\.(ts|tsx|mjs|cjs)$/.test(f));
  const formatted = files.filter((f) => /\.(ts|tsx|mjs|cjs|css|json|md)$/.test(f));
  const tests = testsOf(files);
  const checks = [
    ['types', ['node_modules/typescript/bin/tsc', '--noEmit', '-p', '.']],
    ...(tests.length > 0 ? [['tests that name what changed', [...JEST, '--runTestsByPath', ...tests]]] : []),
    ...(code.length > 0 ? [['lint without types', [...LINT, ...code]]] : []),
    ...(formatted.length > 0 ? [['format', [...FORMAT, ...formatted]]] : []),
    ['boundaries', BOUNDARIES],
    ['dead', ['node_modules/knip/bin/knip.js', '--cache', '--cache-location', '.local/knip']],
  ];
  console.log(files.length === 0 ? 'Nothing is changed against the last commit.' : `${files.length} files changed.`);
  const good = (await several(checks, { env: { ...process.env, VANNER_LINT: 'quick' } })).length === 0;
  console.log(`${good ? 'All well' : 'Not yet'}, ${((performance.now() - from) / 1000).toFixed(0)} s.`);
  return good;
}

async function main() {
  await ensureNpm();
  const good = await once();
  if (!process.argv.includes('--watch')) {
    process.exitCode = good ? 0 : 1;
    return;
  }
  console.log('Watching src, scripts and test; Ctrl-C stops it.');
  let timer = null;
  let busy = false;
  let again = false;
  const soon = () => {
    clearTimeout(timer);
    timer = setTimeout(async () => {
      if (busy) return void (again = true);
      busy = true;
      do {
        again = false;
        console.log('');
        await once();
      } while (again);
      busy = false;
    }, 300);
  };
  for (const folder of ['src', 'scripts', 'test']) watch(join(ROOT, folder), { recursive: true }, soon);
}

main().catch(fail);
