/** `npm run passphrase`: sets the words this Vanner asks for. Asked for here, or read from what is piped in. */
import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline/promises';
import { Writable } from 'node:stream';
import { withDatabase } from './lib/own-database.mjs';
import { ROOT } from './lib/paths.mjs';
import { fail, Plain } from './lib/step.mjs';

async function asked() {
  if (!process.stdin.isTTY) {
    let text = '';
    for await (const piece of process.stdin) text += piece;
    return text.replace(/\r?\n$/, '');
  }
  // What is typed is not shown.
  const silent = new Writable({ write: (_piece, _encoding, done) => done() });
  const ask = createInterface({ input: process.stdin, output: silent, terminal: true });
  const hidden = async (question) => {
    process.stdout.write(question);
    const answer = await ask.question('');
    process.stdout.write('\n');
    return answer;
  };
  const first = await hidden('The new passphrase (three or four words): ');
  const again = await hidden('Once more: ');
  ask.close();
  if (first !== again) throw new Plain('The two are not the same. Nothing was changed.');
  return first;
}

async function main() {
  const words = await asked();
  await withDatabase(
    (url) =>
      new Promise((done, refuse) => {
        const child = spawn(process.execPath, ['--import', 'tsx', 'scripts/db/passphrase.ts'], {
          cwd: ROOT,
          stdio: ['pipe', 'ignore', 'pipe'],
          env: { ...process.env, DATABASE_URL: url },
        });
        let said = '';
        child.stderr.on('data', (d) => (said += d));
        child.on('error', refuse);
        child.on('close', (code) => (code === 0 ? done() : refuse(new Plain(said.trim().split('\n').at(-1)))));
        child.stdin.end(words);
      }),
  );
  console.log('The passphrase is set. Every browser has to give it now.');
}

main().catch(fail);
