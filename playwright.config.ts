import { availableParallelism } from 'node:os';
import { defineConfig } from '@playwright/test';
import { LAUNCH } from './scripts/lib/browser.mjs';

/** What a walk did, step by step, kept where it fails: asked for with VANNER_TRACE=1, as writing it down costs every walk an eighth of its time. */
const trace = process.env['VANNER_TRACE'] === '1' ? 'retain-on-failure' : 'off';

/**
 * The real built app on a real database. A walk has a browser, a server and a database at work and wants two processors; on two, a
 * second worker beside it saves a fifth of the time and makes every answer half as quick.
 */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/template.ts',
  outputDir: 'test-results',
  workers: Math.max(1, Math.floor(availableParallelism() / 2)),
  // What passes at a second try only is a fault of the test or of the app: there is none.
  retries: 0,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  // What a browser keeps for use without a network is tried where that is asked; elsewhere it would stand between a test and the server.
  use: {
    serviceWorkers: 'block',
    viewport: { width: 1280, height: 800 },
    launchOptions: LAUNCH,
    screenshot: 'only-on-failure',
    trace,
    reducedMotion: 'reduce',
  },
});
