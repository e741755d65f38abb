/** Bundles the server's worker threads: the threads run plain .mjs, the sources are TypeScript. */
import { context, build } from 'esbuild';

const options = {
  entryPoints: { 'read-table': 'src/server/work/read-table.worker.ts', 'table-text': 'src/server/work/table-text.worker.ts' },
  outdir: 'dist/workers',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  external: ['piscina'],
  logLevel: 'warning',
};

if (process.argv.includes('--watch')) await (await context(options)).watch();
else await build(options);
