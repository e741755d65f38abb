import { randomBytes, createHash } from 'node:crypto';
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import { join } from 'node:path';
import { whenInterrupted } from './interrupted.mjs';
import { postgresBin } from './packages.mjs';
import { LOCAL } from './paths.mjs';
import { anyPort, portFree } from './ports.mjs';
import { isOurs, sleep } from './process.mjs';
import { must, run } from './run.mjs';
import { Plain } from './step.mjs';

/**
 * A private PostgreSQL cluster: its own folder, its own port on 127.0.0.1, a random password, no socket file. It never runs
 * as root and never touches a cluster the machine already has.
 */
export class Cluster {
  constructor(name = 'database') {
    this.home = join(LOCAL, name);
    this.bin = postgresBin();
    mkdirSync(this.home, { recursive: true, mode: 0o755 });
    this.statePath = join(this.home, 'state.json');
    this.passwordPath = join(this.home, 'password');
  }

  readState() {
    return existsSync(this.statePath) ? JSON.parse(readFileSync(this.statePath, 'utf8')) : {};
  }

  writeState(change) {
    const next = { ...this.readState(), ...change };
    writeFileSync(`${this.statePath}.new`, JSON.stringify(next));
    renameSync(`${this.statePath}.new`, this.statePath);
  }

  /** Whom the server runs as: ourselves, or, when we are root, the data's owner or Debian's postgres user. */
  async identity(dataOwner) {
    const uid = process.getuid();
    if (uid !== 0) {
      if (dataOwner && dataOwner.uid !== uid) {
        throw new Plain(
          `The database in ${this.home} belongs to another user (uid ${dataOwner.uid}): it was made when Vanner was started by that user or by root. Start it that way again, or point DATABASE_URL at a PostgreSQL of your own.`,
        );
      }
      try {
        os.userInfo();
      } catch {
        throw new Plain(
          `User id ${uid} has no entry in the passwd file, and PostgreSQL refuses to run for it. Use a named user, or point DATABASE_URL at a PostgreSQL of your own.`,
        );
      }
      return {};
    }
    if (dataOwner && dataOwner.uid !== 0) return dataOwner;
    const id = async (flag) => Number((await must('id', [flag, 'postgres'])).trim());
    return { uid: await id('-u'), gid: await id('-g') };
  }

  /** The data folder: beside the project, or under /var/lib where the server's user cannot enter the project's folder. */
  async locate() {
    const known = this.readState().data;
    if (known && existsSync(known)) return known;
    const here = join(this.home, 'data');
    if (process.getuid() !== 0) return here;
    const who = await this.identity();
    const entered = await run('test', ['-x', this.home], { quiet: true, cwd: '/', ...who });
    if (entered.code === 0) return here;
    const hash = createHash('sha256').update(this.home).digest('hex').slice(0, 12);
    return `/var/lib/vanner-${hash}/data`;
  }

  async command(program, args, options = {}) {
    return run(join(this.bin, program), args, {
      quiet: true,
      cwd: '/',
      ...this.who,
      env: { ...process.env, LC_ALL: 'C.UTF-8' },
      ...options,
    });
  }

  /** Makes the cluster if there is none. Interrupted, it leaves only a data.new that the next start throws away. */
  async create() {
    this.data = await this.locate();
    const parent = join(this.data, '..');
    const made = existsSync(join(this.data, 'PG_VERSION'));
    this.who = await this.identity(made ? owner(this.data) : undefined);
    if (made) {
      if (!existsSync(this.passwordPath)) await this.resetPassword();
      this.writeState({ data: this.data });
      return 'kept';
    }
    mkdirSync(parent, { recursive: true, mode: 0o755 });
    const fresh = `${this.data}.new`;
    rmSync(fresh, { recursive: true, force: true });
    const inbox = join(parent, 'password.new');
    const password = this.newPassword();
    mkdirSync(fresh, { mode: 0o700 });
    writeFileSync(inbox, password, { mode: 0o600 });
    if (this.who.uid !== undefined) for (const path of [fresh, inbox]) chownSync(path, this.who.uid, this.who.gid);
    const made1 = await this.command('initdb', [
      '-D',
      fresh,
      '-U',
      'vanner',
      '--auth=scram-sha-256',
      `--pwfile=${inbox}`,
      '--encoding=UTF8',
      '--locale=C.UTF-8',
    ]);
    rmSync(inbox, { force: true });
    if (made1.code !== 0) throw new Plain(`PostgreSQL could not make its data folder:\n${made1.output}`);
    renameSync(fresh, this.data);
    this.writeState({ data: this.data });
    return 'made';
  }

