/** `npm run demo:reset`: throws the database's contents away and loads the demo scenario anew. Asks first, unless given --yes. */
import { createInterface } from 'node:readline/promises';
import { Cluster } from './lib/cluster.mjs';
import { ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { must } from './lib/run.mjs';
import { fail, Plain, step } from './lib/step.mjs';

async function sure() {
  if (process.argv.includes('--yes')) return true;
  if (!process.stdin.isTTY) throw new Plain('This throws away every job in the database. Say so with: npm run demo:reset -- --yes');
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question('Every job, run and file in this database will be gone. Type "reset" to go on: ');
  ask.close();
  return answer.trim() === 'reset';
}

async function main() {
  if (!(await sure())) return console.log('Nothing was changed.');
  await step('npm packages', ensureNpm);
  let url = process.env.DATABASE_URL;
  let cluster = null;
  let wasRunning = true;
  if (!url) {
    await step('PostgreSQL', ensurePostgres);
    cluster = new Cluster();
    await step('database', async () => {
      const note = await cluster.start();
      wasRunning = note.startsWith('already');
      return note;
    });
    url = cluster.url();
  }
  const env = { ...process.env, DATABASE_URL: url };
  await step('demo data', () =>
    must(process.execPath, ['--import', 'tsx', 'scripts/db/prepare.ts', '--reset'], { cwd: ROOT, env }).then((s) =>
      s.trim().split('\n').at(-1),
    ),
  );
  if (cluster && !wasRunning) await cluster.stop();
}

main().catch(fail);
