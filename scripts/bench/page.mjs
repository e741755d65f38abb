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

/** Frames a second that the page showed while `work` ran. */
export async function framesPerSecond(page, work) {
  await page.evaluate(() => {
    window.benchFrames = 0;
    window.benchFrom = performance.now();
    const tick = () => {
      window.benchFrames += 1;
      window.benchFrame = requestAnimationFrame(tick);
    };
    window.benchFrame = requestAnimationFrame(tick);
  });
  await work();
  return page.evaluate(() => {
    cancelAnimationFrame(window.benchFrame);
    return (1000 * window.benchFrames) / (performance.now() - window.benchFrom);
  });
}

const DRAG_MS = 2500;

/** Presses the middle of a handle and drags it to and fro over `reach` pixels, a move every few milliseconds. */
async function dragToAndFro(page, handle, reach) {
  const box = await handle.boundingBox();
  const x = box.x + box.width / 2;
  const y = box.y + box.height / 2;
  await page.mouse.move(x, y);
  await page.mouse.down();
  const from = Date.now();
  while (Date.now() - from < DRAG_MS) {
    const phase = ((Date.now() - from) / DRAG_MS) * 4 * Math.PI;
    await page.mouse.move(x - reach * Math.sin(phase), y);
  }
  await page.mouse.up();
}

/** Kilobytes of script, compressed as they were sent, that a page loads before anyone touches it; the chart's own apart. */
async function firstLoad(browser, url, path) {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto(url + path);
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.waitForLoadState('networkidle');
  const scripts = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .filter((r) => new URL(r.name).pathname.endsWith('.js'))
      .map((r) => ({ name: r.name, bytes: r.encodedBodySize })),
  );
  let chart = 0;
  let rest = 0;
  for (const s of scripts) {
    // The chart library is far the largest file, and says what it is.
    const isChart = s.bytes > 200_000 && (await (await fetch(s.name)).text()).includes('plotly');
    if (isChart) chart += s.bytes;
    else rest += s.bytes;
  }
  await context.close();
  return { rest: rest / 1024, chart: chart / 1024 };
}

async function openJob(page, url, stop, name = 'Larkspur estate') {
  await page.goto(url);
  const href = await page
    .getByRole('link', { name: new RegExp(name) })
    .first()
    .getAttribute('href');
  await page.goto(url + href.replace(/[a-z]+$/, stop));
  await page.locator('.js-plotly-plot').first().waitFor();
  await page.waitForTimeout(500);
}

/** A unit that goes on any way is turned on its manifold: a move's drawing must stand in the next frame. */
async function clocking(page, url, say, atLeast) {
  await page.goto(url);
  const id = /jobs\/([^/]+)/.exec(
    await page
      .getByRole('link', { name: /Larkspur estate/ })
      .first()
      .getAttribute('href'),
  )[1];
  const origin = { headers: { origin: url } };
  const copy = await (await page.request.post(`${url}/api/jobs`, { data: { duplicateOf: id }, ...origin })).json();
  const units = await (await page.request.get(`${url}/api/units`)).json();
  const chosen = units.find((u) => u.doc.flange?.clocking === 'free').id;
  const doc = { ...copy.doc, name: 'Turning', pick: { ...copy.doc.pick, chosen } };
  await page.request.put(`${url}/api/jobs/${copy.id}`, { data: { version: copy.version, doc }, ...origin });
  await page.goto(`${url}/jobs/${copy.id}/fit`);
  const drawing = page.getByRole('img', { name: /bore .*manifold bore/ });
  await drawing.waitFor();
  await page.waitForTimeout(500);
  const box = await drawing.boundingBox();
  const k = box.width / 760;
  const at = (angle) => [box.x + (300 + 150 * Math.cos(angle)) * k, box.y + (238 - 150 * Math.sin(angle)) * k];
  await page.evaluate(() => {
    window.benchTimes = [];
    document.addEventListener('pointermove', () => {
      const from = performance.now();
      requestAnimationFrame(() => window.benchTimes.push(performance.now() - from));
    });
  });
  const frames = await framesPerSecond(page, async () => {
    await page.mouse.move(...at(0.1));
    await page.mouse.down();
    const from = Date.now();
    while (Date.now() - from < DRAG_MS) await page.mouse.move(...at(0.1 + 1.2 * Math.sin(((Date.now() - from) / DRAG_MS) * 2 * Math.PI)));
    await page.mouse.up();
  });
  const times = await page.evaluate(() => window.benchTimes.sort((a, b) => a - b));
  atLeast('Fit: frames a second while the unit is turned', frames, FRAMES);
  say('Fit: from a move to the frame that shows it, 9 of 10', times[Math.floor(times.length * 0.9)], 'ms', 17);
}

