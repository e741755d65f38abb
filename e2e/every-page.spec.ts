import type { Page } from '@playwright/test';
import { answer, expect, jobAddress, listening, test } from './app';
import { axeFinds } from './axe';

test.use({ shop: 'every page' });

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
test('every page at a desk: its charts, its title, its landmarks, nothing that axe knows and no complaint of the browser', async ({
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
    return found;
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
      ...(await axeFinds(page)),
      ...(await page.evaluate(tapTargets)),
    ];
  });
  await context.close();
});

/** Words of a usual length that go on in the next line: their column was squeezed. A file's name may have to. */
function cutWords(): string[] {
  const out = new Set<string>();
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let text = texts.nextNode(); text; text = texts.nextNode()) {
    const el = text.parentElement!;
    if (el.closest('[inert], .js-plotly-plot, .katex, script, style, option')) continue;
    if (!el.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
    for (const word of text.nodeValue!.matchAll(/[\p{L}\p{N}’.,]{2,18}/gu)) {
      const range = document.createRange();
      range.setStart(text, word.index);
      range.setEnd(text, word.index + word[0].length);
      const lines = [...range.getClientRects()].filter((r) => r.width > 0.5).map((r) => r.top);
      if (Math.max(...lines) - Math.min(...lines) > 6) out.add(`“${word[0]}” is cut in two in “${el.textContent.slice(0, 40)}”`);
    }
  }
  return [...out];
}

/** Controls whose 44 px around their middle do not answer to them. */
function tapTargets(): string[] {
  const out: string[] = [];
  const controls =
    'main button, main a[href], main select, main summary, main textarea, header button, header a, main .ant-select, main .ant-segmented-item, main input:not([type=hidden], [type=file])';
  for (const el of document.querySelectorAll<HTMLElement>(controls)) {
    if (el.closest('.ant-select') && !el.classList.contains('ant-select')) continue;
    if (el.matches('.ant-segmented-item input, .ant-radio-button-input, .ant-checkbox-input, .ant-radio-input, .ant-upload input'))
      continue;
    // A table's hidden copy of its head is no control.
    if (el.closest('[inert]')) continue;
    if (el.closest('.plotly, .js-plotly-plot') || !el.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
    // A figure inside a sentence is part of the line it stands in, and a field's frame is what is touched.
    if (el.closest('p, li') && getComputedStyle(el).display.startsWith('inline')) continue;
    // Brought to the middle: at the edges a table's first and last columns stay where they are, over the others.
    el.scrollIntoView({ block: 'center', inline: 'center' });
    const q = el.getBoundingClientRect();
    if (q.width === 0 || q.height === 0) continue;
    const y = q.top + q.height / 2;
    const x = Math.min(Math.max(q.left + q.width / 2, 1), innerWidth - 2);
    const label = el.closest('label');
    const mine = (px: number, py: number): boolean => {
      const hit = document.elementFromPoint(px, py);
      return (
        hit !== null &&
        (el.contains(hit) || hit.contains(el) || label?.contains(hit) === true || hit.closest('label')?.contains(el) === true)
      );
    };
    const other = [y - 19, y + 19].some((py) => {
      const hit = document.elementFromPoint(x, py);
      const control = hit?.closest('button, a[href], select, summary, input, .ant-select');
      return (
        control !== null &&
        control !== undefined &&
        control !== el &&
        !el.contains(control) &&
        !control.contains(el) &&
        control.closest('label') !== label
      );
    });
    if (!mine(x, y) || other || (q.height < 43.5 && ![y - 19, y + 19].every((py) => mine(x, py))))
      out.push(
        `${el.tagName.toLowerCase()} ${Math.round(q.width)}×${Math.round(q.height)} “${(el.getAttribute('aria-label') ?? el.textContent ?? '').slice(0, 40)}”`,
      );
  }
  return out;
}
