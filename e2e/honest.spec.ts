import type { Page } from '@playwright/test';
import { answer, choices, copyOf, expect, newJob, openJob, test } from './app';

test.use({ shop: 'honest' });

/** A made-up pull of an engine, its power so many times as large. */
function pull(scale: number, day: string, time: string): string {
  const head = [`# Date: ${day}`, `# Time: ${time}`, '# Measured at: wheels', '# Correction: none', '# Barometer: 1003.2 hPa'];
  const air = ['# Air temperature: 18.0 C', '# Humidity: 45 %', 'Engine speed (rpm),Power (kW)'];
  const rows = Array.from({ length: 180 }, (_, i) => {
    const rpm = 2000 + 25 * i;
    const wave = 1 + 0.0008 * Math.sin(i * scale * 40);
    return `${rpm},${((rpm / 50) * scale * wave).toFixed(3)}`;
  });
  return [...head, ...air, ...rows, ''].join('\n');
}

const files = (list: readonly { name: string; text: string }[]) =>
  list.map(({ name, text }) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) }));

/** Runs of a job by their files: side, day, time, and how strong. */
async function takeIn(page: Page, runs: readonly (readonly [side: string, day: string, time: string, scale: number])[]): Promise<void> {
  await page
    .getByTestId('files')
    .setInputFiles(
      files(runs.map(([side, day, time, scale], i) => ({ name: `${side} ${i + 1}.csv`, text: pull(scale + 2e-5 * i, day, time) }))),
    );
  await expect(page.getByLabel(/^Details of/)).toHaveCount(runs.length, { timeout: 30_000 });
}

test('stock on one day and the new part on another cannot tell, and the day is named for it', async ({ quietPage: page }) => {
  await copyOf(page, 'Larkspur estate');
  const at = (h: number): string => `1${h}:00`;
  await takeIn(page, [
    ...[0, 1, 2, 3].map((i) => ['stock 58', '2026-04-18', at(i), 1 + 0.001 * (i % 2)] as const),
    ...[0, 1, 2, 3].map((i) => ['Fenwick 66', '2026-04-25', at(i), 1.02 + 0.001 * (i % 2)] as const),
  ]);
  await expect(answer(page)).toHaveText(/^Can’t tell yet: \+[12]\.\d % over the top third, −\d\.\d % to \+\d\.\d %\.$/);
  await expect(
    page.getByText(/The day, not the part, alone could make ±\d\.\d %, by an assumed size: run both parts on one day/),
  ).toBeVisible();
  await expect(page.getByText(/Cheapest that is as likely as not to tell: .* \d+ in 100/)).toBeVisible();
  await expect(page.getByRole('table', { name: 'What makes the interval wide' })).toContainText('the day');
});

test('the same part alternate every run on one day tells', async ({ quietPage: page }) => {
  await copyOf(page, 'Heron coupé');
  await takeIn(
    page,
    Array.from({ length: 12 }, (_, i) => {
      const part = i % 2 === 1;
      return [
        part ? 'Ridley 82' : 'stock 74',
        '2026-04-18',
        `${10 + Math.floor(i / 2)}:${i % 2 ? '30' : '00'}`,
        (part ? 1.02 : 1) + 0.001 * (i % 3),
      ] as const;
    }),
  );
  await expect(answer(page)).toHaveText(/^Gain: Ridley 82 made \+[12]\.\d % over the top third/);
  await expect(page.getByText(/from 6 stock and 6 new runs, 6 stays a side/)).toBeVisible();
});

/** Passes of a table: side, time of day, 60 ft, eighth, speed there, quarter, speed over the line. */
const slips = (rows: readonly string[]): string => ['time\tunit\t60 ft\t330 ft\t1/8\tmph\t1/4\tmph', ...rows].join('\n');

async function dayAtTheStrip(page: Page, name: string): Promise<void> {
  await page.goto(`${await newJob(page, name)}/test?view=strip`);
  await page.getByRole('button', { name: 'New day' }).click();
  await page.getByLabel('Name of the track').fill('Thornby');
  await page.getByRole('button', { name: 'Begin the day' }).click();
  await page.getByRole('button', { name: 'From a table' }).first().click();
  const dialog = page.getByRole('dialog');
  await dialog
    .getByRole('textbox')
    .first()
    .fill(
      slips([
        '22:10\tstock\t2.101\t5.912\t9.105\t78.10\t14.150\t98.20',
        '22:40\tstock\t2.112\t5.930\t9.128\t77.95\t14.182\t98.02',
        '23:10\tstock\t2.095\t5.905\t9.098\t78.20\t14.139\t98.31',
        '23:40\tstock\t2.104\t5.921\t9.640\t70.10\t17.905\t61.00',
        '00:15\tstock\t2.099\t5.915\t9.110\t78.15\t14.155\t98.24',
      ]),
    );
  await dialog.getByRole('button', { name: /^Import/ }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

test('past midnight a night goes on, and a figure with two digits changed about is asked about, on a phone too', async ({
  quietPage: page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await dayAtTheStrip(page, 'A long night');
  const rows = page.getByRole('row').filter({ hasText: /\d\d:\d\d/ });
  await expect(rows.first()).toContainText('22:10');
  await expect(rows.nth(4)).toContainText('00:15');
  await page.getByRole('button', { name: 'Type a slip' }).click();
  const type = async (digits: string): Promise<void> => {
    await page.getByRole('group', { name: 'The slip' }).focus();
    await page.keyboard.type(digits);
  };
  await page.getByRole('button', { name: /^60 ft/ }).click();
  await type('1202');
  await expect(page.getByText(/^60 ft: 1\.202\? The day’s passes run 2\.095 to 2\.112\./)).toBeVisible();
  await page.getByRole('button', { name: 'Two digits changed about: 2.102' }).click();
  await expect(page.getByRole('button', { name: '60 ft: 2.102' })).toBeVisible();
});

test('a pass that was broken off is marked where it stands, and counts for little', async ({ quietPage: page }) => {
  await openJob(page, 'Larkspur estate', 'test?view=strip');
  await expect(answer(page)).toHaveText(/Fenwick 66/);
  await page.getByRole('button', { name: 'From a table' }).first().click();
  const dialog = page.getByRole('dialog');
  await dialog
    .getByRole('textbox')
    .first()
    .fill(slips(['14:58\tFenwick 66\t2.101\t5.912\t9.340\t72.10\t15.950\t75.20']));
  await dialog.getByRole('button', { name: /^Import/ }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByText('stands apart').first()).toBeVisible();
});

test('practice at the strip goes to its score', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Practice night')}/test?view=practice`);
  await expect(answer(page)).toHaveText(/^Practise/);
  await page.waitForLoadState('networkidle');
  await page.locator('aside').getByText('strip', { exact: true }).click();
  await expect(page.getByRole('radio', { name: 'strip', exact: true })).toBeChecked();
  await page.getByRole('button', { name: 'Begin a session' }).click();
  const passes = page.getByRole('table', { name: 'Runs of the session' }).locator('tbody tr');
  for (const [i, side] of ['stock', 'the new part', 'stock', 'the new part'].entries()) {
    await page.locator('aside').getByText(side, { exact: true }).click();
    await page.getByRole('button', { name: 'Make a pass' }).click();
    await expect(passes).toHaveCount(i + 1);
  }
  await expect(answer(page)).toHaveText(/in trap speed/);
  await choices(page, 'Your decision', 'can’t tell');
  await page.getByRole('button', { name: 'That is my answer' }).click();
  await expect(answer(page)).toHaveText(/^You left it open/);
  await expect(page.getByText('your runs could carry')).toBeVisible();
});
