import { run } from './run.mjs';
import { ROOT } from './paths.mjs';

/** Runs Node with each list of arguments, two at a time: what one says is shown where it fails. Resolves with the names of those that did. */
export async function several(tasks, options = {}) {
  const left = [...tasks];
  const failed = [];
  const next = async () => {
    for (let task = left.shift(); task; task = left.shift()) {
      const [name, args] = task;
      const from = performance.now();
      const { code, output } = await run(process.execPath, args, { cwd: ROOT, ...options, quiet: true });
      console.log(`${code === 0 ? 'ok    ' : 'FAILED'} ${name}, ${((performance.now() - from) / 1000).toFixed(1)} s`);
      if (code === 0) continue;
      failed.push(name);
      console.log(output.trim());
    }
  };
  await Promise.all([next(), next()]);
  return failed;
}
