/** Bundles a script written in TypeScript and runs it: measured and simulated as it ships, without a loader's wrappers. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ROOT } from './paths.mjs';

/** Runs `scripts/<name>.ts` with the arguments this process was given; returns its exit code. */
export async function runBundled(name) {
  const outfile = join(ROOT, `dist/bench/${name}.mjs`);
  const entryPoints = [join(ROOT, `scripts/${name}.ts`)];
  await build({ entryPoints, outfile, bundle: true, platform: 'node', format: 'esm', target: 'node20', logLevel: 'warning' });
  return spawnSync(process.execPath, [outfile, ...process.argv.slice(2)], { stdio: 'inherit' }).status ?? 1;
}
