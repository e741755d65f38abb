/** `npm run shots`: regenerates docs/screenshots from the demo data on a database of its own, the same on every run; `-- verdict pick` those alone. */
import { mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt } from './lib/build.mjs';
import { withDemoBrowser } from './lib/demo-app.mjs';
import { ensureChromium, ensureNpm, ensurePostgres } from './lib/packages.mjs';
import { ROOT } from './lib/paths.mjs';
import { fail, Plain, step } from './lib/step.mjs';

const OUT = join(ROOT, 'docs/screenshots');
const job =
  (stop, name = 'Larkspur estate') =>
  async (page) => {
    await page.goto('/');
    const href = await page.getByRole('link', { name: new RegExp(`^${name}(?! \\()`) }).getAttribute('href');
    await page.goto(href.replace(/[a-z]+$/, stop));
  };

const ranges = (page) => page.getByText(/^ranges: 8 of 10/).waitFor({ timeout: 60_000 });
/** The customer's page behind a link of its own. */
async function customer(page) {
  await job('verdict')(page);
  await page.getByRole('button', { name: 'Make a link' }).click();
  await page.goto(await page.getByLabel('The new link').inputValue());
}
/** Three shapes of about one size side by side. */
async function shelf(page) {
  const units = await (await page.request.get('/api/units')).json();
  const ids = ['Fenwick 66', 'Sedge oval 78 × 54', 'Bracken twin 46'].map((name) => units.find((u) => u.doc.name === name).id);
  await page.goto(`/shelf?compare=${ids.join(',')}`);
}

/** The verdict with what the waves say in its table. */
const byWaves = (page) => page.getByRole('row', { name: /^the middle third.*with waves, the middle third/ }).waitFor({ timeout: 120_000 });

/** One picture a main view; `ready` is what must be on the page before it is taken. */
const SHOTS = [
  { name: 'jobs', go: (page) => page.goto('/') },
  { name: 'start', go: (page) => page.goto('/start'), charts: 1 },
  { name: 'car', go: job('car'), charts: 1 },
  { name: 'air', go: job('air'), charts: 1 },
  {
    name: 'waves-dark',
    go: job('air?look=waves', 'Curlew roadster'),
    theme: 'dark',
    act: async (page) => {
      await page.getByText(/^Between shifts, /).waitFor({ timeout: 120_000 });
      await page.getByRole('img', { name: /^Pressure along the runner/ }).waitFor();
    },
  },
  { name: 'pick', go: job('pick'), charts: 3, act: ranges },
  { name: 'shelf', go: shelf, charts: 1 },
  { name: 'bench', go: (page) => page.goto('/bench'), act: (page) => page.getByText('stock throttle').last().waitFor() },
  { name: 'sums', go: (page) => page.goto('/sums?sum=pulley&x=0.1'), act: (page) => page.locator('.katex').first().waitFor() },
  { name: 'fit', go: job('fit') },
  { name: 'install', go: job('install', 'Heron coupé') },
  { name: 'install-phone', go: job('install', 'Heron coupé'), size: { width: 390, height: 844 } },
  { name: 'test', go: job('test'), charts: 3 },
  {
    name: 'test-plan',
    go: job('test?view=plan'),
    act: (page) =>
      page
        .getByRole('row', { name: /alternate every run/ })
        .first()
        .waitFor(),
  },
  { name: 'test-log', go: job('test?view=log'), charts: 1, act: (page) => page.getByTestId('traces').waitFor() },
  { name: 'test-strip', go: job('test?view=strip'), charts: 2 },
  { name: 'verdict', go: job('verdict'), charts: 1 },
  { name: 'verdict-waves', go: job('verdict', 'Curlew roadster'), charts: 1, act: byWaves },
  { name: 'customer', go: customer },
];

async function take(browser, url, shot) {
  const context = await browser.newContext({
    baseURL: url,
    viewport: shot.size ?? { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    timezoneId: 'UTC',
    locale: 'en-GB',
  });
  await context.addCookies([{ name: 'vanner-theme', value: shot.theme ?? 'light', url }]);
  const page = await context.newPage();
  await shot.go(page);
  await page.getByRole('heading', { level: 1 }).waitFor();
  if (shot.charts)
    await page
      .locator('.js-plotly-plot')
      .nth(shot.charts - 1)
      .waitFor();
  await page.evaluate(() => document.fonts.ready);
  if (shot.act) await shot.act(page);
  // Not before the page is alive: it would write its own words over ours.
  await page.waitForTimeout(700);
  // The save time is the only thing that differs from run to run.
  await page.evaluate(() => {
    for (const el of document.querySelectorAll('[role=status]')) el.textContent = el.textContent.replace(/saved \d\d:\d\d/, 'saved 09:14');
    for (const el of document.querySelectorAll('time')) el.textContent = '18 Apr 2026';
  });
  await page.waitForTimeout(700);
  await page.screenshot({ path: join(OUT, `${shot.name}.png`) });
  await context.close();
}

async function main() {
  await step('npm packages', ensureNpm);
  await step('PostgreSQL', ensurePostgres);
  await step('Chromium', ensureChromium);
  await step('build', ensureBuilt);
  await withDemoBrowser('shots-database', async (browser, url) => {
    mkdirSync(OUT, { recursive: true });
    const asked = process.argv.slice(2);
    const unknown = asked.filter((name) => SHOTS.every((s) => s.name !== name));
    if (unknown.length > 0)
      throw new Plain(`No picture is called ${unknown.join(', ')}. There are: ${SHOTS.map((s) => s.name).join(', ')}.`);
    // What is no picture of these any more goes; the others stay as they are where only some are asked for.
    for (const old of readdirSync(OUT)) if (asked.length === 0 || SHOTS.every((s) => `${s.name}.png` !== old)) rmSync(join(OUT, old));
    for (const shot of SHOTS.filter((s) => asked.length === 0 || asked.includes(s.name)))
      await step(shot.name, () => take(browser, url, shot));
  });
}

main().catch(fail);
