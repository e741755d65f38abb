import { spawn } from 'node:child_process';
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
    await must(
      program('pg_dump'),
      [...args, '--format=custom', '--no-owner', '--no-privileges', '--no-unlogged-table-data', '--file', unfinished, database],
      { env },
    );
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
 * Takes away everything of ours, whichever release made it: what is newer than the backup would stand in the way of the release
 * that the backup is brought up to. The queue makes its own part anew where the backup has none.
 */
const MAKE_ROOM = `
DO $$
DECLARE x record;
BEGIN
  FOR x IN SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public' AND tableowner = current_user LOOP
    EXECUTE format('DROP TABLE IF EXISTS public.%I CASCADE', x.name);
  END LOOP;
  FOR x IN SELECT p.oid::regprocedure AS name FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace
    WHERE n.nspname = 'public' AND pg_get_userbyid(p.proowner) = current_user
      AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e') LOOP
    EXECUTE format('DROP FUNCTION IF EXISTS %s CASCADE', x.name);
  END LOOP;
  FOR x IN SELECT sequencename AS name FROM pg_sequences WHERE schemaname = 'public' AND sequenceowner = current_user LOOP
    EXECUTE format('DROP SEQUENCE IF EXISTS public.%I CASCADE', x.name);
  END LOOP;
  DROP SCHEMA IF EXISTS graphile_worker CASCADE;
END $$;
`;

/**
 * Runs what a first program writes through psql in one transaction, behind `first`. It is committed only once the first program has
 * come to its end well: an output that breaks off leaves everything as it was. Throws with what either of them says.
 */
async function poured([from, fromArgs], [into, intoArgs], { env, first }) {
  const source = spawn(from, fromArgs, { env, stdio: ['ignore', 'pipe', 'pipe'] });
  const target = spawn(into, intoArgs, { env, stdio: ['pipe', 'ignore', 'pipe'] });
  const said = [];
  const ended = (child, name) =>
    new Promise((done, fail) => {
      child.stderr.on('data', (d) => said.push(String(d)));
      child.once('error', fail);
      child.once('close', (code) => (code === 0 ? done() : fail(new Error(`${name} ended with ${code}\n${said.join('').slice(-2000)}`))));
    });
  const written = ended(source, from);
  const taken = ended(target, into);
  taken.catch(() => {});
  // One that has ended takes nothing any more: why is told by its end.
  target.stdin.on('error', () => source.kill());
  target.stdin.write(`BEGIN;\n${first}`);
  source.stdout.pipe(target.stdin, { end: false });
  try {
    await written;
    target.stdin.end('COMMIT;\n');
  } catch (error) {
    target.stdin.end();
    // What stopped the second one is the reason why the first could not go on.
    await taken;
    throw error;
  }
  await taken;
}

/**
 * Puts a backup in the place of everything that is there: all of it in one transaction, or nothing. The file is read to its
 * end before anything is touched. Keys of the API and customers' links of then stay out unless `doors`: some of them may have
 * been ended since. Nobody stays signed in: a session that was ended since would live again. `reader` is the program that reads it.
 */
export async function restoreFrom(url, file, { doors = false, reader = program('pg_restore') } = {}) {
  if (!existsSync(file)) throw new Plain(`${file} is not there.`);
  const { args, database, env } = toServer(url);
  const list = await must(reader, ['--list', file], { env }).catch(() => {
    throw new Plain(`${file} is no backup of Vanner, or it is broken. Nothing was changed.`);
  });
  if (!/TABLE DATA public job /.test(list))
    throw new Plain(`${file} is no backup of Vanner: there are no jobs in it. Nothing was changed.`);
  await must(reader, ['--file', '/dev/null', file], { env }).catch(() => {
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
    await poured(
      [reader, ['--use-list', wanted, '--no-owner', '--no-privileges', '--file', '-', file]],
      [program('psql'), [...args, '--dbname', database, '-v', 'ON_ERROR_STOP=1', '--quiet', '--file', '-']],
      { env, first: MAKE_ROOM },
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
