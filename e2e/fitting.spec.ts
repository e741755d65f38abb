import { readFileSync } from 'node:fs';
import DxfParser from 'dxf-parser';
import type { Page } from '@playwright/test';
import type { StoredJob } from '../src/core/documents/job';
import type { StoredUnit } from '../src/core/documents/unit';
import { answer, choices, expect, newJob, openJob, saved, test } from './app';

test.use({ shop: 'fitting' });

/** A copy of the demo's car with another unit chosen for it, nothing got for it yet. */
async function carWith(page: Page, unit: string, name: string): Promise<string> {
  await openJob(page, 'Larkspur estate', 'fit');
  const id = /jobs\/([^/]+)/.exec(page.url())![1];
  const copy = (await (await page.request.post('/api/jobs', { data: { duplicateOf: id } })).json()) as StoredJob;
  const units = (await (await page.request.get('/api/units')).json()) as StoredUnit[];
  const chosen = units.find((u) => u.doc.name === unit)!.id;
  const { doc } = copy;
  const next = { ...doc, name, pick: { ...doc.pick, chosen }, fit: { ...doc.fit, mounting: { ...doc.fit.mounting, have: [] } } };
  expect((await page.request.put(`/api/jobs/${copy.id}`, { data: { version: copy.version, doc: next } })).status()).toBe(200);
  return `/jobs/${copy.id}`;
}

const CURES = [
  /^Done: Parts carried over/,
  /^Done: Closed stop/,
  /^Done: Then the open stop/,
  /^Done: Coupler on square/,
  /^Done: Cover off/,
  /^Done: Connectors on/,
  /^Done: Start every thread/,
];
/** Ticks what cures the checks, passes them all, and makes the first start. */
async function start(page: Page): Promise<void> {
  await page.getByLabel('At the car').fill('Maud');
  for (const cure of CURES) await page.getByRole('button', { name: cure }).click();
  for (const check of await page.getByRole('button', { name: /^Passed: / }).all()) await check.click();
  await page.getByRole('button', { name: /^Done: First start/ }).click();
  await expect(answer(page)).toHaveText(/^The first start is made/);
}

test('a throttle whose holes miss goes on with an adapter, longer bolts and a turn', async ({ quietPage: page }) => {
  test.slow();
  await page.goto(`${await carWith(page, 'Marl 74', 'On a plate')}/fit`);
  await expect(answer(page)).toHaveText(/^Marl 74 goes on once 5 things are seen to: hole pattern,/);
  await expect(page.getByRole('img', { name: /holes 8\.5 mm off/ })).toBeVisible();
  await page.getByText('Mounting', { exact: true }).click();
  await choices(page, 'Adapter plate', 'a plate between');
  // Its holes then stand too close to the manifold’s: it is turned until they stand clear.
  const check = (rule: string) => page.locator(`li[data-rule="${rule}"]`);
  await expect(check('adapter-holes')).toContainText('needs something');
  const clock = page.getByRole('slider', { name: 'Clocking of the throttle' });
  await clock.focus();
  for (let i = 0; i < 3; i += 1) await page.keyboard.press('Shift+ArrowLeft');
  await expect(clock).toHaveAttribute('aria-valuetext', '45°');
  await expect(check('adapter-holes')).toContainText('fits');
  await expect(check('bolts')).toContainText('between 29.8 mm (to hold in aluminium) and 35.8 mm (before it bottoms) is wanted');
  await page.getByLabel('Bolts into the manifold', { exact: true }).fill('30');
  await page.getByLabel('Throttle’s bolts, under the head').fill('25');
  await expect(check('bolts')).toContainText('fits');
  await page.getByText('Needed', { exact: true }).click();
  for (const line of [/Hose to join/, /^Ports: the car has 2/, /Reducing coupler/, /inlet pipe cut or lengthened/])
    await page.getByRole('checkbox', { name: line }).check();
  await expect(answer(page)).toHaveText('Marl 74 fits on its adapter plate.');
  await expect(saved(page)).toBeVisible();
  await page.reload();
  await expect(answer(page)).toHaveText('Marl 74 fits on its adapter plate.');
  await expect(page.locator('nav').getByText(/needed to put it on|does not fit/)).toHaveCount(0);
});

