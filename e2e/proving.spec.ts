import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { alerts, answer, choices, copyOf, expect, newJob, openJob, saved, test } from './app';

test.use({ shop: 'proving' });

/** A pull on paper: power that grows with engine speed, so much of it, and what its preamble says. */
function pull(scale: number, say: Record<string, string> = {}, wobble = 0): string {
  const head = Object.entries({ Date: '2026-05-02', Correction: 'none', 'Measured at': 'wheels', ...say }).map(([k, v]) => `# ${k}: ${v}`);
  const rows = Array.from({ length: 120 }, (_, i) => {
    const rpm = 2000 + 36 * i;
    return `${(i * 0.1).toFixed(1)},${rpm},${((rpm / 50) * scale + wobble * Math.sin(3 * i)).toFixed(3)},100,${24 + i / 40}`;
  });
  return [...head, 'Time (s),Engine speed (rpm),Power (kW),Throttle (%),Inlet air (C)', ...rows, ''].join('\n');
}
const file = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

/** Drops files on the page as a person does, all in one go. */
async function drop(page: Page, files: readonly { name: string; text: string }[]): Promise<void> {
  const transfer = await page.evaluateHandle((list) => {
    const data = new DataTransfer();
    for (const f of list) data.items.add(new File([f.text], f.name, { type: 'text/csv' }));
    return data;
  }, files);
  for (const type of ['dragenter', 'dragover', 'drop']) await page.dispatchEvent('body', type, { dataTransfer: transfer });
}

test('four messy files dropped at once become four runs, and the unfair comparison is pointed out before its figures', async ({
  quietPage: page,
}) => {
  await page.goto('/');
  await copyOf(page, 'Larkspur estate');
  await expect(answer(page)).toHaveText(/^No runs yet/);
  const comma = (text: string): string =>
    text
      .split('\n')
      .map((l) => (l.startsWith('#') ? l : l.replaceAll(',', ';').replaceAll('.', ',')))
      .join('\r\n');
  await drop(page, [
    { name: 'stock 58 a.csv', text: pull(1, { Pulley: '84 mm', Time: '10:00' }) },
    { name: 'stock 58 b.txt', text: comma(pull(1.002, { Pulley: '84 mm', Time: '10:10' }, 0.1)) },
    { name: 'Fenwick 66 a.tsv', text: pull(1.03, { Pulley: '78 mm', Time: '11:00' }).replaceAll(',', '\t') },
    { name: 'Fenwick 66 b.csv', text: `\uFEFF${pull(1.032, { Pulley: '78 mm', Time: '11:10' }, 0.1).replace('\n2', '\nmarker here\n2')}` },
  ]);
  await expect(page.getByLabel(/^Details of/)).toHaveCount(4);
  await expect(answer(page)).toHaveText('Not a fair comparison: pulley differs: stock ran with 84 mm, the new side with 78 mm.');
  await expect(page.getByText(/As it stands: .*\+3\.\d %/)).toBeVisible();
  await expect(page.getByText('Pulley differs: stock ran with 84 mm, the new side with 78 mm.').last()).toBeVisible();
  await expect(page.getByText('A part was on the car only once: taking it off and on alone could make the difference.')).toBeVisible();
  // The report of a file names what was left out of it.
  await page.getByLabel('Details of Fenwick 66 b').click();
  await expect(page.getByText(/So it makes [\d.]+ kW at/)).toBeVisible();
  await expect(page.getByText('What was read')).toBeVisible();
  const original = await page.request.get((await page.getByRole('link', { name: 'original file' }).getAttribute('href'))!);
  expect((await original.body()).subarray(0, 3)).toEqual(Buffer.from([0xef, 0xbb, 0xbf]));
});

