import { spawn } from 'node:child_process';
import { endsToo } from './interrupted.mjs';

/** Runs a command to its end, `input` piped in; resolves with its exit code and what it printed (when not inherited). */
export function run(command, args, options = {}) {
  const { quiet = false, input, ...rest } = options;
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      stdio: [input === undefined ? 'ignore' : 'pipe', ...(quiet ? ['pipe', 'pipe'] : ['inherit', 'inherit'])],
      ...rest,
    });
    child.stdin?.on('error', () => undefined);
    child.stdin?.end(input);
    let output = '';
    child.stdout?.on('data', (d) => (output += d));
    child.stderr?.on('data', (d) => (output += d));
    child.on('error', reject);
    const over = endsToo(() => child.kill());
    child.on('close', (code, signal) => {
      over();
      resolve({ code: code ?? 1, signal, output });
    });
  });
}

/** As run, but anything but success is an error that carries what was printed. */
export async function must(command, args, options = {}) {
  const result = await run(command, args, { quiet: true, ...options });
  if (result.code !== 0) throw new Error(`${command} ${args.join(' ')} ended with ${result.code}\n${result.output}`);
  return result.output;
}
