import { CHROMIUM } from './packages.mjs';

/** How Debian's Chromium is started for pictures, tests and measurements. */
export const LAUNCH = {
  executablePath: CHROMIUM,
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};