test('the comparison confounded by a pulley is mended by leaving its runs out, each with a reason that stays', async ({
  quietPage: page,
}) => {
  await openJob(page, 'Heron coupé', 'test');
  await expect(answer(page)).toHaveText(/^Not a fair comparison: pulley differs/);
  for (const name of ['heron ridley 82 small pulley a', 'heron ridley 82 small pulley b']) {
    await page.getByLabel(`Leave out ${name}`, { exact: true }).click();
    await page.getByLabel(`Why ${name} is left out`).fill('small pulley');
    await page.getByLabel(`Why ${name} is left out`).press('Enter');
  }
  await expect(page.getByText('Left out: small pulley')).toHaveCount(2);
  await expect(answer(page)).toHaveText(/^(Gain: Ridley 82 made|Can’t tell yet:) \+\d\.\d % over the top third/);
  await expect(page.getByText('2 runs are left out, each with its reason.')).toBeVisible();
  await page.reload();
  await expect(page.getByText('Left out: small pulley')).toHaveCount(2);
  await expect(answer(page)).toHaveText(/^(Gain: Ridley 82|Can’t tell yet)/);
  await expect(page.getByText(/With what was left out: /)).toBeVisible();
  await page.getByLabel('Count heron ridley 82 small pulley a again').click();
  await expect(answer(page)).toHaveText(/^Not a fair comparison/);
});

