/** `npm run dev`: the same set-up as npm start, then the development server on a database of its own. */
import { spawn } from 'node:child_process';
import { Cluster } from './lib/cluster.mjs';
import { ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { portFrom } from './lib/ports.mjs';
import { must } from './lib/run.mjs';
import { fail, step } from './lib/step.mjs';

async function main() {
  await step('npm packages', ensureNpm);
  let url = process.env.DATABASE_URL;
  if (!url) {
    await step('PostgreSQL', ensurePostgres);
    const cluster = new Cluster();
    await step('database', () => cluster.start());
    url = cluster.url('vanner_dev');
  }
  const env = { ...process.env, DATABASE_URL: url, NEXT_TELEMETRY_DISABLED: '1' };
  await step('tables and demo data', () =>
    must(process.execPath, ['--import', 'tsx', 'scripts/db/prepare.ts'], { cwd: ROOT, env }).then((s) => s.trim().split('\n').at(-1)),
  );
  const port = await portFrom(4320);
  const workers = spawn(process.execPath, ['scripts/build-workers.mjs', '--watch'], { cwd: ROOT, stdio: 'inherit' });
  const next = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'dev', '-H', '127.0.0.1', '-p', String(port)], {
    cwd: ROOT,
    stdio: 'inherit',
    env,
  });
  next.on('exit', (code) => {
    workers.kill();
    process.exit(code ?? 0);
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => next.kill('SIGTERM'));
}

main().catch(fail);
