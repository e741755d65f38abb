import type { Locator, Page } from '@playwright/test';
import { axeFinds } from './axe';
import { choose, expect, openJob, test } from './app';

test.use({ shop: 'reach' });

const ROOMS = ['/', '/start', '/practice', '/shelf', '/bench', '/sums', '/thinking', '/settings', '/keys', '/trash'] as const;
const STEPS = ['car', 'air', 'pick', 'fit', 'install', 'test', 'verdict'] as const;
const VIEWS = ['plan', 'log', 'strip', 'practice'] as const;

/** Every page there is, of the Larkspur. */
async function pages(page: Page): Promise<string[]> {
  await openJob(page, 'Larkspur estate');
  const job = new URL(page.url()).pathname.replace(/[a-z]+$/, '');
  return [...ROOMS, ...STEPS.map((s) => `${job}${s}`), ...VIEWS.map((v) => `${job}test?view=${v}`), `${job}air?look=waves`];
}

// The other theme at the other width is the phone's walk: each rule at both widths, each colour in both themes.
test('no page has a violation that axe knows: light, 1280 wide', async ({ page }) => {
  test.setTimeout(300_000);
  // A colour on its way from one theme to the other is neither's.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const found: string[] = [];
  for (const path of [...(await pages(page)), '/sign-in']) {
    await page.goto(path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    // Never until the network is idle: the sheet at the car keeps a line to the server open.
    await expect(page.locator('[data-listens="false"], .ant-skeleton')).toHaveCount(0);
    found.push(...(await axeFinds(page)));
  }
  expect(found).toEqual([]);
});

test('every page has a title of its own, a skip link first, and its landmarks', async ({ page }) => {
  test.setTimeout(180_000);
  const titles = new Set<string>();
  const all = (await pages(page)).filter((p) => !p.includes('?'));
  for (const path of all) {
    await page.goto(path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    await expect(page.locator('[data-listens="false"]')).toHaveCount(0);
    titles.add(await page.title());
    await page.keyboard.press('Tab');
    const skip = page.getByRole('link', { name: 'Skip to the content' });
    await expect(skip).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('main')).toBeFocused();
    await expect(page.getByRole('banner')).toHaveCount(1);
    await expect(page.getByRole('main')).toHaveCount(1);
    expect(await page.getByRole('navigation').count()).toBeGreaterThan(0);
    await expect(page.getByRole('heading', { level: 1 })).toHaveCount(1);
  }
  expect(titles.size).toBe(all.length);
});

test('Back steps through the views of Test', async ({ quietPage: page }) => {
  await openJob(page, 'Larkspur estate', 'test');
  for (const view of ['Plan', 'Strip']) await page.getByLabel('Part of the test').getByText(view, { exact: true }).click();
  await expect(page).toHaveURL(/view=strip/);
  await page.goBack();
  await expect(page).toHaveURL(/view=plan/);
  await page.goBack();
  await expect(page).not.toHaveURL(/view=/);
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
