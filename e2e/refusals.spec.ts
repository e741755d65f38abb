import { closeSync, ftruncateSync, mkdtempSync, openSync, writeFileSync } from 'node:fs';
import { request as httpRequest } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { alerts, answer, expect, listening, newJob, saved, test } from './app';

test.use({ shop: 'refusals' });

const folder = mkdtempSync(join(tmpdir(), 'vanner-e2e-'));
const file = (name: string, content: string | Uint8Array): string => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

/** A log of about `megabytes`: a slow pull with eight channels. */
function bigLog(name: string, megabytes: number): string {
  const head = 'Time (s),RPM,Power (kW),Throttle (%),MAP (kPa),IAT (C),ECT (C),Lambda\n';
  const row = (i: number): string =>
    `${(i / 100).toFixed(2)},${(1500 + i * 0.02).toFixed(1)},${(30 + i * 0.0004).toFixed(3)},99.5,98.${i % 100},24.${i % 10},86.0,0.8${i % 10}\n`;
  const rows: string[] = [head];
  let size = head.length;
  for (let i = 0; size < megabytes * 1024 * 1024; i += 1) {
    const line = row(i);
    size += line.length;
    rows.push(line);
  }
  return file(name, rows.join(''));
}

test('letters, impossible geometry and reversed limits are refused in place and nothing typed is lost', async ({ page }) => {
  const job = await newJob(page, 'Refusals');
  await page.goto(`${job}/car`);
  const bore = page.getByLabel('Bore', { exact: true });
  await bore.fill('wide');
  await expect(alerts(page)).toHaveText(/"wide" is not a number/);
  await bore.fill('58');
  const shaft = page.getByLabel('Shaft', { exact: true });
  await shaft.fill('60');
  await expect(alerts(page)).toHaveText(/It may be at most 50\.0 mm\.|as thick as the bore/);
  await expect(shaft).toHaveValue('60');
  await shaft.fill('8');
  await expect(alerts(page)).toHaveCount(0);
  const lowest = page.getByLabel('Lowest rpm shown');
  await lowest.fill('7500');
  await expect(alerts(page)).toHaveText(/not above the lowest.*Swap them/);
  await page.getByLabel('Redline').fill('8200');
  await expect(alerts(page)).toHaveCount(0);
  await expect(saved(page)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Lowest rpm shown')).toHaveValue('7500');
});

test('a bore too small for the engine is explained, and can be put right where one is', async ({ page }) => {
  const job = await newJob(page, 'Chokes');
  await page.goto(`${job}/air`);
  await page.getByRole('button', { name: /^stock .*: edit$/ }).click();
  await page.getByLabel('Stock bore').fill('24');
  await expect(alerts(page).filter({ hasText: /^The intake as it is chokes from [\d,]+ rpm: the throttle passes no more/ })).toBeVisible();
  await page.getByLabel('Stock bore').fill('58');
  await expect(answer(page)).toHaveText(/The stock 58 mm/);
});

test('files that are no runs are refused with the reason', async ({ page }) => {
  const job = await newJob(page, 'Bad files');
  await page.goto(`${job}/test`);
  const drop = page.getByTestId('files');
  const expectRefusal = async (path: string, words: RegExp): Promise<void> => {
    await drop.setInputFiles(path);
    await expect(alerts(page).filter({ hasText: words })).toBeVisible();
    await page.getByRole('button', { name: 'Dismiss' }).click();
  };
  await expectRefusal(file('empty.csv', ''), /The file is empty/);
  await expectRefusal(file('letter.csv', 'Dear shop,\nall is well\n'), /No column of figures was found/);
  await expectRefusal(
    file('picture.csv', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13])),
    /a PNG picture, not a table/,
  );
  const huge = join(folder, 'huge.csv');
  const handle = openSync(huge, 'w');
  ftruncateSync(handle, 400 * 1024 * 1024);
  closeSync(handle);
  await expectRefusal(huge, /The file has 400 MB; up to 300 MB are taken/);
  await expect(answer(page)).toHaveText(/^No runs yet/);
});

test('the server refuses what is too large by itself too', async ({ app, page }) => {
  await newJob(page, 'x');
  const status = await new Promise<number>((resolve, reject) => {
    const req = httpRequest(`${app.url}/api/files`, { method: 'POST', headers: { 'content-length': String(400 * 1024 * 1024) } }, (res) =>
      resolve(res.statusCode!),
    );
    req.on('error', reject);
    req.write('x');
  });
  expect(status).toBe(413);
});

test('a 20 MB log comes in with progress while the page answers, and can be cancelled', async ({ page }) => {
  const job = await newJob(page, 'Big log');
  await page.goto(`${job}/test`);
  await expect(answer(page)).toBeVisible();
  await page.getByTestId('files').setInputFiles(bigLog('stock big.csv', 20));
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('progressbar')).toHaveCount(0);
  await page.reload();
  await expect(answer(page)).toHaveText(/^No runs yet/);
  await page.getByTestId('files').setInputFiles(bigLog('stock big.csv', 20));
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByText('search or run a command', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(answer(page)).toHaveText('The new side is missing.', { timeout: 45_000 });
  await expect(page.getByLabel(/^Details of stock big/).first()).toBeVisible({ timeout: 30_000 });
});

