import { spawn } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';

/** A process with a database for now and a command under way, which says who they are. */
const PROGRAM = `
  import { Cluster } from './scripts/lib/cluster.mjs';
  import { run } from './scripts/lib/run.mjs';
  const cluster = new Cluster('interrupted-' + process.pid);
  await cluster.startForNow();
  void run(process.execPath, ['-e', 'console.log(process.pid); setInterval(() => {}, 1000)'], { stdio: ['ignore', 'inherit', 'inherit'] });
  console.log(JSON.stringify({ database: cluster.runningPid(), home: cluster.home, data: cluster.data }));
`;

/** Whether a process runs with these words in its command: one that ended has none, also where nobody has taken note of its end yet. */
const runs = (pid: number, words: string): boolean => {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(words);
  } catch {
    return false;
  }
};

it.each([
  ['SIGINT', 130],
  ['SIGTERM', 143],
] as const)('a database and a command that were begun for a while end with who began them: %s', async (signal, code) => {
  const child = spawn(process.execPath, ['--input-type=module', '-e', PROGRAM], { stdio: ['ignore', 'pipe', 'inherit'] });
  const [at, command] = await new Promise<[{ database: number; home: string; data: string }, number]>((done, fail) => {
    let said = '';
    child.stdout.on('data', (d: Buffer) => {
      said += d.toString();
      const [json, pid] = [/^\{.*\}$/m.exec(said)?.[0], /^\d+$/m.exec(said)?.[0]];
      if (json && pid) done([JSON.parse(json) as { database: number; home: string; data: string }, Number(pid)]);
    });
    child.once('exit', () => fail(new Error(`it ended by itself: ${said}`)));
  });
  try {
    const live = () => [runs(at.database, at.data), runs(command, 'setInterval')];
    expect(live()).toEqual([true, true]);
    const ended = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    expect(await ended).toBe(code);
    while (live().includes(true)) await sleep(50);
  } finally {
    for (const path of [at.home, at.data]) rmSync(path, { recursive: true, force: true });
  }
});
