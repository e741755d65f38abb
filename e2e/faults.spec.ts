import { Client } from 'pg';
import { answer, expect, newJob, openJob, saved, test } from './app';

test.use({ shop: 'faults' });

/** Asks the server for a save over the version that stands, as the page does. */
async function save(url: string, id: string, goal: string): Promise<'kept' | 'refused' | 'away'> {
  try {
    const { version, doc } = (await (await fetch(`${url}/api/v1/jobs/${id}`)).json()) as { version: number; doc: { car: object } };
    const answered = await fetch(`${url}/api/jobs/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', origin: url },
      body: JSON.stringify({ version, doc: { ...doc, car: { ...doc.car, goal } } }),
    });
    return answered.ok ? 'kept' : answered.status === 503 ? 'away' : 'refused';
  } catch {
    return 'away';
  }
}
const goalOf = async (url: string, id: string): Promise<string> =>
  ((await (await fetch(`${url}/api/v1/jobs/${id}`)).json()) as { doc: { car: { goal: string } } }).doc.car.goal;
const idOf = (address: string): string => /jobs\/([0-9a-f-]+)/.exec(address)![1]!;

test('the database cut off and back again under load: what was acknowledged is there, everything else was told', async ({ page, app }) => {
  test.slow();
  const ids: string[] = [];
  for (const name of ['Load one', 'Load two', 'Load three']) ids.push(idOf(await newJob(page, name)));
  let going = true;
  const acknowledged = new Map<string, string[]>();
  const told = { kept: 0, refused: 0, away: 0 };
  const writers = ids.map(async (id) => {
    const kept: string[] = [];
    acknowledged.set(id, kept);
    for (let i = 0; going; i += 1) {
      const goal = `said ${i}`;
      const word = await save(app.url, id, goal);
      told[word] += 1;
      if (word === 'kept') kept.push(goal);
      else await new Promise((done) => setTimeout(done, 50));
    }
  });
  await expect.poll(() => told.kept).toBeGreaterThan(5);
  for (let cut = 0; cut < 3; cut += 1) {
    app.cable.pull();
    await new Promise((done) => setTimeout(done, 700));
    await app.cable.plug();
    const before = told.kept;
    await expect.poll(() => told.kept, { timeout: 30_000 }).toBeGreaterThan(before + 3);
  }
  going = false;
  await Promise.all(writers);
  expect(told.away).toBeGreaterThan(0);
  expect(told.refused).toBe(0);
  for (const id of ids) {
    const kept = acknowledged.get(id)!;
    const last = Number(kept.at(-1)!.split(' ')[1]);
    // A save whose answer was lost on the way may have landed after it; never an older one.
    expect(Number((await goalOf(app.url, id)).split(' ')[1])).toBeGreaterThanOrEqual(last);
  }
});

test('the server killed with saves on their way loses nothing that was acknowledged, and keeps no half', async ({ page, app }) => {
  test.slow();
  const id = idOf(await newJob(page, 'Killed'));
  const kept: string[] = [];
  let going = true;
  const writer = (async () => {
    for (let i = 0; going; i += 1) if ((await save(app.url, id, `said ${i}`)) === 'kept') kept.push(`said ${i}`);
  })();
  await expect.poll(() => kept.length).toBeGreaterThan(4);
  await app.stop('SIGKILL');
  going = false;
  await writer;
  await app.start();
  const now = Number((await goalOf(app.url, id)).split(' ')[1]);
  expect(now).toBeGreaterThanOrEqual(Number(kept.at(-1)!.split(' ')[1]));
  await page.goto(`/jobs/${id}/car`);
  await expect(answer(page)).toBeVisible();
});

test('a full disk is told in the page in plain words, what was typed stays, and is saved when there is room', async ({ page, app }) => {
  await page.goto(`${await newJob(page, 'Disk full')}/car`);
  await expect(page.locator('.js-plotly-plot')).toHaveCount(1);
  const database = new URL(app.directUrl);
  const admin = new Client({ connectionString: database.href });
  await admin.connect();
  // What PostgreSQL says when a write finds no room, from the very place where it would say it.
  await admin.query(`CREATE FUNCTION no_room() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN RAISE EXCEPTION 'could not extend file: No space left on device' USING ERRCODE = '53100'; END $$`);
  await admin.query('CREATE TRIGGER no_room BEFORE UPDATE ON job FOR EACH ROW EXECUTE FUNCTION no_room()');
  await page.getByLabel('Goal').fill('typed into a full disk');
  await expect(page.getByText(/The disk of the database is full/)).toBeVisible();
  await expect(page.getByLabel('Goal')).toHaveValue('typed into a full disk');
  await admin.query('DROP TRIGGER no_room ON job');
  await admin.query('DROP FUNCTION no_room');
  await admin.end();
  await page.getByLabel('Goal').fill('typed into a full disk, and once more');
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Goal')).toHaveValue('typed into a full disk, and once more');
});

test('every view says that the database is away, and is itself again when it is back', async ({ page, app }) => {
  await openJob(page, 'Larkspur estate', 'verdict');
  await expect(answer(page)).toHaveText(/^Keep it/);
  app.cable.pull();
  try {
    await page.getByRole('button', { name: 'Make a link' }).click();
    await expect(page.getByText('The database cannot be reached just now.')).toBeVisible();
    await page.goto('/settings');
    await expect(page.getByText('This page could not be put together.')).toBeVisible();
    expect((await fetch(`${app.url}/api/search?q=larkspur`)).status).toBe(503);
  } finally {
    await app.cable.plug();
  }
  await expect.poll(async () => (await fetch(`${app.url}/api/search?q=larkspur`)).status, { timeout: 20_000 }).toBe(200);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(answer(page)).toHaveText(/Quarry Lane/);
});

test('a view whose scripts cannot be fetched says so in its place, and comes when they can', async ({ page, context }) => {
  await openJob(page, 'Larkspur estate', 'test?view=plan');
  await expect(page.getByRole('row', { name: /alternate every run/ }).first()).toBeVisible();
  await context.setOffline(true);
  const views = page.getByLabel('Part of the test');
  await views.getByText('Strip', { exact: true }).click();
  await expect(answer(page)).toHaveText('This view could not be fetched: the server cannot be reached.');
  // The one that was open is still there, as the page says.
  await views.getByText('Plan', { exact: true }).click();
  await expect(answer(page)).toHaveText(/runs, /);
  await views.getByText('Strip', { exact: true }).click();
  await expect(page.getByRole('button', { name: 'Try again' })).toBeVisible();
  await context.setOffline(false);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(answer(page)).toHaveText(/trap speed/);
});
