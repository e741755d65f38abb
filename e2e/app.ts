import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import net from 'node:net';
import { parse } from 'node-html-parser';
import { test as base, expect, type Page } from '@playwright/test';
import { ownDatabase } from './template';

/** The database reached through a cable that a test can pull. */
class Cable {
  private readonly sockets = new Set<net.Socket>();
  private server: net.Server | null = null;
  port = 0;

  constructor(private readonly target: { host: string; port: number }) {}

  plug(): Promise<void> {
    return new Promise((resolve) => {
      this.server = net.createServer((near) => {
        const far = net.connect(this.target.port, this.target.host);
        for (const s of [near, far]) {
          this.sockets.add(s);
          s.on('error', () => s.destroy());
          s.on('close', () => this.sockets.delete(s));
        }
        near.pipe(far);
        far.pipe(near);
        // A cut that is no orderly end (a killed server's reset) goes through as well, else its transaction would hold its locks.
        near.on('close', () => far.destroy());
        far.on('close', () => near.destroy());
      });
      this.server.listen(this.port, '127.0.0.1', () => {
        this.port = (this.server!.address() as net.AddressInfo).port;
        resolve();
      });
    });
  }

  pull(): void {
    this.server?.close();
    this.server = null;
    for (const s of this.sockets) s.destroy();
  }
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = net.createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as net.AddressInfo;
      server.close(() => resolve(port));
    });
  });

export class App {
  url = '';
  private child: ChildProcess | null = null;
  private constructor(
    readonly cable: Cable,
    private readonly databaseUrl: string,
    private readonly port: number,
    /** Past the cable, for a test that works on the database itself. */
    readonly directUrl: string,
  ) {}

  /** A server on a database of its own, with the demo in it unless `empty`. */
  static async begin(empty = false): Promise<App> {
    const direct = new URL(await ownDatabase(`e2e_${randomUUID().slice(0, 8)}`, empty));
    const cable = new Cable({ host: direct.hostname, port: Number(direct.port) });
    await cable.plug();
    const through = new URL(direct);
    through.port = String(cable.port);
    const app = new App(cable, through.href, await freePort(), direct.href);
    await app.start();
    return app;
  }

