import { defineConfig } from '@playwright/test';
import { LAUNCH } from './scripts/lib/browser.mjs';

/** The real built app on a real database; one worker, because the machine has two processors and the app wants one. */
export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results',
  workers: 1,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  reporter: [['list']],
  use: { viewport: { width: 1280, height: 800 }, launchOptions: LAUNCH, trace: 'retain-on-failure' },
});
