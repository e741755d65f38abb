import { readFileSync } from 'node:fs';
import { alerts, answer, expect, listening, newJob, openJob, saved, test } from './app';

test.use({ shop: 'rooms' });

test.describe('Shelf', () => {
  test('a throttle is made, changed, compared and still there after a reload', async ({ quietPage: page }) => {
    await page.goto('/shelf');
    await expect(answer(page)).toHaveText(/^\d+ throttle bodies on the shelf, \d+ of them measured on a bench\.$/);
    await page.getByRole('button', { name: 'New throttle' }).click();
    await expect(page.getByLabel('Name', { exact: true })).toHaveValue('New throttle 1');
    await page.getByLabel('Name', { exact: true }).fill('Marsh 63');
    await page.getByLabel('Bore', { exact: true }).fill('2.5 in');
    await page.getByLabel('Price', { exact: true }).fill('210');
    await expect(page.getByText('saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect(page.getByLabel('Bore', { exact: true })).toHaveValue('63.5');
    for (const name of ['Marsh 63', 'Fenwick 66']) await page.getByRole('checkbox', { name: `Compare ${name}` }).check();
    await expect(page.getByRole('heading', { name: 'Side by side' })).toBeVisible();
    await expect(page).toHaveURL(/compare=/);
    await page.reload();
    await expect(page.getByRole('heading', { name: 'Side by side' })).toBeVisible();
  });

  test('a file with bad rows brings the good ones only once they were seen, and goes out again as it came', async ({ quietPage: page }) => {
    await page.goto('/shelf');
    await page.getByRole('button', { name: 'From a file' }).click();
    await page.getByLabel('Shelf file').setInputFiles({
      name: 'shelf.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('name,bore (in),shaft (mm),controls,price\nFen 60,2.362,8,cable,120\nNo bore,,8,cable,1\nOdd,60,8,string,1\n'),
    });
    await expect(page.getByText('Not imported: 2')).toBeVisible();
    await expect(page.getByText(/controls: It has to be one of/)).toBeVisible();
    await page.getByRole('button', { name: 'Put 1 on the shelf, leave 2 out' }).click();
    await expect(page.getByRole('button', { name: 'Fen 60', exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Export as a file' }).click();
    const download = page.waitForEvent('download');
    await page.getByText('CSV, a row a throttle').click();
    const csv = readFileSync((await (await download).path())!, 'utf8');
    expect(csv).toMatch(/^name,shape,bores,bore \(mm\)/);
    expect(csv).toMatch(/\nFen 60,single,1,59\.9948,/);
  });

  test('a picture is taken in, anything else refused', async ({ page }) => {
    await page.goto('/shelf');
    const dot = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
    const choose = page.locator('input[type=file]').last();
    await choose.setInputFiles({ name: 'unit.png', mimeType: 'image/png', buffer: Buffer.from('<svg onload="alert(1)"/>') });
    await expect(page.getByText('That is no PNG, JPEG or WebP picture of up to 12 MB.')).toBeVisible();
    await choose.setInputFiles({ name: 'unit.png', mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') });
    await expect(page.getByRole('img', { name: 'Hollin 62' })).toBeVisible();
    await page.getByRole('button', { name: 'remove it' }).click();
    await expect(page.getByText('no picture yet')).toBeVisible();
  });
});

test.describe('Bench', () => {
  test('a guess first, then the stand-in settles, and the record takes its place in the ranking', async ({ quietPage: page }) => {
    test.slow();
    await page.goto('/bench');
    await expect(answer(page)).toHaveText(/^\d+ flow records;/);
    await page.getByLabel('It will read').fill('980');
    await page.getByRole('button', { name: 'Write it down' }).click();
    await expect(page.getByText(/said 980 m³\/h, the model [\d,]+ m³\/h\./)).toBeVisible();
    await page.getByText('practice bench (simulated)').click();
    await page.getByRole('button', { name: 'Start the bench' }).click();
    await expect(page.getByText('settled', { exact: true })).toBeVisible({ timeout: 20_000 });
    await page.getByRole('button', { name: 'Take the reading' }).click();
    await expect(page.getByLabel('It read')).not.toHaveValue('');
    await page.getByRole('button', { name: 'Keep this record' }).click();
    await expect(page.getByText('Kept.')).toBeVisible();
    await page.reload();
    await expect(page.getByRole('row', { name: /Hollin 62 at 28/ }).first()).toBeVisible();
  });

  test('the chain of a car’s intake is drawn with any unit in it', async ({ quietPage: page }) => {
    await page.goto('/bench');
    await expect(page.getByText(/Everything ahead of the throttle passes more than it does/)).toBeVisible();
  });
});

test.describe('Sums', () => {
  test('an address holds the sum and its figures', async ({ quietPage: page }) => {
    await page.goto('/sums?sum=pulley&lim=12000');
    await expect(answer(page)).toHaveText(/beyond its limit\.$/);
    await page.getByLabel('Upper pulley').fill('110');
    await expect(answer(page)).toHaveText(/within its limit\.$/);
    await expect(page).toHaveURL(/db=0\.11/);
    await page.reload();
    await expect(answer(page)).toHaveText(/within its limit\.$/);
    await expect(page.getByRole('heading', { name: 'Ratio of the drive' })).toBeVisible();
  });

  test('every sum opens from the list with an answer and no complaint', async ({ quietPage: page }) => {
    await page.goto('/sums');
    const list = page.getByRole('navigation', { name: 'Sums' });
    await expect(list.getByRole('link').first()).toBeVisible();
    for (const link of await list.getByRole('link').all()) {
      await link.click();
      await expect(link).toHaveAttribute('aria-current', 'page');
      await expect(answer(page)).toHaveText(/[.?]$/);
    }
    await page.getByLabel('Figure with its unit').fill('14.7 psi');
    await expect(answer(page)).toHaveText(/^14\.7 psi is/);
    await expect(page).toHaveURL(/q=14\.7/);
  });

  test('a figure that cannot be is refused in place', async ({ page }) => {
    await page.goto('/sums?sum=bore-flow');
    await page.getByLabel('Bore', { exact: true }).fill('9000');
    await expect(alerts(page)).toHaveText(/between 12\.0 mm and 250\.0 mm/);
    await expect(page.getByLabel('Bore', { exact: true })).toHaveValue('9000');
  });
});

test.describe('every kind of engine', () => {
  for (const [name, air, pick] of [
    ['Heron coupé', /The stock 74 mm runs short from 5,7\d0 rpm/, /^Ridley 82 is worth buying: \+1\.\d %/],
    ['Pipit hatch', /is enough to redline/, /^Leave it alone: the best on the shelf/],
    ['Curlew roadster', /The stock 40 mm runs short from 6,4\d0 rpm/, /^Linnet six 45 is worth testing/],
  ] as const) {
    test(`${name} has its answers`, async ({ quietPage: page }) => {
      await openJob(page, name, 'air');
      await expect(answer(page)).toHaveText(air);
      await page.keyboard.press('3');
      await expect(answer(page)).toHaveText(pick);
      // The ranges are drawn in the background and arrive by themselves.
      await expect(page.getByText('ranges: 8 of 10 of 2,000 simulated cases fall inside')).toBeVisible({ timeout: 30_000 });
    });
  }

  test('the way of breathing is picked from pictures, and a boost curve pasted becomes the reference', async ({ quietPage: page }) => {
    await page.goto(`${await newJob(page, 'Blown', 'V6, 3.3 L with a blower behind its throttle')}/car`);
    await expect(page.getByRole('radio', { name: /blower behind it/ })).toBeChecked();
    await page.getByRole('button', { name: 'Paste boost' }).click();
    await page.getByLabel('Table', { exact: true }).fill('rpm,boost (psi)\n2000,5\n4000,7\n4000,7.2\n6500,8');
    await expect(alerts(page)).toHaveText(/4,000 rpm stands there already/);
    await page.getByRole('button', { name: 'Take it sorted, equal rpm averaged, empty rows left out' }).click();
    await expect(answer(page)).toHaveText(/at 5\d\.\d kPa of boost/);
    await page.getByRole('radio', { name: /turbo before it/ }).click();
    await expect(page.getByLabel('Crank pulley', { exact: true })).toHaveCount(0);
    await page.keyboard.press('Control+z');
    await expect(page.getByLabel('Crank pulley', { exact: true })).toBeVisible();
    await expect(saved(page)).toBeVisible();
  });
});

test('a part of the drawing is dragged to another place and undone', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Dragged')}/air`);
  const meter = page.getByRole('button', { name: /^MAF housing, .*: edit$/ });
  await meter.waitFor();
  const order = async (): Promise<string[]> =>
    (
      await page
        .getByRole('group', { name: /The intake drawn/ })
        .getByRole('button')
        .all()
    ).reduce<Promise<string[]>>(
      async (list, b) => [...(await list), (await b.getAttribute('aria-label'))!.split(',')[0]!],
      Promise.resolve([]),
    );
  const before = await order();
  const box = (await meter.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x - 120, box.y + box.height / 2, { steps: 6 });
  await page.mouse.move(box.x - 330, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect.poll(order).not.toEqual(before);
  expect((await order()).indexOf('MAF housing')).toBeLessThan(before.indexOf('MAF housing'));
  await page.keyboard.press('Control+z');
  await expect.poll(order).toEqual(before);
});

test('limits can become the shop’s, and new jobs start with them', async ({ page }) => {
  await page.goto(`${await newJob(page, 'Strict')}/air`);
  await page.getByRole('button', { name: 'all', exact: true }).click();
  await page.getByLabel('Allowed loss', { exact: true }).fill('1.1');
  await page.getByRole('button', { name: 'Make these the shop’s' }).click();
  const [kept] = await Promise.all([
    page.waitForResponse((r) => r.url().endsWith('/api/shop/defaults')),
    page.getByRole('dialog').getByRole('button', { name: 'Make them the shop’s' }).click(),
  ]);
  expect(kept.status(), await kept.text()).toBe(200);
  await expect(page.getByText('New jobs start with these limits.')).toBeVisible();
  await page.goto(`${await newJob(page, 'Next one')}/air`);
  await expect(page.getByLabel('Allowed loss', { exact: true })).toHaveValue('1.10');
  await page.request.put('/api/shop/defaults', { data: {} });
});

test('the first start stays locked over reloads, a second window and the API until every check is passed', async ({ page, context }) => {
  const job = await newJob(page, 'Locked');
  await page.goto(`${job}/install`);
  await page.getByLabel('At the car').fill('Maud');
  const start = (p: typeof page) => p.getByRole('button', { name: /^Done: First start/ });
  await expect(start(page)).toBeDisabled();
  const mark = (more: object): Record<string, unknown> => ({ id: crypto.randomUUID(), who: 'Maud', at_ms: Date.now(), ...more });
  const api = `/api${job}/sheet`;
  expect((await page.request.post(api, { data: mark({ type: 'done', step: 'start' }) })).status()).toBe(409);
  for (const cure of [
    /^Done: Parts carried over/,
    /^Done: Closed stop/,
    /^Done: Then the open stop/,
    /^Done: Coupler on square/,
    /^Done: Cover off/,
    /^Done: Connectors on/,
    /^Done: Start every thread/,
  ])
    await page.getByRole('button', { name: cure }).click();
  for (const check of await page.getByRole('button', { name: /^Passed: / }).all()) await check.click();
  await expect(answer(page)).toHaveText(/the first start may be made/);
  const second = listening(await context.newPage());
  await second.goto(`${job}/install`);
  await expect(start(second)).toBeEnabled();
  await second.getByRole('button', { name: /^Failed: Engine off: open/ }).click();
  await second.getByLabel('In a few words').fill('hangs at a third');
  await second.getByRole('button', { name: 'Write it down' }).click();
  await expect(start(second)).toBeDisabled();
  // The first window hears of it, and the server refuses whoever goes round it.
  await expect(start(page)).toBeDisabled({ timeout: 2500 });
  expect((await page.request.post(api, { data: mark({ type: 'done', step: 'start' }) })).status()).toBe(409);
  await page.reload();
  await expect(start(page)).toBeDisabled();
  await expect(page.getByText('hangs at a third', { exact: true })).toBeVisible();
});