test('a unit is turned by dragging it, in the steps its housing allows', async ({ quietPage: page }) => {
  await page.goto(`${await carWith(page, 'Fenwick 66', 'Turned')}/fit`);
  const drawing = page.getByRole('img', { name: /Fenwick 66 bore/ });
  const box = (await drawing.boundingBox())!;
  const k = box.width / 760;
  const at = (x: number, y: number): [number, number] => [box.x + (300 + x) * k, box.y + (238 - y) * k];
  await page.mouse.move(...at(150, 20));
  await page.mouse.down();
  await page.mouse.move(...at(100, 110), { steps: 4 });
  await page.mouse.move(...at(20, 150), { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('slider', { name: 'Clocking of the throttle' })).toHaveAttribute('aria-valuetext', '90°');
  await expect(saved(page)).toBeVisible();
});

test('templates come as files that say what was measured', async ({ quietPage: page }) => {
  await page.goto(`${await carWith(page, 'Fenwick 66', 'Templates')}/fit`);
  const get = async (format: string): Promise<Buffer> => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: format, exact: true }).click();
    const file = await download;
    expect(file.suggestedFilename()).toBe(`Templates gasket.${format.toLowerCase()}`);
    return readFileSync((await file.path())!);
  };
  const dxf = new DxfParser().parseSync((await get('DXF')).toString())!;
  const circles = dxf.entities.filter((e) => e.type === 'CIRCLE') as unknown as { center: { x: number; y: number }; radius: number }[];
  expect(circles).toHaveLength(5);
  expect(circles.map((c) => Math.round(c.radius * 100) / 100).sort((a, b) => a - b)).toEqual([3.3, 3.3, 3.3, 3.3, 33]);
  expect((await get('SVG')).toString()).toMatch(/^<svg width="[\d.]+mm"/);
  const pdf = await get('PDF');
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByLabel('Last print’s 50 mm bar measured').fill('49');
  expect((await get('PDF')).equals(pdf)).toBe(false);
  await page.getByLabel('Last print’s 50 mm bar measured').fill('1.9 in');
  await expect(page.getByText(/Was it printed “to fit”/)).toBeHidden();
  await page.getByLabel('Last print’s 50 mm bar measured').fill('39');
  await expect(page.getByRole('button', { name: 'PDF' })).toBeDisabled();
});