test('the stand-in dyno pulls live on the same screen, and the pull is a run with its file', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Live pull')}/test`);
  await expect(answer(page)).toHaveText(/^No runs yet/);
  await page.getByText('Practice dyno', { exact: true }).click();
  await page.getByLabel('Sweep, rpm a second').fill('2000');
  await page.getByRole('button', { name: 'Pull', exact: true }).click();
  await expect(page.getByRole('img', { name: 'Power over engine speed, as it comes in' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Lift off' })).toBeVisible();
  await expect(page.getByLabel(/^Details of practice dyno stock 1/)).toBeVisible({ timeout: 20_000 });
  await expect(answer(page)).toHaveText('The new side is missing.');
  await page.getByLabel(/^Details of practice dyno stock 1/).click();
  await expect(page.getByText(/So it makes [\d.]+ kW at/)).toBeVisible();
  await expect(page.getByText('No line was left out.')).toBeVisible();
});

test('practice: the truth stays hidden until the person has planned, run and decided; then they are scored', async ({
  quietPage: page,
}) => {
  test.slow();
  const address = await newJob(page, 'Practice car');
  await page.goto(`${address}/test?view=plan`);
  await expect(answer(page)).toHaveText(/^12 runs, stock, new, stock, new: .* in \d+ of 100 such tests/);
  // The table is the page's own work: once it is there, fields listen.
  await expect(page.getByRole('table', { name: 'Orders of the day' }).or(page.locator('.ant-table')).first()).toBeVisible();
  await page.getByLabel('Runs a stay', { exact: true }).fill('2');
  await expect(answer(page)).toHaveText(/^8 runs/);
  await expect(saved(page)).toBeVisible();
  await page.getByLabel('Part of the test').getByText('Practice', { exact: true }).click();
  await page.getByRole('button', { name: 'Begin a session' }).click();
  await expect(answer(page)).toHaveText('No answer yet: pull stock and the new part.');
  const pulls = page.getByRole('table', { name: 'Runs of the session' }).locator('tbody tr');
  for (const [i, side] of ['stock', 'the new part', 'stock'].entries()) {
    await page.locator('aside').getByText(side, { exact: true }).click();
    await page.getByRole('button', { name: 'Pull', exact: true }).click();
    await expect(pulls).toHaveCount(i + 1, { timeout: 40_000 });
  }
  // The truth is drawn anew each time: a large one shows even in three runs.
  await expect(answer(page)).toHaveText(/^(Can’t tell yet|Gain|Loss|No difference that matters)/);
  await expect(page.getByText(/min so far/)).toBeVisible();
  await choices(page, 'Your decision', 'no difference that matters');
  await page.getByRole('button', { name: 'That is my answer' }).click();
  await expect(answer(page)).toHaveText(/^(Right|Right, by luck: the runs did not carry it|Wrong): truly [+−\d]/);
  await expect(page.getByText('it took')).toBeVisible();
  await expect(page.getByText('your runs could carry')).toBeVisible();
  await expect(page.getByText(/The cheapest day that would as a rule have told|No day that anybody drives/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Begin a session' })).toBeVisible();
});

test('a log shows its pull, its manners and what is held; the keyboard moves it', async ({ quietPage: page }) => {
  await openJob(page, 'Larkspur estate', 'test');
  await page.getByText('Datalog', { exact: true }).click();
  await expect(answer(page)).toHaveText(
    /^(Snappier|No snappier|Lazier|Snappier or not, these logs can’t tell): air follows the throttle in 0\.\d\d s/,
  );
  const traces = page.getByTestId('traces');
  await expect(traces).toHaveAttribute('aria-label', /engine speed, throttle, .* over time, 0\.0 to/);
  await traces.focus();
  await page.keyboard.press('+');
  await page.keyboard.press('ArrowRight');
  await expect(traces).not.toHaveAttribute('aria-label', / 0\.0 to /);
  await page.keyboard.press('Home');
  await expect(traces).toHaveAttribute('aria-label', / 0\.0 to /);
  await expect(page.getByText('gear 3').first()).toBeVisible();
  await page.getByLabel('As the pull passes').fill('3000');
  await expect(page.getByRole('row', { name: /^inlet air/ }).last()).toBeVisible();
  await page.getByText('distance', { exact: true }).click();
  await expect(page.getByRole('img', { name: /of each log’s pull over distance/ }).first()).toBeVisible();
  // A pull's end is set by hand, and stays.
  await page.getByLabel('pull 1 to').fill('40');
  await page.getByLabel('pull 1 to').press('Enter');
  await expect(page.getByText('set by hand')).toBeVisible();
  await page.reload();
  await expect(page.getByText('set by hand')).toBeVisible();
});

test('a table pasted from a spreadsheet is a run', async ({ quietPage: page }) => {
  await page.goto(`${await newJob(page, 'Pasted')}/test`);
  await expect(answer(page)).toHaveText(/^No runs yet/);
  await page.evaluate(
    (text) => {
      const data = new DataTransfer();
      data.setData('text/plain', text);
      document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
    },
    pull(1).replaceAll(',', '\t'),
  );
  await expect(page.getByLabel('Details of pasted 1')).toBeVisible();
});

test('a big import can be cancelled, and the server killed in the middle of one leaves no half run: it can be repeated', async ({
  page,
  app,
}) => {
  test.slow();
  await page.goto(`${await newJob(page, 'Killed import')}/test`);
  await expect(answer(page)).toHaveText(/^No runs yet/);
  const one = pull(1).split('\n').slice(4, -1);
  const header = pull(1).split('\n').slice(0, 4);
  const big = [...header, ...Array.from({ length: 4000 }, () => one).flat(), ''].join('\n');
  const upload = file('stock big.csv', big);
  await page.getByTestId('files').setInputFiles(upload);
  await expect(page.getByText(/^(reading|storing)…$/)).toBeVisible({ timeout: 30_000 });
  await app.stop('SIGKILL');
  await expect(alerts(page)).toHaveText(/server/);
  await app.start();
  await page.reload();
  await expect(answer(page)).toHaveText(/^No runs yet/);
  await page.getByTestId('files').setInputFiles(upload);
  await expect(page.getByText(/^(reading|storing)…$/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('stock big.csv')).toBeHidden();
  await page.reload();
  await expect(answer(page)).toHaveText(/^No runs yet/);
  await page.getByTestId('files').setInputFiles(upload);
  await expect(page.getByLabel(/^Details of stock big/).first()).toBeVisible({ timeout: 60_000 });
});

test('a key made on its page lets another program send a file, and the document says how', async ({ page, app }) => {
  await page.goto('/keys');
  await page.getByLabel('What will use the key').fill('the dyno');
  await page.getByRole('button', { name: 'Make a key' }).click();
  const token = await page.getByLabel('The new key').inputValue();
  await expect(answer(page)).toHaveText('1 key opens writing through the API.');
  const document = (await (await fetch(`${app.url}/api/v1/openapi.json`)).json()) as { paths: Record<string, object> };
  expect(Object.keys(document.paths)).toContain('/jobs/{id}/runs');
  const id = (await newJob(page, 'By key')).split('/').at(-1)!;
  const send = (authorization?: string): Promise<Response> =>
    fetch(`${app.url}/api/v1/jobs/${id}/runs?fileName=stock.csv&side=stock`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream', ...(authorization && { authorization }) },
      body: readFileSync(join('samples', 'larkspur-stock-58-again.csv')),
    });
  expect((await send()).status).toBe(401);
  const done = await send(`Bearer ${token}`);
  expect(done.status).toBe(201);
  expect(await done.json()).toMatchObject({ known: false, runs: [{ doc: { side: { kind: 'stock' } } }] });
  await page.getByLabel('Revoke the dyno').click();
  await page.getByRole('button', { name: 'Revoke it' }).click();
  await expect(answer(page)).toHaveText(/^Nothing else can write here/);
  expect((await send(`Bearer ${token}`)).status).toBe(401);
});
