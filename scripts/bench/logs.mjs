/** A long log in the built app: how long its import takes as a whole, its first trace after that, and how it pans. */

import { appendFileSync, createReadStream, statSync } from 'node:fs';

const PAN_MS = 3000;
const TURNS = 5;

/** A job with nothing in it; its id. */
async function emptyJob(page, url) {
  const answer = await page.request.post(`${url}/api/jobs`, {
    data: { name: 'Long log', preset: 'straight six, 2.9 L' },
    headers: { origin: url },
  });
  return (await answer.json()).id;
}

/** Sends a file through the page; how long until the job shows it, ms. Every time another file: a known one is not read again. */
async function imported(page, url, file, nth) {
  if (nth > 0) appendFileSync(file, `${await lastLine(file)}\n`);
  const id = await emptyJob(page, url);
  await page.goto(`${url}/jobs/${id}/test?view=log`);
  await page.getByText('No logs yet').first().waitFor();
  // A file set before the page is alive is not heard.
  await page.waitForLoadState('networkidle');
  // The page itself says when: the driver looks only twice a second, and half of that would be measured too.
  await page.evaluate(() => {
    window.benchShown = new Promise((done) => {
      const look = new MutationObserver(() => {
        if (!document.querySelector('[aria-label^="Details of"]')) return;
        look.disconnect();
        done(performance.timeOrigin + performance.now());
      });
      look.observe(document.body, { subtree: true, childList: true, attributes: true });
    });
  });
  const from = performance.timeOrigin + performance.now();
  await page.getByTestId('files').setInputFiles(file);
  return (await page.evaluate(() => window.benchShown)) - from;
}

async function lastLine(file) {
  const { size } = statSync(file);
  let text = '';
  for await (const piece of createReadStream(file, { start: size - 500 })) text += piece;
  return text.trimEnd().split('\n').at(-1);
}

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

/**
 * Imports the file through the page and looks at it. `parser` times what the parser library alone takes for the same file: the
 * two take turns, and what is told is the middle of their ratios, for a machine is not equally quick from minute to minute.
 */
export async function measureLogs(browser, url, file, parser, say, atLeast, framesPerSecond) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const ratios = [];
  let last = 0;
  for (let nth = 0; nth < TURNS; nth += 1) {
    const alone_ms = await parser();
    ratios.push((await imported(page, url, file, nth)) / alone_ms);
    last = performance.now();
  }
  say('Log, 1 M rows x 20: sent, kept, read and stored, against the parser library alone', median(ratios), 'times as long', 1.5);
  const canvas = page.getByTestId('traces');
  await canvas.waitFor({ timeout: 60_000 });
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  say('Log, 1 M rows: first trace on screen after the import', (performance.now() - last) / 1000, 's', 1.5);
  const boxes = page.locator('ul input[type=checkbox]');
  for (let i = 0; (await page.locator('ul input[type=checkbox]:checked').count()) < 5; i += 1)
    if (!(await boxes.nth(i).isChecked())) await boxes.nth(i).check();
  await page.waitForFunction(() => document.querySelector('[data-testid=traces]').clientHeight > 480, undefined, { timeout: 60_000 });
  await page.waitForTimeout(500);
  const box = await canvas.boundingBox();
  // Half of the log in view: every frame looks at half a million samples of each of five channels.
  await page.mouse.move(box.x + box.width / 3, box.y + 60);
  for (let i = 0; i < 3; i += 1) await page.mouse.wheel(0, -100);
  const frames = await framesPerSecond(page, async () => {
    await page.mouse.down();
    const began = Date.now();
    while (Date.now() - began < PAN_MS)
      await page.mouse.move(box.x + box.width / 3 + 200 * Math.sin(((Date.now() - began) / PAN_MS) * 4 * Math.PI), box.y + 60);
    await page.mouse.up();
  });
  atLeast('Log: frames a second while five traces of 1 M samples are panned', frames, 30);
  await page.close();
}
