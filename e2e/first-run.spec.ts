import type { Locator, Page } from '@playwright/test';
import { answer, App, choose, expect, test as base } from './app';

/** A shop in which nothing stands yet. */
const test = base.extend<object, { app: App }>({
  app: [
    async ({}, use) => {
      const app = await App.begin(true);
      await use(app);
      await app.end();
    },
    { scope: 'worker', timeout: 90_000 },
  ],
});

/** Counts what a newcomer has to do. */
class Newcomer {
  fields = 0;
  clicks = 0;
  constructor(readonly page: Page) {}
  async click(what: Locator): Promise<void> {
    this.clicks += 1;
    await what.click();
  }
  async type(field: string, text: string): Promise<void> {
    this.fields += 1;
    await this.page.getByLabel(field, { exact: true }).fill(text);
  }
}

test('the example is loaded with one click from its door, and removed again', async ({ quietPage: page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Load the example' }).click();
  await expect(answer(page)).toHaveText(/^The stock 58 mm runs short from/, { timeout: 60_000 });
  await page.goto('/');
  await expect(page.getByRole('link', { name: /^Larkspur estate, an example/ })).toBeVisible();
  await page.getByRole('button', { name: 'More ways to begin' }).click();
  await choose(page, 'Remove the example');
  await expect(page.getByRole('button', { name: 'Load the example' })).toBeVisible();
  await page.goto('/trash');
  await expect(page.getByRole('button', { name: 'Bring back Larkspur estate, an example' })).toBeVisible();
});

test('an empty shelf says what would stand there, and takes the starter shelf, each part marked as made up', async ({
  quietPage: page,
}) => {
  await page.goto('/shelf');
  await expect(page.getByText('Throttle bodies stand here with their bore')).toBeVisible();
  await page.getByRole('button', { name: 'Put the starter shelf on' }).click();
  await expect(page.getByRole('checkbox', { name: /^Compare Generic/ })).toHaveCount(14);
  await expect(page.getByLabel('Note', { exact: true })).toHaveValue(/^Starter shelf: a made-up, generic size/);
});

test('a newcomer has a first answer within ten fields and twelve clicks, and a job to go on with', async ({ quietPage: page }) => {
  const who = new Newcomer(page);
  await page.goto('/');
  await expect(answer(page)).toHaveText('No car in the shop yet');
  await who.click(page.getByRole('link', { name: 'Size a throttle' }));
  await expect(answer(page)).toHaveText(/^Stock .*64\.0 mm would bring/);
  await who.type('Displacement', '1.8');
  await who.type('Redline', '7400');
  await who.type('Bore at the blade', '50');
  await who.type('Shaft', '8');
  await who.type('Pipe ahead of it', '70');
  await who.type('It flows, at 28 inH₂O', '260 cfm');
  await who.type('Bore', '54');
  await expect(answer(page)).toHaveText(
    /^Stock runs short from \d,\d\d0 rpm; 54\.0 mm would bring \+\d+\.\d % at peak: worth (buying|testing)\.$/,
  );
  const said = await answer(page).textContent();
  await who.type('Name of the job', 'Wren hatch');
  await who.click(page.getByRole('button', { name: 'Make it a job' }));
  await expect(page.getByRole('link', { name: /^3 Pick/ })).toBeVisible();
  // What the guide said is what the job says of it, whatever else stands on the shelf.
  await expect(page.getByRole('row', { name: /54 mm, to be chosen/ })).toContainText(/\+\d+\.\d %/.exec(said!)![0]);
  expect(who.fields).toBeLessThanOrEqual(10);
  expect(who.clicks).toBeLessThanOrEqual(12);
});

test('a figure that cannot be is told beside its field, and nothing that was typed is lost', async ({ quietPage: page }) => {
  await page.goto('/start');
  await page.getByLabel('Bore at the blade', { exact: true }).fill('40');
  await page.getByLabel('Shaft', { exact: true }).fill('45');
  await expect(page.getByText('The shaft is as thick as the bore: no air would pass.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Make it a job' })).toBeDisabled();
  await expect(page.getByLabel('Shaft', { exact: true })).toHaveValue('45');
  await page.getByLabel('Shaft', { exact: true }).fill('9');
  await expect(page.getByRole('button', { name: 'Make it a job' })).toBeEnabled();
});

test('practice has a door of its own, with a picture, on a shop’s own car', async ({ quietPage: page }) => {
  await page.goto('/practice');
  await expect(page.getByRole('img', { name: /^Four steps: a hidden truth/ })).toBeVisible();
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page).toHaveURL(/view=practice/);
  await expect(page.getByRole('img', { name: /^Four steps: a hidden truth/ })).toBeVisible();
});
