import type { Page } from '@playwright/test';
import { answer, expect, jobAddress, listening, test } from './app';
import { axeFinds } from './axe';
import { clippedTexts, cutWords, tapTargets } from './page-rules';

test.use({ shop: 'every page' });

const DESK = { width: 1280, height: 800 };
/** The narrowest that still has a column of figures beside the page: where the least room is for them. */
const NARROW_DESK = { width: 1024, height: 800 };
/** What the demo's people named themselves, as long as they liked. */
const NAMED = ['Thornby airfield strip'];

/** Every page there is, with the charts it draws of the Larkspur: what all of them owe is asked of each where it is opened once. */
const ROOMS = ['/', '/start', '/practice', '/shelf', '/bench', '/sums', '/thinking', '/settings', '/trash', '/keys', '/sign-in'];
const CHARTS: Readonly<Record<string, number>> = {
  car: 1,
  air: 1,
  'air?look=waves': 1,
  pick: 3,
  fit: 0,
  install: 0,
  test: 3,
  'test?view=plan': 0,
  'test?view=log': 2,
  'test?view=strip': 2,
  'test?view=strip&place=road': 1,
  'test?view=practice': 0,
  verdict: 1,
};

/** Opens every page in its turn, come to rest with its charts drawn, and asks `what` is wrong there: nothing, of none. */
async function ofEachPage(page: Page, what: (path: string) => Promise<readonly string[]>): Promise<void> {
  const job = (await jobAddress(page, 'Larkspur estate')).replace(/[a-z]+$/, '');
  const wrong: string[] = [];
  for (const path of [...ROOMS, ...Object.keys(CHARTS)]) {
    await page.goto(path.startsWith('/') ? path : `${job}${path}`);
    await expect(answer(page)).toBeVisible();
    // Never until the network is idle: the sheet at the car keeps a line to the server open.
    await expect(page.locator('.ant-skeleton')).toHaveCount(0);
    if (path in CHARTS) {
      await expect(answer(page)).not.toHaveText(/^Reading the (runs|log|passes)…$/);
      await expect(page.locator('.js-plotly-plot'), path).toHaveCount(CHARTS[path]!);
    }
    wrong.push(...(await what(path)).map((w) => `${path}: ${w}`));
  }
  expect(wrong).toEqual([]);
}

// Each rule at both widths, each colour in both themes: one walk is wide and light, the other narrow and dark.
test('every page at a desk: its charts, its title, its landmarks, no text that is cut off, nothing that axe knows and no complaint of the browser', async ({
  quietPage: page,
}) => {
  test.setTimeout(300_000);
  const titles: string[] = [];
  await ofEachPage(page, async (path) => {
    const found = await axeFinds(page);
    if (path === '/sign-in') return found;
    if (!path.includes('?')) titles.push(await page.title());
    await page.keyboard.press('Tab');
    await expect(page.getByRole('link', { name: 'Skip to the content' })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('main')).toBeFocused();
    await expect(page.getByRole('banner')).toHaveCount(1);
    await expect(page.getByRole('main')).toHaveCount(1);
    expect(await page.getByRole('navigation').count()).toBeGreaterThan(0);
    await expect(page.getByRole('heading', { level: 1 })).toHaveCount(1);
    await page.setViewportSize(NARROW_DESK);
    const clipped = await page.evaluate(clippedTexts, NAMED);
    await page.setViewportSize(DESK);
    return [...found, ...clipped];
  });
  expect(new Set(titles).size).toBe(titles.length);
});

test('every page in the hand, in the dark: no wider than the phone, no word cut in two, controls as large as a finger, nothing that axe knows', async ({
  browser,
  app,
}) => {
  test.setTimeout(300_000);
  const context = await browser.newContext({
    baseURL: app.url,
    viewport: { width: 360, height: 780 },
    hasTouch: true,
    isMobile: true,
    serviceWorkers: 'block',
    reducedMotion: 'reduce',
  });
  await context.addCookies([{ name: 'vanner-theme', value: 'dark', url: app.url }]);
  const page = listening(await context.newPage());
  await ofEachPage(page, async () => {
    const width = await page.evaluate(() => document.documentElement.scrollWidth);
    return [
      ...(width > 360 ? [`${width} px wide`] : []),
      ...(await page.evaluate(cutWords)),
      ...(await page.evaluate(clippedTexts, NAMED)),
      ...(await axeFinds(page)),
      ...(await page.evaluate(tapTargets)),
    ];
  });
  await context.close();
});
