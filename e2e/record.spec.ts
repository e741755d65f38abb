import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { answer, expect, newJob, openJob, test } from './app';

test.use({ shop: 'record' });

/** Types a slip's digits on the pad. */
async function typeSlip(page: Page, digits: string): Promise<void> {
  await page.getByRole('group', { name: 'The slip' }).focus();
  await page.keyboard.type(digits);
}

/** The other tests' runs stand in the shop's history and move it by a tenth. */
const KEPT = /^Keep it: Fenwick 66 gained \+1\.[456] % over the top third\.$/;

test('a day at the strip is typed at the tailgate: mistakes are caught, the slip survives a reload, and what cannot count says so', async ({
  quietPage: page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await openJob(page, 'Larkspur estate', 'test?view=strip');
  await expect(answer(page)).toHaveText(/^Gain: Fenwick 66 is \d\.\d+ km\/h faster in trap speed\.$/);
  await page.getByRole('button', { name: 'Type a slip' }).click();
  await page.getByRole('dialog').getByLabel('On the car', { exact: true }).selectOption('stock');
  await typeSlip(page, '041228456950');
  await typeSlip(page, '9900');
  await expect(page.getByRole('button', { name: '⅛ mile: 9.900' })).toBeVisible();
  await expect(page.getByText(/^The time of this pass is not known/)).toBeVisible();
  await typeSlip(page, '7310');
  await typeSlip(page, '1320');
  // Half a slip lives on this device until it is kept.
  await page.reload();
  await page.getByRole('button', { name: 'Type a slip' }).click();
  await expect(page.getByRole('button', { name: '330 ft: 6.950' })).toBeVisible();
  await page.getByRole('button', { name: /^330 ft/ }).click();
  await typeSlip(page, '2100');
  await expect(page.getByText(/^330 ft: Later marks take longer: 60 ft was 2\.845 s already/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep this pass' })).toBeDisabled();
  await page.getByRole('button', { name: /^330 ft/ }).click();
  await typeSlip(page, '6950');
  const keys = page.getByRole('button', { name: '5', exact: true });
  const box = (await keys.boundingBox())!;
  expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(44);
  await page.getByRole('button', { name: 'Keep this pass' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // The day is long past: the pad does not stamp it with the time of now. Nothing is known of the air at its hour, and it has no time over the quarter: it stands there and decides nothing.
  await expect(page.getByRole('row', { name: /stock reaction 0\.412 s 2\.845 — — no air read/ })).toBeVisible();
  await expect(page.getByText('1 pass without air: no time of day, or no reading within an hour.')).toBeVisible();
  await expect(page.getByText(/from 5 stock and 6 new passes/)).toBeVisible();
});

test('a new day: the station gives its air, the tower its passes, a table the rest, and a pass goes into the trash and comes back', async ({
  quietPage: page,
}) => {
  test.slow();
  await openJob(page, 'Heron coupé', 'test?view=strip');
  await expect(answer(page)).toHaveText(/^No passes yet/);
  await page.getByRole('button', { name: 'New day' }).click();
  await page.getByLabel('Name of the track').fill('Saltmarsh');
  await page.getByRole('button', { name: 'Begin the day' }).click();
  await page.getByRole('button', { name: 'Practice station' }).click();
  await expect(page.getByText('49 readings')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Type a slip' }).click();
  await page.getByRole('button', { name: 'Practice tower' }).click();
  await expect(page.getByRole('button', { name: /^¼ mile: 1\d\.\d{3}$/ })).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Keep this pass' }).click();
  await expect(answer(page)).toHaveText(/^1 pass so far, none with the new throttle on\.$/);
  await page.getByRole('button', { name: 'From a table' }).first().click();
  await page
    .getByRole('textbox', { name: 'Passes from a table' })
    .fill(
      'time;side;60 ft;1/4;mph\n12:10;stock;2,410;14,310;96,1\n12:40;Ridley 82;2,400;14,190;97,2\n13:00;Ridley 82;2,420;14,170;97,4\n13:20;stock;2,410;1,4;96\n',
    );
  await expect(page.getByText(/^Line 5, 1\/4/)).toBeVisible();
  await page.getByRole('button', { name: 'Import 3 passes' }).click();
  await expect(page.getByRole('button', { name: 'Change the pass at 13:00' })).toBeVisible();
  await page.getByRole('button', { name: 'Change the pass at 13:00' }).click();
  await page.getByRole('button', { name: 'Into the trash' }).last().click();
  await expect(page.getByRole('button', { name: 'Change the pass at 13:00' })).toHaveCount(0);
  await page.goto('/trash');
  await page.getByRole('button', { name: 'Bring back pass at 13:00, Saltmarsh' }).click();
  await expect(answer(page)).toHaveText('The trash is empty.');
  await openJob(page, 'Heron coupé', 'test?view=strip');
  await expect(page.getByRole('button', { name: 'Change the pass at 13:00' })).toBeVisible();
});

test('the verdict goes to the customer as a page that shows nothing else, and no more once it is revoked', async ({
  quietPage: page,
  browser,
  app,
}) => {
  await openJob(page, 'Larkspur estate', 'verdict');
  await expect(answer(page)).toHaveText(KEPT);
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByLabel('The new link').inputValue();
  const stranger = await browser.newContext();
  const theirs = await stranger.newPage();
  await theirs.goto(link);
  await expect(theirs.getByText(KEPT)).toBeVisible();
  await expect(theirs.getByRole('navigation')).toHaveCount(0);
  const html = await theirs.content();
  for (const secret of ['Heron', 'Marl 74', 'Maud', 'Owner tows']) expect(html).not.toContain(secret);
  const pdf = await stranger.request.get(
    new URL((await theirs.getByRole('link', { name: 'As a PDF' }).getAttribute('href'))!, app.url).href,
  );
  expect(pdf.headers()['content-type']).toBe('application/pdf');
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByRole('button', { name: /^Revoke the link/ }).click();
  await expect(page.getByLabel('The new link')).toHaveCount(0);
  await theirs.goto(link);
  await expect(theirs.getByText('This link has expired or been revoked.')).toBeVisible();
  expect((await stranger.request.get(`${link}/pdf`)).status()).toBe(404);
  await stranger.close();
});

test('a person decides otherwise, the board says so, and the history brings the figures back', async ({ quietPage: page }) => {
  await page.goto('/');
  await page.waitForLoadState('networkidle');
  await page.getByLabel('Who is at this screen').selectOption('Maud');
  await openJob(page, 'Pipit hatch', 'verdict');
  await expect(answer(page)).toHaveText('Go back to stock: Dunlin 62 makes no difference that matters.');
  await page.getByRole('button', { name: 'Decide otherwise' }).click();
  await page.getByLabel('Why', { exact: true }).fill('owner likes the look');
  const kept = page.waitForResponse((r) => r.request().method() === 'PUT' && r.ok());
  await page.getByRole('button', { name: 'Decide', exact: true }).click();
  await expect(page.getByText(/owner likes the look The figures by themselves say: go back to stock\./)).toBeVisible();
  await kept;
  await page.getByRole('button', { name: 'history' }).click();
  await expect(page.getByText(/, Maud$/).first()).toBeVisible();
  await expect(page.getByText('verdict, override, reason: nothing → “owner likes the look”')).toBeVisible();
  await page
    .getByRole('button', { name: /^Restore version/ })
    .last()
    .click();
  await expect(page.getByRole('button', { name: 'Decide otherwise' })).toBeVisible();
  await expect(answer(page)).toHaveText(/^Go back to stock/);
});

test('a whole job goes out as one file and comes in again as a second car', async ({ page }) => {
  await openJob(page, 'Larkspur estate', 'car');
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'export job' }).click();
  const path = (await (await coming).path())!;
  expect(readFileSync(path).subarray(0, 2).toString()).toBe('PK');
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Import a job' })).toBeVisible();
  await page.waitForLoadState('networkidle');
  await page.getByTestId('package').setInputFiles({ name: 'larkspur.vanner.zip', mimeType: 'application/zip', buffer: readFileSync(path) });
  await page.waitForURL(/\/jobs\/[0-9a-f-]+\/car$/);
  await page.goto(page.url().replace(/car$/, 'verdict'));
  await expect(answer(page)).toHaveText(KEPT);
  await page.goto('/?q=Larkspur');
  await expect(page.getByRole('link', { name: /^Larkspur estate(?! \()/ })).toHaveCount(2);
  await page.waitForLoadState('networkidle');
  await page.getByTestId('package').setInputFiles({ name: 'no.zip', mimeType: 'application/zip', buffer: Buffer.from('rpm,power') });
  await expect(page.getByText(/there is no job\.json in it|not a zip archive/)).toBeVisible();
});

test('find or do looks into the records, and tags are found', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Sparrow saloon')}/car`);
  await page.waitForLoadState('networkidle');
  await page.getByRole('combobox', { name: 'Tags' }).fill('winter car');
  const kept = page.waitForResponse((r) => r.request().method() === 'PUT' && r.ok());
  await page.keyboard.press('Enter');
  await kept;
  await page.goto('/shelf');
  await page.waitForLoadState('networkidle');
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'Search or run a command' }).fill('winter');
  await expect(page.getByRole('option', { name: /^Sparrow saloon, job/ })).toBeAttached();
  await page.getByRole('dialog').getByText('Sparrow saloon', { exact: true }).click();
  await page.waitForURL(/\/air$/);
  await page.goto('/');
  await expect(page.getByText('winter car')).toBeVisible();
});

test('with a passphrase nobody comes in without it, wrong words wait, and a customer’s link still opens', async ({
  page,
  browser,
  app,
}) => {
  await openJob(page, 'Larkspur estate', 'verdict');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByLabel('The new link').inputValue();
  await page.goto('/settings');
  await page.waitForLoadState('networkidle');
  await page.getByLabel('New passphrase').fill('three plain words');
  await page.getByRole('button', { name: 'Set it' }).click();
  await expect(page.getByLabel('Current passphrase')).toBeVisible();
  const stranger = await browser.newContext({ baseURL: app.url });
  const theirs = await stranger.newPage();
  await theirs.goto('/shelf');
  await expect(theirs).toHaveURL(/\/sign-in\?to=%2Fshelf$/);
  for (const url of ['/api/v1/jobs', '/api/search?q=a', '/api/jobs/x/facts']) expect((await stranger.request.get(url)).status()).toBe(401);
  // What a browser asks for of itself, page after page, is there for it, also at the door.
  expect((await stranger.request.get('/favicon.ico')).headers()['content-type']).toMatch(/^image\//);
  expect((await stranger.request.post('/api/imports?job=x', { data: 'x' })).status()).toBe(401);
  expect((await stranger.request.post('/api/packages', { data: 'x' })).status()).toBe(401);
  await theirs.goto(link);
  await expect(theirs.getByText(/^Keep it: Fenwick 66 gained/)).toBeVisible();
  await theirs.goto('/sign-in?to=https://elsewhere.example/');
  await theirs.waitForLoadState('networkidle');
  await theirs.getByLabel('The shop’s passphrase').fill('three plane words');
  await theirs.getByRole('button', { name: 'Sign in' }).click();
  await expect(theirs.getByText('These are not the words of this shop.')).toBeVisible();
  await theirs.getByLabel('The shop’s passphrase').fill('three plain words');
  await theirs.getByRole('button', { name: 'Sign in' }).click();
  await expect(theirs).toHaveURL(`${app.url}/`);
  const cookie = (await stranger.cookies()).find((c) => c.name === 'vanner-session')!;
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Strict' });
  // Signed out, a copy of the cookie opens nothing either.
  expect((await theirs.request.get(`${app.url}/api/search?q=x`)).status()).toBe(200);
  expect((await theirs.request.delete(`${app.url}/api/sign-in`)).status()).toBe(200);
  await stranger.addCookies([cookie]);
  expect((await theirs.request.get(`${app.url}/api/search?q=x`)).status()).toBe(401);
  await stranger.close();
  await page.getByLabel('Current passphrase').fill('three plain words');
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(page.getByText('Removed.')).toBeVisible();
});
