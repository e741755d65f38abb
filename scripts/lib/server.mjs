import { spawn } from 'node:child_process';
import { availableParallelism, totalmem } from 'node:os';
import { join } from 'node:path';
import { ROOT } from './paths.mjs';
import { sleep } from './process.mjs';

const MOST_PROCESSES = 4;
/** Memory that a machine or container has for each web process: it may take half of it. */
const EACH_bytes = 1024 ** 3;
/** How many web processes a server has where nobody says (`VANNER_WEB`): one a processor, as far as the memory goes. */
export function usualProcesses() {
  const memory = Math.min(totalmem(), process.constrainedMemory() || Infinity);
  return String(Math.max(1, Math.min(MOST_PROCESSES, availableParallelism(), Math.floor(memory / EACH_bytes))));
}

/** Starts the built app, on loopback unless told otherwise; `listen`: where it is reached from, by a door before it. */
export function spawnApp(port, databaseUrl, options = {}, host = '127.0.0.1', listen = host) {
  return spawn(process.execPath, [join(ROOT, 'scripts/web.mjs'), host, String(port)], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1', DATABASE_URL: databaseUrl, VANNER_LISTEN: listen },
    ...options,
  });
}

/** Waits until the app answers its health question, or its process ends. */
export async function waitForApp(port, child, seconds = 60) {
  const until = Date.now() + seconds * 1000;
  while (Date.now() < until) {
    if (child && child.exitCode !== null) throw new Error(`the server ended with ${child.exitCode} before it answered`);
    if (await answers(port)) return;
    await sleep(100);
  }
  throw new Error(`no answer on port ${port} within ${seconds} s`);
}

export async function answers(port) {
  try {
    const response = await fetch(`http://127.0.0.1:${port}/api/health`, { signal: AbortSignal.timeout(2000) });
    return response.ok && (await response.json()).app === 'vanner';
  } catch {
    return false;
  }
}

/** Ends a child, firmly if it does not go by itself. */
export async function endChild(child) {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  const killer = setTimeout(() => child.kill('SIGKILL'), 8000);
  await gone;
  clearTimeout(killer);
}
