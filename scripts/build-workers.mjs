/** Bundles the server's worker threads, which run plain .mjs, and the browser's service worker; the sources are TypeScript. */
import { context, build } from 'esbuild';

const options = {
  entryPoints: {
    'read-table': 'src/server/work/read-table.worker.ts',
    'table-text': 'src/server/work/table-text.worker.ts',
    'clean-picture': 'src/server/work/clean-picture.worker.ts',
    queue: 'src/server/queue/main.ts',
    'make-pdf': 'src/server/drawing/make-pdf.worker.ts',
    'package-doc': 'src/server/work/package-doc.worker.ts',
    sums: 'src/server/work/sums.worker.ts',
  },
  outdir: 'dist/workers',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  external: ['graphile-worker', 'pdfkit', 'pg', 'pg-copy-streams', 'pino', 'piscina', 'prom-client', 'sharp'],
  logLevel: 'warning',
};

/** Kept by every browser that opened the app: another release must be another text. */
const service = {
  entryPoints: { sw: 'src/sw/service-worker.ts' },
  outdir: 'public',
  bundle: true,
  minify: true,
  platform: 'browser',
  target: 'es2022',
  format: 'iife',
  define: { RELEASE: JSON.stringify(process.env.VANNER_RELEASE ?? 'development'), 'process.env.NODE_ENV': '"production"' },
  logLevel: 'warning',
};
await build(service);
if (process.argv.includes('--watch')) await (await context(options)).watch();
else await build(options);
