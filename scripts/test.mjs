/** `npm test`: sets up what the checks need, then runs them all. `npm test -- unit e2e` runs some; `--fast` none of the built app. */
import { Cluster } from './lib/cluster.mjs';
import { ensureBuilt } from './lib/build.mjs';
import { ensureChromium, ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { must, run } from './lib/run.mjs';
import { fail, Plain, step } from './lib/step.mjs';

const bin = (path, ...args) => [process.execPath, [`node_modules/${path}`, ...args]];

/** The checks in the order in which the quick ones come first. */
const CHECKS = {
  types: () => bin('typescript/bin/tsc', '--noEmit', '-p', '.'),
  format: () => bin('prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'),
  lint: () => bin('eslint/bin/eslint.js', '--max-warnings', '0', '.'),
  boundaries: () => bin('dependency-cruiser/bin/dependency-cruise.mjs', 'src', '--config', '.dependency-cruiser.mjs'),
  dead: () => bin('knip/bin/knip.js'),
  unit: () => bin('jest/bin/jest.js', '--selectProjects', 'unit', 'dom', '--maxWorkers', '2'),
  verify: () => [process.execPath, ['--import', 'tsx', 'scripts/verify.ts', '--require-all']],
  database: () => bin('jest/bin/jest.js', '--selectProjects', 'db', '--maxWorkers', '2'),
  e2e: () => bin('@playwright/test/cli.js', 'test'),
};
const NEEDS_DATABASE = ['database', 'e2e'];

async function main() {
  const wanted = process.argv.slice(2).filter((a) => !a.startsWith('--'));
  const unknown = wanted.filter((w) => !(w in CHECKS));
  if (unknown.length > 0) throw new Plain(`Unknown check ${unknown.join(', ')}. Known: ${Object.keys(CHECKS).join(', ')}.`);
  const names = Object.keys(CHECKS).filter((n) => wanted.length === 0 || wanted.includes(n));
  await step('npm packages', ensureNpm);
  await step('client of the API', () => must(process.execPath, ['--import', 'tsx', 'scripts/api-client.ts'], { cwd: ROOT }));
  let cluster = null;
  const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1' };
  const failed = [];
  try {
    if (names.some((n) => NEEDS_DATABASE.includes(n))) {
      await step('PostgreSQL', ensurePostgres);
      cluster = new Cluster('test-database');
      await step('database for the tests', () => cluster.start());
      env.TEST_DATABASE_URL = cluster.url('postgres');
    }
    if (names.includes('e2e')) {
      await step('Chromium', ensureChromium);
      await step('build', ensureBuilt);
    }
    for (const name of names) {
      const [command, args] = CHECKS[name]();
      console.log(`\n── ${name} ──`);
      const { code } = await run(command, args, { cwd: ROOT, env });
      if (code !== 0) failed.push(name);
    }
  } finally {
    await cluster?.stop();
  }
  console.log(`\n${names.map((n) => `${n} ${failed.includes(n) ? 'FAILED' : 'ok'}`).join(', ')}`);
  console.log(`${names.length - failed.length} passed, ${failed.length} failed`);
  process.exitCode = failed.length > 0 ? 1 : 0;
}

main().catch(fail);
