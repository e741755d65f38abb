import { Cluster } from './cluster.mjs';
import { whenInterrupted } from './interrupted.mjs';
import { ROOT } from './paths.mjs';
import { anyPort } from './ports.mjs';
import { must } from './run.mjs';
import { endChild, spawnApp, waitForApp } from './server.mjs';

/** Runs the built app on a database of its own with the demo data fresh in it, hands over its address, and ends both. */
async function withDemoApp(name, work) {
  const cluster = new Cluster(name);
  let server = null;
  let over = () => {};
  try {
    await cluster.startForNow();
    await must(process.execPath, ['--import', 'tsx', 'scripts/db/prepare.ts', '--reset'], {
      cwd: ROOT,
      env: { ...process.env, DATABASE_URL: cluster.url() },
    });
    const port = await anyPort();
    server = spawnApp(port, cluster.url());
    over = whenInterrupted(() => server.kill());
    await waitForApp(port, server);
    await work(`http://127.0.0.1:${port}`);
  } finally {
    over();
    if (server) await endChild(server);
    await cluster.stop();
  }
}

/** As withDemoApp, with a browser too. */
export async function withDemoBrowser(name, work) {
  await withDemoApp(name, async (url) => {
    const { chromium } = await import('@playwright/test');
    const { LAUNCH } = await import('./browser.mjs');
    const browser = await chromium.launch(LAUNCH);
    try {
      await work(browser, url);
    } finally {
      await browser.close();
    }
  });
}
