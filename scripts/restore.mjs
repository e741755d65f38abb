/** `npm run restore -- FILE`: puts a backup in the place of what is in the database. Asks first, unless given --yes. */
import { resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { restoreFrom } from './lib/dump.mjs';
import { withDatabase } from './lib/own-database.mjs';
import { ROOT } from './lib/paths.mjs';
import { must } from './lib/run.mjs';
import { fail, Plain, step } from './lib/step.mjs';

async function sure() {
  if (process.argv.includes('--yes')) return true;
  if (!process.stdin.isTTY) throw new Plain('What is in the database now will be gone. Say so with: npm run restore -- FILE --yes');
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question('What is in the database now will be gone. Type "restore" to go on: ');
  ask.close();
  return answer.trim() === 'restore';
}

async function main() {
  const [named] = process.argv.slice(2).filter((a) => !a.startsWith('--'));
  if (!named) throw new Plain('Which backup? npm run restore -- FILE');
  if (!(await sure())) return console.log('Nothing was changed.');
  const file = resolve(process.env.INIT_CWD ?? '.', named);
  await withDatabase(async (url) => {
    await step('restore', async () => {
      await restoreFrom(url, file);
      return 'everything is back';
    });
    // A backup of an older release is brought up to this one.
    await step('tables', () =>
      must(process.execPath, ['--import', 'tsx', 'scripts/db/prepare.ts', '--empty'], {
        cwd: ROOT,
        env: { ...process.env, DATABASE_URL: url },
      }).then((s) => s.trim().split('\n').at(-1)),
    );
  });
}

main().catch(fail);
