import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { utils, write } from '@e965/xlsx';
import { answer, choices, expect, newJob, test } from './app';

test.use({ shop: 'reading' });

const file = (name: string, text: string | Buffer, mimeType = 'text/csv') => ({ name, mimeType, buffer: Buffer.from(text) });
const take = (page: Page, files: ReturnType<typeof file>[]): Promise<void> => page.getByTestId('files').setInputFiles(files);

/** A pull on paper; `unit` of its power stands in the header, or does not. */
const pull = (scale: number, header = 'Power (kW)', clock = ''): string =>
  [
    ...(clock === '' ? [] : ['Date: 2026-05-02', `Time: ${clock}`, '']),
    `RPM,${header}`,
    ...Array.from({ length: 90 }, (_, i) => `${2000 + 48 * i},${((40 + 1.1 * i) * scale).toFixed(3)}`),
    '',
  ].join('\n');

test('six files at once stand in the order they were driven, whatever order they came in', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Order')}/test`);
  const clocks = ['10:00', '10:10', '10:20', '10:30', '10:40', '10:50'];
  const shuffled = [4, 1, 5, 0, 3, 2];
  await take(
    page,
    shuffled.map((k) => file(`pull ${'fbdace'[k]}.csv`, pull(1 + 0.001 * k, 'Power (kW)', clocks[k]))),
  );
  await expect(page.getByLabel(/^Details of/)).toHaveCount(6);
  await expect(page.getByText('Order: times in the files.')).toBeVisible();
  const names = await page.getByLabel(/^Details of/).evaluateAll((all) => all.map((e) => e.getAttribute('aria-label')));
  expect(names).toEqual(['f', 'b', 'd', 'a', 'c', 'e'].map((k) => `Details of pull ${k}`));
});

test('files that say nothing of their order are a guess until they are arranged by keys', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Arranged')}/test`);
  await take(page, [file('alpha.csv', pull(1)), file('beta.csv', pull(1.01)), file('gamma.csv', pull(1.02))]);
  await expect(page.getByLabel(/^Details of/)).toHaveCount(3);
  await expect(page.getByText(/Order: as they came in, which is a guess/)).toBeVisible();
  const grip = page.getByLabel('Move gamma in the order of runs');
  await grip.focus();
  await grip.press('Space');
  await page.waitForTimeout(250);
  await grip.press('ArrowUp');
  await page.waitForTimeout(250);
  await grip.press('ArrowUp');
  await page.waitForTimeout(250);
  await grip.press('Space');
  await expect(page.getByText('Order: as arranged by hand.')).toBeVisible();
  await page.reload();
  await expect(page.getByText('Order: as arranged by hand.')).toBeVisible();
  await expect(page.getByLabel(/^Details of/).first()).toHaveAttribute('aria-label', 'Details of gamma');
});

test('a power in no known unit is asked for once, and remembered for the next file', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Asked')}/test`);
  await take(page, [file('stock one.csv', pull(1, 'Power')), file('stock two.csv', pull(1.002, 'Power'))]);
  await expect(answer(page)).toHaveText('2 runs wait for an answer: in which unit is it measured?');
  await choices(page, 'Unit of Power in stock one', 'hp');
  // The other file asked the same: one answer is enough.
  await expect(page.getByText(/In which unit is/)).toHaveCount(0);
  await expect(answer(page)).toHaveText('The new side is missing.');
  await take(page, [file('stock three.csv', pull(1.003, 'Power'))]);
  await expect(page.getByLabel(/^Details of/)).toHaveCount(3);
  await expect(page.getByText(/In which unit is/)).toHaveCount(0);
});