test('what is typed and chosen on a page that does not listen yet is taken as soon as it does', async ({ browser, app, page }) => {
  const job = await newJob(page, 'Slow scripts');
  const context = await browser.newContext({ baseURL: app.url, serviceWorkers: 'block' });
  const far = await context.newPage();
  // A phone at the far end of the yard: the page is there, its scripts come seconds later.
  let arrive = (): void => {};
  let arrived = Promise.resolve();
  await far.route('**/_next/static/**/*.js', async (route) => {
    await arrived;
    await route.continue().catch(() => {});
  });
  const before = async (stop: string, act: () => Promise<void>): Promise<void> => {
    arrived = new Promise((done) => (arrive = done));
    await far.goto(`${job}/${stop}`, { waitUntil: 'commit' });
    await act();
    await expect(far.locator('[data-listens]')).toHaveAttribute('data-listens', 'false');
    arrive();
  };
  await before('car', async () => {
    await far.getByLabel('Bore', { exact: true }).fill('71');
    await far.getByLabel('Goal').fill('more air');
  });
  const kept = async (): Promise<string> =>
    ((await (await page.request.get(`/api/v1${job}`)).json()) as { doc: { car: { goal: string } } }).doc.car.goal;
  await expect.poll(kept).toBe('more air');
  await before('car', async () => {});
  await expect(far.getByLabel('Bore', { exact: true })).toHaveValue('71.0');
  await expect(far.getByLabel('Goal')).toHaveValue('more air');
  await before('test', () => far.getByTestId('files').setInputFiles(file('early.csv', '')));
  await expect(alerts(far)).toHaveText(/The file is empty/);
  await context.close();
});

test('columns that were guessed wrongly are put right in the record', async ({ page }) => {
  const job = await newJob(page, 'Mapping');
  await page.goto(`${job}/test`);
  const rows = Array.from({ length: 80 }, (_, i) => `${2000 + i * 50};${(40 + i).toFixed(1).replace('.', ',')}`);
  await page.getByTestId('files').setInputFiles(file('stock odd.csv', `A;B\n${rows.join('\n')}\n`));
  await expect(alerts(page)).toHaveText('No column is mapped to engine speed yet.');
  await page.getByRole('button', { name: 'Details of stock odd' }).click();
  const choose = async (label: string, option: string): Promise<void> => {
    await page.getByLabel(label, { exact: true }).click();
    const open = page.locator('.ant-select-dropdown:visible');
    await open.getByTitle(option, { exact: true }).click();
    // The next list opens only once this one is gone: while it fades both would be there.
    await expect(open).toHaveCount(0);
  };
  await choose('A is', 'engine speed');
  await choose('B is', 'power');
  // Nobody has said in which unit: it is not taken for one.
  await expect(page.getByText(/In which unit is its power\?/).first()).toBeVisible();
  await choose('B in', 'kW');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(alerts(page)).toHaveCount(0);
  await expect(answer(page)).toHaveText('The new side is missing.');
  await page.getByRole('button', { name: 'Details of stock odd' }).click();
  await expect(page.getByRole('dialog')).toContainText('80 of the file’s 80 samples');
});

test('two people on one car: what does not touch stands side by side, what does is asked, and nothing is lost', async ({
  page,
  context,
}) => {
  const job = await newJob(page, 'Two people');
  const other = listening(await context.newPage());
  for (const p of [page, other]) {
    await p.goto(`${job}/car`);
  }
  await page.getByLabel('Idle').fill('800');
  await expect(saved(page)).toBeVisible();
  await other.getByLabel('Redline').fill('7100');
  await expect(other.getByText(/Changed elsewhere and taken in beside yours: .*Idle/i)).toBeVisible();
  await expect(other.getByLabel('Idle')).toHaveValue('800');
  await expect(saved(other)).toBeVisible();
  // The first window does not know of it yet, and has another redline.
  await page.getByLabel('Redline').fill('6900');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('saved elsewhere');
  await expect(dialog.getByRole('row', { name: /redline.*6,900.*7,100/i })).toBeVisible();
  await dialog.getByRole('button', { name: 'Keep mine' }).click();
  await expect(saved(page)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Redline')).toHaveValue('6900');
  await expect(page.getByLabel('Idle')).toHaveValue('800');
});

test('the database goes away in the middle of a save: the form keeps it and saves when it is back', async ({ page, app }) => {
  const job = await newJob(page, 'Cable pulled');
  await page.goto(`${job}/car`);
  await expect(page.locator('.js-plotly-plot')).toBeVisible();
  app.cable.pull();
  await page.getByLabel('Idle').fill('820');
  await expect(page.getByText('not saved: the server is away. Kept here, tried again.')).toBeVisible();
  await expect(page.getByLabel('Idle')).toHaveValue('820');
  await app.cable.plug();
  await expect(saved(page)).toBeVisible({ timeout: 20_000 });
  await page.reload();
  await expect(page.getByLabel('Idle')).toHaveValue('820');
});

test('the server killed in the middle of typing: a reload of the page brings the draft back', async ({ page, app }) => {
  const job = await newJob(page, 'Killed');
  await page.goto(`${job}/car`);
  await expect(page.locator('.js-plotly-plot')).toBeVisible();
  await app.stop('SIGKILL');
  await page.getByLabel('Idle').fill('840');
  await expect(page.getByText('not saved: the server is away')).toBeVisible();
  await app.start();
  page.on('dialog', (d) => void d.accept());
  await page.reload();
  await expect(page.getByLabel('Idle')).toHaveValue('840');
  await expect(saved(page)).toBeVisible({ timeout: 20_000 });
});

test('a cookie that another server of this machine wrote breaks no page, and a filter is remembered as it was', async ({ app }) => {
  const withCookie = async (cookie: string) => fetch(app.url, { headers: { cookie } });
  for (const cookie of ['vanner-zone=%25', 'vanner-zone=%', 'vanner-board=%25', 'vanner-person=%', 'vanner-units=%25'])
    expect((await withCookie(cookie)).status, cookie).toBe(200);
  expect(await (await withCookie(`vanner-board=${encodeURIComponent(new URLSearchParams({ q: 'V6+T' }).toString())}`)).text()).toContain(
    'value="V6+T"',
  );
});
