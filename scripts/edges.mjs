/** Bundles and runs scripts/edges.ts: how the engine holds at its edges. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ROOT } from './lib/paths.mjs';

const outfile = join(ROOT, 'dist/bench/edges.mjs');
await build({
  entryPoints: [join(ROOT, 'scripts/edges.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
});
process.exitCode = spawnSync(process.execPath, [outfile, ...process.argv.slice(2)], { stdio: 'inherit' }).status ?? 1;
