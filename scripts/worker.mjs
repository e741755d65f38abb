/**
 * `npm run worker`: one more worker on the queue, of the database of DATABASE_URL or of the Vanner that runs here. Any number of
 * them, on any machine that reaches the database; VANNER_WORKER_TASKS at a time each.
 */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { ensureNpm } from './lib/packages.mjs';
import { withDatabase } from './lib/own-database.mjs';
import { ROOT } from './lib/paths.mjs';
import { must } from './lib/run.mjs';
import { fail, step } from './lib/step.mjs';

async function main() {
  await step('npm packages', ensureNpm);
  await step('worker', () => must(process.execPath, ['scripts/build-workers.mjs'], { cwd: ROOT }).then(() => 'built'));
  await withDatabase(
    (url) =>
      new Promise((done) => {
        const child = spawn(process.execPath, [join(ROOT, 'dist/workers/queue.mjs')], {
          cwd: ROOT,
          stdio: ['ignore', 'inherit', 'inherit'],
          env: { ...process.env, DATABASE_URL: url },
        });
        for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal));
        child.on('exit', (code) => {
          process.exitCode = code ?? 1;
          done();
        });
      }),
  );
}

main().catch(fail);