test('a workbook with two sheets asks which, and takes both as runs', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Sheets')}/test`);
  const book = utils.book_new();
  const grid = (k: number) => [['RPM', 'Power (kW)'], ...Array.from({ length: 60 }, (_, i) => [2000 + 70 * i, (50 + i) * k])];
  utils.book_append_sheet(book, utils.aoa_to_sheet(grid(1)), 'Morning');
  utils.book_append_sheet(book, utils.aoa_to_sheet(grid(1.02)), 'Evening');
  utils.book_append_sheet(book, utils.aoa_to_sheet([['made up']]), 'Notes');
  const bytes = write(book, { type: 'buffer', bookType: 'xlsx' }) as Buffer;
  await take(page, [file('day.xlsx', bytes, 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet')]);
  await expect(page.getByText(/several tables: “Morning”, “Evening”/)).toBeVisible();
  await page.getByRole('checkbox', { name: /Morning/ }).check();
  await page.getByRole('checkbox', { name: /Evening/ }).check();
  await page.getByRole('button', { name: 'Take these 2' }).click();
  await expect(page.getByLabel('Details of day, Morning')).toBeVisible();
  await expect(page.getByLabel('Details of day, Evening')).toBeVisible();
});

test('the same file for another side says where it is and can be moved', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Moved')}/test`);
  await take(page, [file('stock a.csv', pull(1))]);
  await expect(page.getByLabel('Details of stock a')).toBeVisible();
  await take(page, [file('fenwick 66.csv', pull(1))]);
  await expect(page.getByText('This very file is already here, as “stock a”.')).toBeVisible();
  await page.getByRole('button', { name: 'Move to Fenwick 66' }).click();
  await expect(answer(page)).toHaveText('The stock side is missing.');
});

test('a curve read off a picture is compared with a file, its reading error with it', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Picture')}/test`);
  await page.getByRole('button', { name: 'From a picture' }).click();
  await page.locator('.ant-modal input[type=file]').setInputFiles(join('samples', 'sheet-scanned.png'));
  const sheet = page.getByTestId('sheet');
  await expect(sheet).toBeVisible();
  // The dialog grows as it opens: a mark put on it meanwhile is off by what it still grows.
  await expect(page.locator('.ant-modal[class*="ant-zoom"]')).toHaveCount(0);
  // The sheet's frame, in shares of its width and height.
  const at = (rpm: number, value: number) => ({ x: 0.11 + ((rpm - 1500) / 5500) * 0.82, y: 0.87 - (value / 350) * 0.78 });
  const click = async ({ x, y }: { x: number; y: number }): Promise<void> => {
    const box = (await sheet.boundingBox())!;
    await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
  };
  for (const [rpm, value] of [
    [2000, 0],
    [7000, 0],
    [1500, 0],
    [1500, 350],
  ] as const)
    await click(at(rpm, value));
  for (const [name, value] of [
    ['x1', '2000'],
    ['x2', '7000'],
    ['y1', '0'],
    ['y2', '350'],
  ] as const)
    await page.getByLabel(`Value of ${name}`).fill(value);
  await page.getByLabel('Value of y2').blur();
  await click({ x: 0.4827, y: 0.5834 });
  await expect(page.getByText(/^Read from 1,[45]\d\d to 7,0\d\d rpm, up to 190\.\d/)).toBeVisible();
  for (const [label, choice] of [
    ['Unit of the curve', 'kW'],
    ['Where it was measured', 'wheels'],
    ['Correction of the curve', 'SAE J1349'],
  ] as const) {
    await choices(page, label, choice);
  }
  await page.getByRole('button', { name: 'Take it as a run' }).click();
  await expect(page.getByLabel('Details of sheet-scanned, power')).toBeVisible();
  await expect(page.getByText(/from a picture, ±\s0\.\d\s%/)).toBeVisible();
  await choices(page, 'Side of sheet-scanned, power', 'stock');
  await take(page, [file('fenwick 66.csv', pull(1.2, 'Wheel power (kW)'))]);
  await expect(answer(page)).toHaveText(/^(Can’t tell yet|Not a fair comparison|Gain|Loss)/);
});

test('a table of slips with two cars asks for the own one, once', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Slips')}/test?view=strip`);
  await page.getByRole('button', { name: 'New day' }).click();
  await page.getByLabel('Name of the track').fill('Made-up strip');
  await page.getByLabel('Name of the track').press('Enter');
  await page.getByRole('button', { name: 'From a table' }).first().click();
  const table =
    'Car,Dial,Lane,R/T,60 ft,330,1/8,MPH,1000,1/4,MPH\n' +
    '114,13.50,L,.512,1.985,5.602,8.611,82.35,11.221,13.422,103.31\n' +
    '207,12.90,R,.402,1.802,5.211,8.102,88.10,10.611,12.811,108.90\n' +
    '114,13.45,R,-.021,1.992,5.610,8.620,82.20,11.240,13.440,103.10\n';
  await page.getByRole('textbox', { name: 'Passes from a table' }).fill(table);
  await expect(page.getByText(/2 cars are in this table/)).toBeVisible();
  await page.getByRole('radiogroup', { name: 'The own car' }).getByText('114', { exact: true }).click();
  await page.getByRole('button', { name: 'Import 2 passes' }).click();
  await expect(page.getByText('13.422').first()).toBeVisible();
  await expect(page.getByText('12.811')).toHaveCount(0);
});

test('thousands and decimals are read as people write them here and there', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Habits')}/car`);
  const redline = page.getByLabel('Redline', { exact: true });
  for (const text of ['6,800', '6.800', '6 800', '6800']) {
    await redline.fill(text);
    await redline.blur();
    await expect(redline).toHaveValue('6800');
  }
  const bore = page.getByLabel('Bore', { exact: true });
  await bore.fill('2,350 in');
  await bore.blur();
  await expect(bore).toHaveValue('59.69');
  // A figure of another unit's size is taken as typed and the unit it fits is offered.
  await bore.fill('2.35');
  await page.getByRole('button', { name: '2.35 in' }).click();
  await expect(bore).toHaveValue(/^(2\.35 in|59\.69)$/);
});

test('the oddest job goes out as an archive and comes in whole', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Odd 漢字 Š')}/test`);
  await take(page, [
    file('multi "line".csv', readFileSync(join('verification', 'corpus', '72_multiline_header.csv'))),
    file('=cmd.csv', pull(1, '"=Power, ""odd"" (kW)"')),
    file('two clocks.csv', readFileSync(join('verification', 'corpus', '50b_two_time_columns.csv'))),
  ]);
  await expect(page.getByLabel(/^Details of/)).toHaveCount(3);
  const id = /jobs\/([0-9a-f-]{36})/.exec(page.url())![1]!;
  const archive = await page.request.get(`/api/jobs/${id}/package`);
  expect(archive.status()).toBe(200);
  const sent = await page.request.post('/api/packages', { data: await archive.body(), headers: { 'content-type': 'application/zip' } });
  expect(sent.status()).toBe(202);
  const asked = async () =>
    (await (await page.request.get(sent.headers()['location']!)).json()) as { state: string; result: { id: string } };
  await expect.poll(async () => (await asked()).state).toBe('done');
  const { result } = await asked();
  expect(result).toMatchObject({ name: 'Odd 漢字 Š', runs: 3 });
  const again = await page.request.get(`/api/v1/jobs/${result.id}/runs`);
  const names = ((await again.json()) as { items: { fileName: string }[] }).items.map((r) => r.fileName);
  expect(names.sort()).toEqual(['=cmd.csv', 'multi "line".csv', 'two clocks.csv']);
});
