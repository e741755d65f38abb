/**
 * `npm test`: sets up what the checks need, then runs them all. `npm test -- unit e2e` runs some, `npm test -- --fast` all but the walks
 * through the built app, and what stands after a second `--` goes to the one check that is named: `npm test -- database -- strip -t air`.
 */
import { parseArgs } from 'node:util';
import { makeApiClient } from './lib/api-client.mjs';
import { Cluster } from './lib/cluster.mjs';
import { ensureBuilt } from './lib/build.mjs';
import { ensureChromium, ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { run } from './lib/run.mjs';
import { several } from './lib/several.mjs';
import { fail, Plain, step } from './lib/step.mjs';

/** What each check runs. Those that keep one processor busy run two at a time and say something where they fail; the others aloud. */
const CHECKS = {
  types: ['node_modules/typescript/bin/tsc', '--noEmit', '-p', '.'],
  // Not kept from run to run: its rules look at types, which another file may have changed.
  lint: ['node_modules/eslint/bin/eslint.js', '--max-warnings', '0', '.'],
  format: [
    'node_modules/prettier/bin/prettier.cjs',
    ...['--check', '--log-level', 'warn', '--cache', '--cache-strategy', 'content', '--cache-location', '.local/prettier', '.'],
  ],
  boundaries: ['node_modules/dependency-cruiser/bin/dependency-cruise.mjs', 'src', '--config', '.dependency-cruiser.mjs'],
  dead: ['node_modules/knip/bin/knip.js'],
  verify: ['--import', 'tsx', 'scripts/verify.ts', '--require-all'],
  unit: ['node_modules/jest/bin/jest.js', '--selectProjects', 'unit', 'dom', '--maxWorkers', '2'],
  database: ['node_modules/jest/bin/jest.js', '--selectProjects', 'db', '--maxWorkers', '2'],
  e2e: ['node_modules/@playwright/test/cli.js', 'test'],
};
const ALOUD = ['unit', 'database', 'e2e'];
const NEEDS_DATABASE = ['database', 'e2e'];
const NEEDS_BUILD = ['e2e'];

const HELP = `npm test                          all checks
npm test -- NAME …                some of them: ${Object.keys(CHECKS).join(', ')}
npm test -- --fast                all that need no built app
npm test -- NAME -- ARGUMENT …    one, with arguments of its own: npm test -- database -- strip -t "air of the day"
npm test -- … --list              only says which ones would run`;

/** Which checks are asked for, and what is handed to the one that is. */
function asked(argv) {
  const cut = argv.indexOf('--');
  const [own, handed] = cut < 0 ? [argv, []] : [argv.slice(0, cut), argv.slice(cut + 1)];
  let parsed;
  try {
    parsed = parseArgs({
      args: own,
      allowPositionals: true,
      options: { fast: { type: 'boolean' }, list: { type: 'boolean' }, help: { type: 'boolean', short: 'h' } },
    });
  } catch (error) {
    throw new Plain(`${error.message}\n\n${HELP}`);
  }
  const { values, positionals } = parsed;
  const unknown = positionals.filter((p) => !(p in CHECKS));
  if (unknown.length > 0) throw new Plain(`There is no check ${unknown.join(', ')}.\n\n${HELP}`);
  const names = Object.keys(CHECKS).filter(
    (n) => (positionals.length === 0 || positionals.includes(n)) && !(values.fast && NEEDS_BUILD.includes(n)),
  );
  if (names.length === 0) throw new Plain(`With --fast nothing is left of ${positionals.join(', ')}.\n\n${HELP}`);
  if (handed.length > 0 && names.length !== 1) throw new Plain(`Arguments after -- go to one check: name it.\n\n${HELP}`);
  return { names, handed, list: values.list, help: values.help };
}

async function runAll(names, handed, env) {
  const alone = names.length === 1;
  const quiet = alone ? [] : names.filter((n) => !ALOUD.includes(n));
  const failed = await several(
    quiet.map((n) => [n, CHECKS[n]]),
    { env },
  );
  for (const name of names.filter((n) => !quiet.includes(n))) {
    console.log(`\n── ${name} ──`);
    const { code } = await run(process.execPath, [...CHECKS[name], ...handed], { cwd: ROOT, env });
    if (code !== 0) failed.push(name);
  }
  return failed;
}

async function main() {
  const { names, handed, list, help } = asked(process.argv.slice(2));
  if (help) return console.log(HELP);
  if (list) return console.log(names.join('\n'));
  await step('npm packages', ensureNpm);
  await step('client of the API', makeApiClient);
  const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1' };
  let cluster = null;
  let failed;
  try {
    if (names.some((n) => NEEDS_DATABASE.includes(n))) {
      await step('PostgreSQL', ensurePostgres);
      cluster = new Cluster('test-database');
      await step('database for the tests', () => cluster.startForNow());
      env.TEST_DATABASE_URL = cluster.url('postgres');
    }
    if (names.some((n) => NEEDS_BUILD.includes(n))) {
      await step('Chromium', ensureChromium);
      await step('build', ensureBuilt);
    }
    failed = await runAll(names, handed, env);
  } finally {
    await cluster?.stop();
  }
  console.log(`\n${names.map((n) => `${n} ${failed.includes(n) ? 'FAILED' : 'ok'}`).join(', ')}`);
  console.log(`${names.length - failed.length} passed, ${failed.length} failed`);
  process.exitCode = failed.length > 0 ? 1 : 0;
}

main().catch(fail);
