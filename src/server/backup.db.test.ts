import { execFile, spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { sql } from 'kysely';
import { loadDemo } from '@/server/demo/load';
import { freshDatabase } from '../../test/database';
import { checkKey, makeKey } from './api-keys';
import { connect, type Db } from './db/client';
import { listJobs } from './jobs';
import { packageOf, packageStream } from './package/write';
import { newPairing } from './pairing';
import { checkPassphrase, sessionKey, setPassphrase } from './passphrase';
import { tryWork } from './queue/tasks';
import { askWork, queue, seeWork } from './queue/work';
import { makeLink } from './share';

const run = promisify(execFile);
let db: Db;
let url: string;
let drop: () => Promise<void>;
let folder: string;
beforeAll(async () => {
  ({ db, url, drop } = await freshDatabase());
  await db.transaction().execute((trx) => loadDemo(trx));
  await db
    .insertInto('meta')
    .values({ key: 'started', value: JSON.stringify({ demo: true }) })
    .execute();
  folder = mkdtempSync(join(tmpdir(), 'vanner-backup-'));
});
afterAll(async () => {
  await drop();
  rmSync(folder, { recursive: true, force: true });
});

const command = (script: string, args: readonly string[], databaseUrl: string) =>
  run(process.execPath, [`scripts/${script}.mjs`, ...args], { env: { ...process.env, DATABASE_URL: databaseUrl, INIT_CWD: folder } });

/** A cluster of its own, made for this test and taken away after it. */
async function freshCluster(): Promise<{ url: string; end: () => Promise<void> }> {
  const child = spawn(process.execPath, ['test/fresh-cluster.mjs'], { stdio: ['pipe', 'pipe', 'inherit'] });
  const at = await new Promise<string>((done, fail) => {
    let said = '';
    child.stdout.on('data', (d: Buffer) => {
      said += d.toString();
      if (said.includes('\n')) done(said.trim());
    });
    child.once('exit', () => fail(new Error('the cluster did not start')));
  });
  return {
    url: at,
    end: () =>
      new Promise((done) => {
        child.once('exit', () => done());
        child.stdin.end();
      }),
  };
}

const everything = async (of: Db): Promise<object> => {
  const tables = [
    'job',
    'unit',
    'tested_part',
    'run',
    'log',
    'strip_visit',
    'strip_pass',
    'prediction',
    'sheet_event',
    'meta',
    'document_version',
  ] as const;
  const rows: Record<string, unknown> = {};
  for (const t of tables)
    rows[t] = (
      await sql<{ h: string }>`SELECT md5(string_agg(x::text, '|' ORDER BY x::text)) AS h FROM ${sql.table(t)} x`.execute(of)
    ).rows[0]!.h;
  rows['bytes'] = (
    await sql<{ h: string }>`SELECT md5(string_agg(hash || seq || md5(bytes), '|' ORDER BY hash, seq)) AS h FROM file_chunk`.execute(of)
  ).rows[0]!.h;
  rows['samples'] = (
    await sql<{
      h: string;
    }>`SELECT md5(string_agg(log_id::text || col || block || md5(data), '|' ORDER BY log_id, col, block)) AS h FROM log_block`.execute(of)
  ).rows[0]!.h;
  return rows;
};

it('a backup restored into a fresh cluster is everything, to the byte', async () => {
  await command('backup', ['all.backup'], url);
  expect(statSync(join(folder, 'all.backup')).mode & 0o777).toBe(0o600);
  const cluster = await freshCluster();
  try {
    await command('restore', ['all.backup', '--yes'], cluster.url);
    const there = connect(cluster.url, 2);
    try {
      expect(await everything(there)).toEqual(await everything(db));
      const [job] = await listJobs(there);
      expect(await packageOf(there, job!.id)).toMatchObject({ job: { doc: { name: job!.name } } });
    } finally {
      await there.destroy();
    }
  } finally {
    await cluster.end();
  }
}, 120_000);

it('a restore takes the place of what was there, all or nothing', async () => {
  const other = await freshDatabase();
  try {
    await command('restore', ['all.backup', '--yes'], other.url);
    expect(await listJobs(other.db)).toHaveLength(5);
    writeFileSync(join(folder, 'broken.backup'), 'not a backup');
    await expect(command('restore', ['broken.backup', '--yes'], other.url)).rejects.toMatchObject({
      stderr: expect.stringMatching(/no backup of Vanner/),
    });
    expect(await listJobs(other.db)).toHaveLength(5);
  } finally {
    await other.drop();
  }
}, 120_000);

it('a damaged backup is told before anything is touched', async () => {
  const other = await freshDatabase();
  try {
    await other.db.insertInto('meta').values({ key: 'here', value: '{}' }).execute();
    const whole = readFileSync(join(folder, 'all.backup'));
    writeFileSync(join(folder, 'cut.backup'), whole.subarray(0, Math.floor(whole.length * 0.9)));
    const middle = Math.floor(whole.length / 2);
    writeFileSync(
      join(folder, 'rotten.backup'),
      Buffer.concat([whole.subarray(0, middle), Buffer.alloc(4096, 0xff), whole.subarray(middle + 4096)]),
    );
    for (const name of ['cut.backup', 'rotten.backup'])
      await expect(command('restore', [name, '--yes'], other.url)).rejects.toMatchObject({
        stderr: expect.stringMatching(/is damaged: it cannot be read to its end\. Nothing was changed/),
      });
    expect(await other.db.selectFrom('meta').select('key').where('key', '=', 'here').execute()).toHaveLength(1);
  } finally {
    rmSync(join(folder, 'cut.backup'), { force: true });
    rmSync(join(folder, 'rotten.backup'), { force: true });
    await other.drop();
  }
}, 120_000);

it('keys, links and sessions of then stay shut, unless keys and links are asked for', async () => {
  const from = await freshDatabase();
  const to = await freshDatabase();
  try {
    await from.db.transaction().execute((trx) => loadDemo(trx));
    const { token } = await makeKey(from.db, 'dyno');
    const opened = (at: Db) => checkKey(at, new Request('http://localhost/api/v1/jobs', { headers: { authorization: `Bearer ${token}` } }));
    await makeLink(from.db, (await listJobs(from.db))[0]!.id, 30, 'metric');
    await setPassphrase(from.db, 'four words of ours');
    await newPairing(from.db, '/shelf', Date.now());
    await command('backup', ['doors.backup'], from.url);
    await command('restore', ['doors.backup', '--yes'], to.url);
    expect(await listJobs(to.db)).toHaveLength(5);
    await expect(opened(to.db)).rejects.toMatchObject({ code: 'key_needed' });
    expect(await to.db.selectFrom('share_link').select('id').execute()).toEqual([]);
    await checkPassphrase(to.db, 'four words of ours', 'here');
    expect(await sessionKey(to.db)).not.toBe(await sessionKey(from.db));
    expect(await to.db.selectFrom('meta').select('key').where('key', 'like', 'pairing:%').execute()).toEqual([]);
    await command('restore', ['doors.backup', '--yes', '--keys-and-links'], to.url);
    expect(await opened(to.db)).toMatchObject({ scope: 'write' });
    expect(await to.db.selectFrom('share_link').select('id').execute()).toHaveLength(1);
  } finally {
    rmSync(join(folder, 'doors.backup'), { force: true });
    await from.drop();
    await to.drop();
  }
}, 120_000);

it('says what is missing, and never writes over a file', async () => {
  await expect(command('backup', ['all.backup'], url)).rejects.toMatchObject({ stderr: expect.stringMatching(/there already/) });
  await expect(command('restore', ['nowhere.backup', '--yes'], url)).rejects.toMatchObject({
    stderr: expect.stringMatching(/is not there/),
  });
  await expect(command('restore', ['all.backup'], url)).rejects.toMatchObject({ stderr: expect.stringMatching(/will be gone/) });
  await expect(command('backup', ['none.backup'], url.replace(/t_\w+$/, 'nothing_here'))).rejects.toBeTruthy();
  expect(readdirSync(folder).sort()).toEqual(['all.backup', 'broken.backup']);
}, 60_000);

it('a backup of an older release goes into a shop that runs this one, queue and all, and comes out as this release has it', async () => {
  const older = await freshDatabase('009-owners');
  const newer = await freshDatabase();
  try {
    await older.db.insertInto('meta').values({ key: 'of then', value: '{}' }).execute();
    await queue(newer.db);
    await newer.db.insertInto('meta').values({ key: 'of now', value: '{}' }).execute();
    await command('backup', ['older.backup'], older.url);
    await command('restore', ['older.backup', '--yes'], newer.url);
    const keys = (await newer.db.selectFrom('meta').select('key').execute()).map((r) => r.key);
    expect([keys.includes('of then'), keys.includes('of now')]).toEqual([true, false]);
    // What is newer than the backup is there, and empty.
    expect(await newer.db.selectFrom('work').selectAll().execute()).toEqual([]);
    expect(await newer.db.selectFrom('session_end').selectAll().execute()).toEqual([]);
  } finally {
    await older.drop();
    await newer.drop();
  }
}, 120_000);

it('a reader that breaks off in the middle of a restore leaves everything as it was', async () => {
  const to = await freshDatabase();
  try {
    await to.db.insertInto('meta').values({ key: 'here', value: '{}' }).execute();
    const reader = join(folder, 'breaks-off');
    const real = '$(ls /usr/lib/postgresql/*/bin/pg_restore | tail -1)';
    writeFileSync(reader, `#!/bin/sh\nR=${real}\ncase "$1" in --use-list) "$R" "$@" | head -c 60000; exit 1;; *) exec "$R" "$@";; esac\n`, {
      mode: 0o755,
    });
    const script = `import('./scripts/lib/dump.mjs').then((m) => m.restoreFrom(${JSON.stringify(to.url)}, ${JSON.stringify(join(folder, 'all.backup'))}, { reader: ${JSON.stringify(reader)} }))`;
    await expect(run(process.execPath, ['--input-type=module', '-e', script])).rejects.toMatchObject({
      // Whichever of the two is first to say so: the reader that ends with 1, or psql that meets half a line.
      stderr: expect.stringMatching(/ended with (1|3)/) as string,
    });
    expect(await to.db.selectFrom('meta').select('key').where('key', '=', 'here').execute()).toHaveLength(1);
    rmSync(reader);
  } finally {
    await to.drop();
  }
}, 120_000);

it('work that waits is in a backup, and done where it is restored', async () => {
  const from = await freshDatabase();
  const to = await freshDatabase();
  try {
    for (const d of [from, to]) await queue(d.db);
    const archive = await new Response(packageStream(db, await packageOf(db, (await listJobs(db))[0]!.id))).arrayBuffer();
    const id = await askWork(from.db, 'archive', new Blob([archive]).stream());
    await command('backup', ['waits.backup'], from.url);
    await command('restore', ['waits.backup', '--yes'], to.url);
    await tryWork(to.db, 'archive', id, true);
    expect(await seeWork(to.db, id)).toMatchObject({ state: 'done' });
  } finally {
    await from.drop();
    await to.drop();
  }
}, 120_000);
