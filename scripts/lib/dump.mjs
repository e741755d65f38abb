import { chmodSync, closeSync, existsSync, openSync, renameSync, rmSync, statSync } from 'node:fs';
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

/** Puts a backup in the place of everything that is there: all of it in one transaction, or nothing. */
export async function restoreFrom(url, file) {
  if (!existsSync(file)) throw new Plain(`${file} is not there.`);
  const { args, database, env } = toServer(url);
  const list = await must(program('pg_restore'), ['--list', file], { env }).catch(() => {
    throw new Plain(`${file} is no backup of Vanner, or it is broken.`);
  });
  if (!/TABLE DATA public job /.test(list)) throw new Plain(`${file} is no backup of Vanner: there are no jobs in it.`);
  await must(
    program('pg_restore'),
    [...args, '--dbname', database, '--clean', '--if-exists', '--no-owner', '--no-privileges', '--single-transaction', file],
    { env },
  );
}
