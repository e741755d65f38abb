import type { Locator, Page } from '@playwright/test';
import { choose, expect, openJob, test } from './app';

test.use({ shop: 'reach' });

test('Back steps through the views of Test', async ({ quietPage: page }) => {
  await openJob(page, 'Larkspur estate', 'test');
  for (const view of ['Plan', 'Strip']) await page.getByLabel('Part of the test').getByText(view, { exact: true }).click();
  await expect(page).toHaveURL(/view=strip/);
  await page.goBack();
  await expect(page).toHaveURL(/view=plan/);
  await page.goBack();
  await expect(page).not.toHaveURL(/view=/);
});

test('the arrow keys go through the views of Test, and from steady air to waves, and keep their place', async ({ quietPage: page }) => {
  await openJob(page, 'Larkspur estate', 'test');
  const views = page.getByLabel('Part of the test');
  await views.getByRole('radio', { name: 'Dyno' }).focus();
  for (const view of ['log', 'strip', 'practice', 'plan']) {
    await page.keyboard.press('ArrowRight');
    await expect(page).toHaveURL(new RegExp(`view=${view}`));
    await expect(views.locator(':focus')).toHaveCount(1);
  }
  await openJob(page, 'Larkspur estate', 'air');
  const air = page.getByLabel('How the air is taken');
  await air.getByRole('radio', { name: 'Even flow' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('Runner length tried', { exact: true })).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByLabel('Path drawn with')).toBeVisible();
  await expect(air.locator(':focus')).toHaveCount(1);
});

test('every dialog gives the focus back to what opened it', async ({ quietPage: page }) => {
  test.setTimeout(180_000);
  // What a view computes first may take a moment; what is not there by then is missing.
  page.setDefaultTimeout(15_000);
  await openJob(page, 'Larkspur estate');
  const job = new URL(page.url()).pathname.replace(/[a-z]+$/, '');
  const button = (name: string | RegExp) => (p: Page) => p.getByRole('button', { name }).first();
  const dialogs: readonly (readonly [string, (p: Page) => Locator])[] = [
    ['/', button('New job')],
    ['/', button('Shortcuts and help')],
    ['/', button(/^Search or run a command/)],
    ['/shelf', button('From a file')],
    ['/shelf', button(/show the working$/)],
    ['/bench', button(/^another part/)],
    [`${job}car`, button(/show the working$/)],
    [`${job}air`, button('Figures: demand')],
    [`${job}pick`, button(/, gain of .*: show the working$/)],
    [`${job}fit`, button(/^checks of our own/)],
    [`${job}test`, button(/^Details of/)],
    [`${job}test`, button('history')],
    [`${job}test?view=strip`, button('Type a slip')],
    [`${job}verdict`, button('history')],
  ];
  const lost: string[] = [];
  for (const [path, opener] of dialogs) {
    await page.goto(path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    const from = opener(page);
    const there = await from.waitFor().then(
      () => true,
      () => false,
    );
    if (!there) {
      lost.push(`${path}: nothing opens it`);
      continue;
    }
    await from.focus();
    await from.press('Enter');
    await page.getByRole('dialog').first().waitFor();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog').filter({ visible: true })).toHaveCount(0);
    try {
      await expect(from).toBeFocused({ timeout: 3000 });
    } catch {
      lost.push(`${path}: ${String(await from.textContent())}`);
    }
  }
  expect(lost).toEqual([]);
});

test('who asks the system for less motion gets lists and menus where they belong', async ({ page }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await openJob(page, 'Larkspur estate', 'test?view=strip');
  const measure = page.getByRole('combobox', { name: 'Shown of each pass' });
  await measure.click();
  await page.locator('.ant-select-item-option').last().click();
  await expect(measure).toHaveAttribute('aria-expanded', 'false');
  await page.goto(page.url().replace(/test.*$/, 'air'));
  await page.getByRole('button', { name: 'Add a part' }).click();
  await choose(page, 'Filter');
  await expect(page.getByRole('menuitem', { name: 'Filter' })).toHaveCount(0);
});
