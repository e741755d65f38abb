import { randomBytes } from 'node:crypto';
import { chmodSync, closeSync, existsSync, mkdtempSync, openSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { postgresBin } from './packages.mjs';
import { must } from './run.mjs';
import { Plain } from './step.mjs';

/** The server's address as the client programs take it; the password goes by the environment, where no list of processes shows it. */
function toServer(url) {
  const u = new URL(url);
  return {
    args: ['-h', u.hostname, '-p', u.port || '5432', '-U', decodeURIComponent(u.username)],
    database: u.pathname.slice(1),
    env: { ...process.env, PGPASSWORD: decodeURIComponent(u.password), PGCONNECT_TIMEOUT: '10' },
  };
}

const program = (name) => join(postgresBin(), name);

/** Writes everything into one file, consistent as of one moment while people go on working. Unfinished, it has another name. */
export async function backupTo(url, file) {
  if (existsSync(file)) throw new Plain(`${file} is there already. Name another file.`);
  const { args, database, env } = toServer(url);
  const unfinished = `${file}.unfinished`;
  // Everything of the shop is in it, keys and links among it: for its owner's eyes, from the first byte on.
  closeSync(openSync(unfinished, 'w', 0o600));
  try {
    await must(program('pg_dump'), [...args, '--format=custom', '--no-owner', '--no-privileges', '--file', unfinished, database], { env });
    // A file that its own reader can list whole is one that can be restored.
    const list = await must(program('pg_restore'), ['--list', unfinished], { env });
    if (!/TABLE DATA public job /.test(list)) throw new Plain('The backup holds no jobs table: this is not a database of Vanner.');
    chmodSync(unfinished, 0o600);
    renameSync(unfinished, file);
  } catch (error) {
    rmSync(unfinished, { force: true });
    throw error;
  }
  return statSync(file).size;
}

/** Tables whose rows let somebody in from outside, and the answers kept for them. */
const DOORS = ['api_key', 'api_answer', 'share_link'];

/**
 * Puts a backup in the place of everything that is there: all of it in one transaction, or nothing. The file is read to its
 * end before anything is touched. Keys of the API and customers' links of then stay out unless `doors`: some of them may have
 * been ended since. Nobody stays signed in: a session that was ended since would live again.
 */
export async function restoreFrom(url, file, { doors = false } = {}) {
  if (!existsSync(file)) throw new Plain(`${file} is not there.`);
  const { args, database, env } = toServer(url);
  const list = await must(program('pg_restore'), ['--list', file], { env }).catch(() => {
    throw new Plain(`${file} is no backup of Vanner, or it is broken. Nothing was changed.`);
  });
  if (!/TABLE DATA public job /.test(list))
    throw new Plain(`${file} is no backup of Vanner: there are no jobs in it. Nothing was changed.`);
  await must(program('pg_restore'), ['--file', '/dev/null', file], { env }).catch(() => {
    throw new Plain(`${file} is damaged: it cannot be read to its end. Nothing was changed. Copy it anew, or take another backup.`);
  });
  const folder = mkdtempSync(join(tmpdir(), 'vanner-restore-'));
  try {
    const wanted = join(folder, 'list');
    const shut = doors ? null : new RegExp(` TABLE DATA public (${DOORS.join('|')}) `);
    writeFileSync(
      wanted,
      list
        .split('\n')
        .filter((line) => !shut?.test(line))
        .join('\n'),
      { mode: 0o600 },
    );
    await must(
      program('pg_restore'),
      [
        ...['--use-list', wanted, '--dbname', database, '--clean', '--if-exists', '--no-owner', '--no-privileges', '--single-transaction'],
        ...args,
        file,
      ],
      { env },
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  // Piped in: the key that signs sessions is not shown in the list of processes.
  const key = randomBytes(32).toString('base64');
  const end = `UPDATE meta SET value = jsonb_set(value::jsonb, '{key}', to_jsonb('${key}'::text)) WHERE key = 'passphrase';
    DELETE FROM meta WHERE key LIKE 'pairing:%';`;
  await must(program('psql'), [...args, '--dbname', database, '-v', 'ON_ERROR_STOP=1', '--single-transaction', '--quiet', '--file', '-'], {
    env,
    input: end,
  });
}
