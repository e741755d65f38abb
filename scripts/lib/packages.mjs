import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { must, run } from './run.mjs';
import { Plain } from './step.mjs';
import { ROOT } from './paths.mjs';

const LOCK = join(ROOT, 'package-lock.json');
const STAMP = join(ROOT, 'node_modules', '.vanner-lock');

/** Installs npm packages when the lock file is not the one they were installed from. */
export async function ensureNpm() {
  const hash = createHash('sha256').update(readFileSync(LOCK)).digest('hex');
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === hash) return 'as locked';
  await must('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund'], { cwd: ROOT });
  writeFileSync(STAMP, hash);
  return 'installed from the lock file';
}

/** Folder of the newest PostgreSQL's server programs on this machine, or null. */
export function postgresBin() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return null;
  const versions = readdirSync(base).filter((v) => existsSync(join(base, v, 'bin', 'initdb')));
  versions.sort((a, b) => Number(b) - Number(a));
  return versions.length > 0 ? join(base, versions[0], 'bin') : null;
}

async function sudoWithoutPassword() {
  try {
    return (await run('sudo', ['-n', 'true'], { quiet: true })).code === 0;
  } catch {
    return false;
  }
}

/** Installs Debian packages as root or through passwordless sudo; otherwise stops with the line to type. */
async function apt(packages) {
  const line = `apt-get install -y --no-install-recommends ${packages.join(' ')}`;
  const root = process.getuid() === 0;
  if (!root && !(await sudoWithoutPassword()))
    throw new Plain(`Missing: ${packages.join(', ')}. Install it with this line, then start again:\n\n  sudo ${line}\n`);
  const as = (command, args) => (root ? [command, args] : ['sudo', ['-n', command, ...args]]);
  if (packages.includes('postgresql')) {
    // Without this Debian would make and start a cluster of its own beside ours.
    const conf =
      'mkdir -p /etc/postgresql-common/createcluster.d && echo "create_main_cluster = false" > /etc/postgresql-common/createcluster.d/no-main.conf';
    await must(...as('sh', ['-c', conf]));
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const install = () => run(...as('apt-get', ['install', '-y', '--no-install-recommends', ...packages]), { quiet: true, env });
  await run(...as('apt-get', ['update', '-qq']), { quiet: true, env });
  const result = await install();
  if (result.code !== 0)
    throw new Plain(`apt-get could not install ${packages.join(', ')}:\n${result.output}\nTry it by hand: sudo ${line}`);
}

export async function ensurePostgres() {
  if (postgresBin()) return `already here (${postgresBin()})`;
  await apt(['postgresql']);
  if (!postgresBin()) throw new Plain('PostgreSQL was installed but its server programs are not under /usr/lib/postgresql.');
  return 'installed';
}

export const CHROMIUM = '/usr/bin/chromium';

export async function ensureChromium() {
  if (existsSync(CHROMIUM)) return 'already here';
  await apt(['chromium', 'ca-certificates']);
  return 'installed';
}
