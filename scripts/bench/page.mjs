import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const MEGABYTE = 1024 * 1024;
/** A page that misses no more than this between two frames still feels as if it answers at once. */
const RESPONSIVE_MS = 200;

/** A made-up log of so many bytes: one slow pull, eight channels. */
function logOf(bytes) {
  const rows = ['Time (s),RPM,Power (kW),Throttle (%),MAP (kPa),IAT (C),ECT (C),Lambda\n'];
  let size = rows[0].length;
  for (let i = 0; size < bytes; i += 1) {
    const row = `${(i / 100).toFixed(2)},${(1500 + i * 0.02).toFixed(1)},${(30 + i * 0.0004).toFixed(3)},99.5,98.${i % 100},24.${i % 10},86.0,0.8${i % 10}\n`;
    rows.push(row);
    size += row.length;
  }
  return rows.join('');
}

/** Time from a keystroke's input event to the frame in which the new answer stands, for several edits; milliseconds. */
async function keystrokes(page, field, values) {
  await page.evaluate(() => {
    window.benchTimes = [];
    let from = 0;
    document.addEventListener('input', () => (from = performance.now()), true);
    const seen = new MutationObserver(() => {
      if (from === 0) return;
      const began = from;
      from = 0;
      requestAnimationFrame(() => window.benchTimes.push(performance.now() - began));
    });
    seen.observe(document.querySelector('h1').parentElement, { subtree: true, childList: true, characterData: true });
  });
  for (const value of values) {
    await field.fill(value);
    await page.waitForTimeout(250);
  }
  const times = await page.evaluate(() => window.benchTimes);
  times.sort((a, b) => a - b);
  return times[Math.floor(times.length / 2)];
}

/** Longest gap between two frames while `work` runs; milliseconds. */
async function longestGap(page, work) {
  await page.evaluate(() => {
    window.benchGap = 0;
    let last = performance.now();
    const tick = () => {
      const now = performance.now();
      window.benchGap = Math.max(window.benchGap, now - last);
      last = now;
      window.benchFrame = requestAnimationFrame(tick);
    };
    window.benchFrame = requestAnimationFrame(tick);
  });
  await work();
  return page.evaluate(() => {
    cancelAnimationFrame(window.benchFrame);
    return window.benchGap;
  });
}

async function openJob(page, url, stop) {
  await page.goto(url);
  const href = await page
    .getByRole('link', { name: /Larkspur estate/ })
    .first()
    .getAttribute('href');
  await page.goto(url + href.replace(/[a-z]+$/, stop));
  await page.locator('.js-plotly-plot').first().waitFor();
  await page.waitForTimeout(500);
}

/** Measures of the built app in the browser. `say(name, value, unit, limit)` prints one. */
export async function measurePages(browser, url, say) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await openJob(page, url, 'air');
  await page.getByRole('button', { name: /^stock .*: edit$/ }).click();
  const bores = Array.from({ length: 30 }, (_, i) => (56 + (i % 10) * 0.7).toFixed(1));
  say('Air: keystroke to new answer on screen, median', await keystrokes(page, page.getByLabel('Stock bore'), [...bores, '58']), 'ms', 34);

  await openJob(page, url, 'test');
  const folder = mkdtempSync(join(tmpdir(), 'vanner-bench-'));
  const path = join(folder, 'bench stock.csv');
  writeFileSync(path, logOf(20 * MEGABYTE));
  const from = performance.now();
  const gap = await longestGap(page, async () => {
    await page.getByTestId('files').setInputFiles(path);
    await page.getByLabel('Side of bench stock').waitFor({ timeout: 120_000 });
  });
  say('20 MB file: sent, read and stored', (performance.now() - from) / 1000, 's', 20);
  say('20 MB file: longest gap between two frames of the page meanwhile', gap, 'ms', RESPONSIVE_MS);
  rmSync(folder, { recursive: true, force: true });
  await page.close();
}
