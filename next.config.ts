import { readdirSync } from 'node:fs';
import type { NextConfig } from 'next';

// Ant Design's rules come as one stylesheet: what would write them while a page runs does not go out as scripts too.
const NO_RULES = { loaders: ['./scripts/lib/without-style-rules.cjs'] };

// The packages Ant Design is made of do nothing when they are imported, but do not say so: told here, a page that needs one
// piece of one (a form's context, without the forms and their checks) does not load all of it.
const PARTS = readdirSync('node_modules/@rc-component').map((name) => `@rc-component/${name}`);

const config: NextConfig = {
  serverExternalPackages: ['graphile-worker', 'pg', 'pino', 'piscina', 'pdfkit', 'prom-client', 'sharp'],
  // Which build a page is of: what a browser keeps of a computation is of one build.
  env: { VANNER_RELEASE: process.env['VANNER_RELEASE'] ?? '' },
  turbopack: { rules: { '**/antd/es/**/style/*.js': NO_RULES, '**/antd/es/_util/wave/style.js': NO_RULES } },
  experimental: { optimizePackageImports: PARTS },
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // A browser asks for the worker anew at each visit: a new release must not wait for a cache to run out.
  headers: () => Promise.resolve([{ source: '/sw.js', headers: [{ key: 'cache-control', value: 'no-cache' }] }]),
  // The app alone: what its checks need is not there on a machine that only runs it.
  // Types are the checks' business (`npm test -- types`): again here they were a third of the first start.
  typescript: { tsconfigPath: 'tsconfig.build.json', ignoreBuildErrors: true },
};

export default config;