  newPassword() {
    const password = randomBytes(24).toString('base64url');
    writeFileSync(this.passwordPath, password, { mode: 0o600 });
    chmodSync(this.passwordPath, 0o600);
    return password;
  }

  /** The password file is gone but the data is not: sets a new password in single-user mode, never a new cluster. */
  async resetPassword() {
    if (this.runningPid())
      throw new Plain(
        `The password file of the running database is missing (${this.passwordPath}). Stop it (kill ${this.runningPid()}) and start again: a new password is then set, the data stays.`,
      );
    const password = this.newPassword();
    const script = `printf "ALTER ROLE vanner PASSWORD '%s';\\n" '${password}' | '${join(this.bin, 'postgres')}' --single -D '${this.data}' postgres`;
    const done = await run('sh', ['-c', script], { quiet: true, cwd: '/', ...this.who });
    if (done.code !== 0) throw new Plain(`The database password is lost and could not be set anew:\n${done.output}`);
  }

  /** Pid of our running server, or null; a postmaster.pid that is not ours any more is stale. */
  runningPid() {
    const path = join(this.data, 'postmaster.pid');
    if (!existsSync(path)) return null;
    const pid = Number(readFileSync(path, 'utf8').split('\n')[0]);
    return isOurs(pid, this.data) ? pid : null;
  }

  /** As start, for as long as this process lives: it ends with it, also where that is interrupted. */
  async startForNow() {
    this.keepOn = whenInterrupted(() => {
      const pid = this.data ? this.runningPid() : null;
      if (pid) process.kill(pid, 'SIGINT');
    });
    return this.start();
  }

  async start() {
    const note = await this.create();
    const pid = this.runningPid();
    if (pid) {
      this.port = Number(readFileSync(join(this.data, 'postmaster.pid'), 'utf8').split('\n')[3]);
      return `already running on port ${this.port}`;
    }
    rmSync(join(this.data, 'postmaster.pid'), { force: true });
    const remembered = this.readState().port;
    this.port = remembered && (await portFree(remembered)) ? remembered : await anyPort();
    this.writeState({ port: this.port });
    await this.pgCtlStart();
    return `${note}, port ${this.port}`;
  }

  /** A killed server's children can hold its memory for a moment: tried again for a while before it is an error. */
  async pgCtlStart() {
    const log = join(this.data, 'server.log');
    const options = `-p ${this.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''`;
    let last;
    for (let i = 0; i < 20; i += 1) {
      last = await this.command('pg_ctl', ['-D', this.data, '-w', '-t', '60', '-l', log, '-o', options, 'start'], { stdio: 'ignore' });
      if (last.code === 0) return;
      await sleep(500);
    }
    const tail = existsSync(log) ? readFileSync(log, 'utf8').split('\n').slice(-15).join('\n') : '';
    throw new Plain(`The database did not start. The end of its log:\n${tail}`);
  }

  async stop() {
    this.keepOn?.();
    if (this.runningPid()) await this.command('pg_ctl', ['-D', this.data, '-w', '-m', 'fast', 'stop'], { stdio: 'ignore' });
  }

  url(database = 'vanner') {
    return `postgres://vanner:${readFileSync(this.passwordPath, 'utf8')}@127.0.0.1:${this.port}/${database}`;
  }
}

function owner(path) {
  const { uid, gid } = statSync(path);
  return { uid, gid };
}
