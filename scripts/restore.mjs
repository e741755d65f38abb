/** `npm run restore -- FILE`: puts a backup in the place of what is in the database. Asks first, unless given --yes. Keys of the API and customers' links of then stay shut without --keys-and-links. */
import { resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { restoreFrom } from './lib/dump.mjs';
import { withDatabase } from './lib/own-database.mjs';
import { ROOT } from './lib/paths.mjs';
import { must } from './lib/run.mjs';
import { fail, Plain, step } from './lib/step.mjs';

/** Whether to go on, and whether keys and links of then are to work again: some may have been ended since. */
async function sure() {
  const doors = process.argv.includes('--keys-and-links');
  if (process.argv.includes('--yes')) return { doors };
  if (!process.stdin.isTTY) throw new Plain('What is in the database now will be gone. Say so with: npm run restore -- FILE --yes');
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  try {
    const answer = await ask.question('What is in the database now will be gone. Type "restore" to go on: ');
    if (answer.trim() !== 'restore') return null;
    if (doors) return { doors };
    const again = await ask.question('Shall keys of the API and customers’ links of then work again, those ended since among them? [y/N] ');
    return { doors: /^y(es)?$/i.test(again.trim()) };
  } finally {
    ask.close();
  }
}

async function main() {
  const [named] = process.argv.slice(2).filter((a) => !a.startsWith('--'));
  if (!named) throw new Plain('Which backup? npm run restore -- FILE');
  const answer = await sure();
  if (!answer) return console.log('Nothing was changed.');
  const file = resolve(process.env.INIT_CWD ?? '.', named);
  await withDatabase(async (url) => {
    await step('restore', async () => {
      await restoreFrom(url, file, answer);
      return answer.doors
        ? 'everything is back, keys and links too'
        : 'everything is back but keys of the API and customers’ links: make them anew, or add --keys-and-links';
    });
    console.log('The passphrase is the one of then, if there was one. Everybody signs in anew.');
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
