import type { Page } from '@playwright/test';
import { alerts, answer, choose, expect, newJob, openJob, test } from './app';

test.use({ shop: 'edges' });

/** A figure typed into a field of a stop, and left. */
async function put(page: Page, label: string, text: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(text);
  await field.blur();
}

test('a restricted turbo is held from an rpm on: the part is named, and the ranking goes on behind it', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Class car', 'four, 1.8 L turbo')}/air`);
  await expect(answer(page)).toHaveText(/^The stock 58 mm/);
  await page.getByRole('button', { name: 'Add a part' }).click();
  await choose(page, 'Restrictor of a class');
  await put(page, 'Throat', '26');
  await expect(alerts(page).filter({ hasText: /chokes from [\d,]+ rpm: the restrictor passes no more/ })).toBeVisible();
  await expect(answer(page)).toHaveText(/^The restrictor holds this engine from [\d,]+ rpm; the stock 58 mm is enough behind it\.$/);
  await page.getByRole('link', { name: /Car/ }).first().click();
  await expect(answer(page)).toHaveText(/held there by the restrictor, which chokes from [\d,]+ rpm\.$/);
  await page.getByRole('link', { name: /Pick/ }).first().click();
  await expect(page.getByText(/chokes from [\d,]+/).first()).toBeVisible();
  await expect(page.locator('[data-word="chokes"]')).toHaveCount(0);
});

test('two cylinders on one throttle: the air comes in gulps, and the answer says at least this', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'A twin', 'small four, 1.4 L')}/car`);
  await put(page, 'Displacement', '0.8');
  await put(page, 'Cylinders', '2');
  await expect(page.getByText('at least 1.55 × the steady loss')).toBeVisible();
  await page.getByRole('link', { name: /Air/ }).first().click();
  await expect(
    page.getByText(/Few cylinders on one throttle: the air comes in gulps, and the throttle costs at least this\./),
  ).toBeVisible();
});

test('the stock throttle’s bench figure is two fields away on Air, and moves the answer', async ({ quietPage: page }) => {
  await openJob(page, 'Larkspur estate', 'air');
  const before = await answer(page).innerText();
  await page.getByRole('button', { name: /^stock 58 mm.*: edit$/ }).click();
  await expect(page.getByLabel('Bench the stock throttle was read on')).toBeVisible();
  await put(page, 'Stock flowed', '250 cfm');
  await page.getByRole('button', { name: 'Use this figure' }).click();
  await expect(page.getByText(/^Flowed/)).toBeVisible();
  await expect(answer(page)).not.toHaveText(before);
  await page.getByRole('button', { name: 'use its shape again' }).click();
  await expect(answer(page)).toHaveText(before);
});

test('an assumed figure on which the answer hangs is said, with what it would be', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Nothing measured', 'straight six, 2.9 L')}/pick`);
  await expect(
    page.getByText(/The answer hangs on the .+: it is assumed .+; at .+ (it would be|nothing would lead).*Measure it\./),
  ).toBeVisible({
    timeout: 20_000,
  });
});

test('a pulley past the blower’s limit is said where it is chosen', async ({ quietPage: page }) => {
  await openJob(page, 'Heron coupé', 'pick');
  await put(page, 'Blower pulley', '60');
  await expect(alerts(page).filter({ hasText: /The blower passes its [\d,]+ rpm limit from [\d,]+ rpm of the engine/ })).toBeVisible();
  await page.getByLabel('Blower pulley', { exact: true }).fill('');
});

test('the US pack speaks of air in cubic feet a minute over all stops, and of bores in millimetres', async ({ quietPage: page }) => {
  await openJob(page, 'Larkspur estate', 'car');
  await page.getByRole('radiogroup', { name: 'Units' }).getByText('US', { exact: true }).click();
  await expect(answer(page)).toHaveText(/need up to \d+ cfm \(\d+\.\d lb\/min\) of air and make .*hp\.$/);
  for (const stop of ['air', 'pick', 'fit', 'install', 'test', 'verdict']) {
    await openJob(page, 'Larkspur estate', stop);
    await expect(answer(page)).not.toHaveText(/…$/);
    const words = await page.locator('main').innerText();
    expect(words, stop).not.toMatch(/\d (kg\/m³|kPa|kg\/h|N·m|K)\b/);
    if (stop === 'air') {
      expect(words).toMatch(/\d+ cfm \(\d+\.\d lb\/min\)/);
      expect(words).toMatch(/58 mm/);
    }
  }
  await page.getByRole('radiogroup', { name: 'Units' }).getByText('metric', { exact: false }).first().click();
});