test('a check of our own counts from then on, for every car', async ({ quietPage: page }) => {
  await page.goto(`${await carWith(page, 'Fenwick 66', 'Own check')}/fit`);
  await page.getByRole('button', { name: /checks of our own/ }).click();
  await page.getByRole('button', { name: 'Add the check' }).click();
  await expect(page.getByText('Give the check a name.')).toBeVisible();
  await page.getByLabel('Check', { exact: true }).fill('Strut brace');
  await page.getByLabel('Figure').fill('50');
  await page.getByLabel('Reason').fill('The brace comes down when the engine rocks.');
  await page.getByLabel('Cure').fill('Spacer under the brace');
  await page.getByRole('button', { name: 'Add the check' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('checkbox', { name: 'Spacer under the brace' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('checkbox', { name: 'Spacer under the brace' })).toBeVisible();
  expect((await page.request.put('/api/shop/rules', { data: [] })).status()).toBe(200);
});

test('a relearn run goes by its stamps and the server’s clock: over a reload, on a phone whose own is wrong', async ({ page }) => {
  // Twenty minutes slow, and it stays so.
  await page.clock.install({ time: Date.now() - 20 * 60_000 });
  const job = await newJob(page, 'Relearn');
  await page.goto(`${job}/install`);
  await start(page);
  await page.getByRole('button', { name: 'Engine on', exact: true }).click();
  const timer = page.getByRole('timer');
  await expect(timer).toHaveText(/^Run 1: [23]:\d\d to go/);
  await page.getByLabel('Engine speed, typed').fill('780');
  await page.getByRole('button', { name: 'note it' }).click();
  await page.reload();
  await expect(timer).toHaveText(/^Run 1: 2:\d\d to go/);
  await page.getByText('History of this sheet').click();
  await expect(page.getByText(/that phone’s clock said/).first()).toBeVisible();
});

test('a relearn that began before this page was opened stands where it is', async ({ page }) => {
  const stamped = (seconds: number, type: 'engine on' | 'engine off'): object => ({ type, at_ms: Date.now() - seconds * 1000 });
  for (const [events, said] of [
    [[[70, 'engine on']], /^Run 1: 1:\d\d to go/],
    [[[190, 'engine on']], 'Run 1 was long enough: key off.'],
    [
      [
        [200, 'engine on'],
        [10, 'engine off'],
      ],
      /^Off for another 1:\d\d; 1 of 3 runs done\.$/,
    ],
    [
      [
        [400, 'engine on'],
        [200, 'engine off'],
      ],
      'Rested: start run 2 of 3.',
    ],
  ] as [[number, 'engine on' | 'engine off'][], string | RegExp][]) {
    const job = await newJob(page, 'Relearn');
    await page.goto(`${job}/install`);
    await start(page);
    // The page shows a tick before the server has it: what follows goes past the page, and must not come first.
    await expect.poll(async () => (await page.request.get(`/api${job}/sheet`)).text()).toContain('"start"');
    for (const [seconds, type] of events) {
      const data = { id: crypto.randomUUID(), who: 'Maud', ...stamped(seconds, type) };
      expect((await page.request.post(`/api${job}/sheet`, { data })).status()).toBe(201);
    }
    // The open page hears of it.
    await expect(page.getByRole('timer')).toHaveText(said);
  }
});

test('the stand-ins stream into the same screen: a live idle, and a blade that does not shut', async ({ quietPage: page }) => {
  const job = await newJob(page, 'Stand-ins');
  await page.goto(`${job}/install`);
  await start(page);
  await page.getByRole('button', { name: 'Engine on', exact: true }).click();
  await page.getByRole('button', { name: 'Listen to the practice tachometer' }).click();
  await expect(page.getByLabel('Engine speed', { exact: true })).toHaveText(/rpm simulated/);
  await page.getByRole('button', { name: 'Stop listening' }).click();
  await page.getByRole('button', { name: 'Read the practice voltmeter' }).click();
  await page.getByRole('button', { name: 'Take it as closed' }).click();
  await expect(page.getByLabel('Closed now')).toHaveValue(/^0\.[3-7]\d{1,2}$/);
  await choices(page, 'Practice voltmeter (simulated) plays', 'a sticking throttle');
  await choices(page, 'Blade is', 'opened, let go');
  await expect(page.getByText(/the blade does not shut by itself/)).toBeVisible({ timeout: 25_000 });
  await page.getByRole('button', { name: 'Stop reading' }).click();
});

test('what is ticked without a connection is there after a reload and goes when it is back; the server killed loses nothing', async ({
  page,
  app,
}) => {
  test.slow();
  const job = await newJob(page, 'Away');
  await page.goto(`${job}/install`);
  await page.getByLabel('At the car').fill('Tobin');
  await page.getByRole('button', { name: /^Done: Let the engine go cold/ }).click();
  await expect(page.getByText(/^done by Tobin/)).toHaveCount(1);
  await app.stop('SIGKILL');
  await page.getByRole('button', { name: /^Done: Battery off/ }).click();
  await page.getByRole('button', { name: /^Add a note: Connectors: slide/ }).click();
  await page.getByLabel(/^Note at: Connectors: slide/).fill('grey plug sits below the black one');
  await page.keyboard.press('Tab');
  await expect(page.getByText(/^2 written down here, waiting for the server/)).toBeVisible();
  await app.start();
  await page.reload();
  await expect(page.getByText(/waiting for the server/)).toHaveCount(0);
  await page.reload();
  await expect(page.getByText(/^done by Tobin/)).toHaveCount(2);
  await expect(page.getByText(/^grey plug sits below the black one/).first()).toBeVisible();
});

test('a photo goes onto its step; anything that is none is refused in place', async ({ page }) => {
  const dot = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  await page.goto(`${await newJob(page, 'Photos')}/install`);
  await page.getByLabel('At the car').fill('Maud');
  const choose = page.locator('input[type=file]').first();
  await choose.setInputFiles({ name: 'a.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(page.getByText('This file is no PNG, JPEG or WebP picture.')).toBeVisible();
  await choose.setInputFiles({ name: 'a.png', mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') });
  await expect(page.getByRole('img', { name: /^Photo at: Let the engine go cold/ })).toBeVisible();
});

test('on a phone every target is a thumb wide, and nothing runs off the side', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${await newJob(page, 'Phone')}/install`);
  await page.getByLabel('At the car').fill('Maud');
  for (const name of [/^Done: /, /^Passed: /, /^Failed: /, /^Add a note: /, /^Engine on/]) {
    for (const button of await page.getByRole('button', { name }).all()) {
      const box = (await button.boundingBox())!;
      expect(box.height).toBeGreaterThanOrEqual(44);
      expect(box.width).toBeGreaterThanOrEqual(44);
      expect(box.x + box.width).toBeLessThanOrEqual(390);
    }
  }
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