  async start(): Promise<void> {
    this.url = `http://127.0.0.1:${this.port}`;
    const env: NodeJS.ProcessEnv = { ...process.env, NODE_ENV: 'production', DATABASE_URL: this.databaseUrl };
    this.child = spawn(process.execPath, ['scripts/web.mjs', '127.0.0.1', String(this.port)], {
      env,
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    await expect
      .poll(
        () =>
          fetch(`${this.url}/api/health`).then(
            (r) => r.ok,
            () => false,
          ),
        { timeout: 30_000 },
      )
      .toBe(true);
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  }

  async end(): Promise<void> {
    await this.stop();
    this.cable.pull();
  }
}

/**
 * Has a page wait until it listens whenever it is opened anew: a page as the server sends it does not, and what a program clicks
 * then, quicker than a hand, is lost.
 */
export function listening(page: Page): Page {
  const listens = (): Promise<void> => expect(page.locator('[data-listens="false"]')).toHaveCount(0);
  const goto = page.goto.bind(page);
  page.goto = async (...args) => {
    const response = await goto(...args);
    await listens();
    return response;
  };
  const reload = page.reload.bind(page);
  page.reload = async (...args) => {
    const response = await reload(...args);
    await listens();
    return response;
  };
  return page;
}

/** Where a walk failed, and what lay over the page or was told in passing: for who has no more than what the checks printed. */
async function onTop(page: Page): Promise<string> {
  const lying = page.locator('[role="dialog"], [role="alert"], [role="status"], .ant-message-notice').filter({ visible: true });
  const texts = await lying.allInnerTexts().catch(() => []);
  return [
    `At ${page.url()}`,
    ...texts
      .map((t) => t.replaceAll(/\s+/g, ' ').trim())
      .filter((t) => t !== '')
      .map((t) => `  over it: ${t}`),
  ].join('\n');
}

/**
 * `app`: a server of its own for each file, with the demo data: every file names its `shop`, and another shop is another worker,
 * so that no file meets what an earlier one left. `quietPage` complains about anything the browser complains about.
 */
export const test = base.extend<{ quietPage: Page }, { app: App; shop: string }>({
  shop: ['', { option: true, scope: 'worker' }],
  app: [
    async ({}, use) => {
      const app = await App.begin();
      await use(app);
      await app.end();
    },
    { scope: 'worker', timeout: 90_000 },
  ],
  baseURL: async ({ app }, use) => {
    await use(app.url);
  },
  page: async ({ page }, use, info) => {
    listening(page);
    await use(page);
    if (info.status !== info.expectedStatus) console.log(await onTop(page));
  },
  quietPage: async ({ page }, use) => {
    const complaints: string[] = [];
    page.on('console', (m) => {
      if (m.type() === 'error') complaints.push(`${m.text()} (${m.location().url})`);
    });
    page.on('pageerror', (e) => complaints.push(e.message));
    await use(page);
    expect(complaints).toEqual([]);
  },
});

/** Chooses from an open menu once it has come to rest: what still moves is scrolled to on a busy machine, and slips from under the click. */
export async function choose(page: Page, what: string): Promise<void> {
  const item = page.getByRole('menuitem', { name: what });
  await item.waitFor();
  await expect(page.locator('.ant-dropdown[class*="-enter"], .ant-dropdown[class*="-appear"]')).toHaveCount(0);
  await item.click();
}

/** Chooses from a list that was opened, once it has come to rest, as from a menu. */
async function option(page: Page, what: string): Promise<void> {
  const list = page.locator('.ant-select-dropdown:visible');
  const item = list.locator('.ant-select-item-option').filter({ hasText: new RegExp(`^${what.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}$`) });
  await item.waitFor();
  await expect(page.locator('.ant-select-dropdown[class*="-enter"], .ant-select-dropdown[class*="-appear"]')).toHaveCount(0);
  await item.click();
}

/** Opens the list of a field and chooses from it. */
export async function choices(page: Page, field: string, what: string): Promise<void> {
  await page.getByRole('combobox', { name: field }).click();
  await option(page, what);
}

/** Chooses from the menu behind a job's dots on the board. */
export async function ofJob(page: Page, name: string, what: string): Promise<void> {
  await page
    .getByRole('button', { name: `More for ${name}`, exact: true })
    .first()
    .click();
  await choose(page, what);
}

/**
 * Address of a job by its name: the oldest of that name, or the newest of copies. Looked for: what the tests before have made
 * may have pushed it off the board's first page. Read from the board as the server sends it: to draw it costs two seconds.
 */
export async function jobAddress(page: Page, name: string): Promise<string> {
  const board = await page.request.get(`/?q=${encodeURIComponent(name)}&sort=number${name.endsWith('(copy)') ? '' : '&up=1'}`);
  // What follows the name tells a job from its copy.
  const exact = new RegExp(`^${name.replace(/[()]/g, '\\$&')}(?! \\()`);
  const link = parse(await board.text())
    .querySelectorAll('a[href^="/jobs/"]')
    .find((a) => exact.test(a.textContent.trim()));
  if (!link) throw new Error(`The board shows no job "${name}".`);
  return link.getAttribute('href')!;
}

/** Opens the first job whose name holds the words, at a stop. */
export async function openJob(page: Page, name: string, stop = 'air'): Promise<void> {
  const href = await jobAddress(page, name);
  await page.goto(href.replace(/[a-z]+$/, stop));
}

/** A fresh job from a preset; returns its address without the stop. */
export async function newJob(page: Page, name: string, preset = 'straight six, 2.9 L'): Promise<string> {
  const response = await page.request.post('/api/jobs', { data: { name, preset } });
  expect(response.status()).toBe(201);
  return `/jobs/${((await response.json()) as { id: string }).id}`;
}

/** A copy of a job, without its runs, by its own id: other tests may have left copies of the same name. Opens it at Test. */
export async function copyOf(page: Page, name: string): Promise<void> {
  const href = await jobAddress(page, name);
  const response = await page.request.post('/api/jobs', { data: { duplicateOf: href.split('/')[2] } });
  expect(response.status()).toBe(201);
  await page.goto(`/jobs/${((await response.json()) as { id: string }).id}/test`);
}

/** What is said to be wrong on the page; the frame's own announcer is not meant. */
export const alerts = (page: Page) => page.locator('[role=alert]:not(#__next-route-announcer__)');
export const answer = (page: Page) => page.getByRole('heading', { level: 1 });
export const saved = (page: Page) => page.getByRole('status').filter({ hasText: /^No\. \d+ · saved/ });

export { expect };
