import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['graphile-worker', 'pg', 'pino', 'piscina', 'pdfkit', 'prom-client', 'sharp'],
  // Which build a page is of: what a browser keeps of a computation is of one build.
  env: { VANNER_RELEASE: process.env['VANNER_RELEASE'] ?? '' },
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // A browser asks for the worker anew at each visit: a new release must not wait for a cache to run out.
  headers: () => Promise.resolve([{ source: '/sw.js', headers: [{ key: 'cache-control', value: 'no-cache' }] }]),
  // The app alone: what its checks need is not there on a machine that only runs it.
  typescript: { tsconfigPath: 'tsconfig.build.json' },
};

export default config;