const LONGEST = 'Pipit hatch';
const FRAMES = 50;

/** Measures of the built app in the browser. `say(name, value, unit, limit)` prints one, `atLeast` one that must not be lower. */
export async function measurePages(browser, url, say, atLeast) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await openJob(page, url, 'air');
  await page.getByRole('button', { name: /^stock .*: edit$/ }).click();
  const bores = Array.from({ length: 30 }, (_, i) => (56 + (i % 10) * 0.7).toFixed(1));
  say('Air: keystroke to new answer on screen, median', await keystrokes(page, page.getByLabel('Stock bore'), [...bores, '58']), 'ms', 34);

  // Of the demo's cars the one with the turbo has the longest path.
  await openJob(page, url, 'air', LONGEST);
  const scrubber = page.getByRole('slider', { name: 'Engine speed looked at' });
  atLeast(
    'Air: frames a second while the rpm scrubber is dragged',
    await framesPerSecond(page, () => dragToAndFro(page, scrubber, 160)),
    FRAMES,
  );
  await openJob(page, url, 'pick', LONGEST);
  await page.getByText(/^ranges: 8 of 10/).waitFor({ timeout: 60_000 });
  const slider = page.getByRole('slider', { name: 'Bore tried' });
  atLeast(
    'Pick: frames a second while the bore slider is dragged',
    await framesPerSecond(page, () => dragToAndFro(page, slider, 120)),
    FRAMES,
  );

  // Four units on show; a changed opening then draws their ranges anew, once half a second of quiet is over.
  const others = page.getByRole('button', { name: /more cannot go on this car$/ });
  if (await others.isVisible()) await others.click();
  for (const box of await page.getByRole('checkbox', { name: /^Show / }).all())
    if (!(await box.isChecked()) && (await box.isEnabled())) await box.check();
  await page.getByText('4 of 4 on show').waitFor();
  await page.getByRole('progressbar', { name: 'Ranges being drawn' }).waitFor();
  await page.getByText(/^ranges: 8 of 10/).waitFor({ timeout: 60_000 });
  await page.getByText('manifold as is', { exact: true }).click();
  await page.getByRole('progressbar', { name: 'Ranges being drawn' }).waitFor();
  const began = Date.now();
  const frames = await framesPerSecond(page, () => page.getByText(/^ranges: 8 of 10/).waitFor({ timeout: 60_000 }));
  say('Pick: ranges of four units drawn in the worker', (Date.now() - began) / 1000, 's', 2.5);
  atLeast('Pick: frames a second meanwhile', frames, FRAMES);

  await clocking(page, url, say, atLeast);

  const href = new URL(page.url()).pathname.replace(/[a-z]+$/, '');
  for (const path of [
    '/',
    '/shelf',
    '/bench',
    '/sums',
    '/start',
    '/practice',
    '/thinking',
    '/settings',
    '/trash',
    `${href}car`,
    `${href}air`,
    `${href}air?look=waves`,
    `${href}pick`,
    `${href}fit`,
    `${href}install`,
    `${href}test`,
    `${href}test?view=plan`,
    `${href}test?view=log`,
    `${href}test?view=strip`,
    `${href}verdict`,
  ]) {
    const { rest, chart } = await firstLoad(browser, url, path);
    const name = path.startsWith(href) ? path.slice(href.length) : path;
    say(`first load of ${name}: scripts without the chart${chart > 0 ? ` (chart ${chart.toFixed(0)} kB more)` : ''}`, rest, 'kB', 420);
  }

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
