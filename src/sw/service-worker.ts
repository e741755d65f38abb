/// <reference lib="webworker" />
import { CacheFirst, ExpirationPlugin, NetworkFirst, NetworkOnly, Serwist, type SerwistPlugin } from 'serwist';

declare const self: ServiceWorkerGlobalScope;
/** Set by the bundler: another release has another one, and so is another worker. */
declare const RELEASE: string;

const PAGES = 'vanner-pages';
const DATA = 'vanner-data';
const ASSETS = 'vanner-assets';
const DAY_s = 86_400;
/** A page that has not come by then is shown as it was kept, s. */
const PATIENCE_s = 6;
/** A page kept this recently is not fetched again for keeping, ms. */
const FRESH_ms = 60_000;
const OFFLINE = '/offline.html';

/** Only what is whole and is what was asked for: never a refusal, nor the way in that a page was sent to instead. */
const whole: SerwistPlugin = {
  cacheWillUpdate: ({ response }) => Promise.resolve(response.status === 200 && !response.redirected ? response : null),
};

/**
 * Threads of pages share one file and are told apart behind its address (#…). A kept answer remembers the address of the thread
 * it was first kept for, and the next one would do that one's work: it is handed on without an address.
 */
const itsOwnThread: SerwistPlugin = {
  cachedResponseWillBeUsed: ({ cachedResponse, request }) =>
    Promise.resolve(
      cachedResponse && request.destination === 'worker'
        ? new Response(cachedResponse.body, { status: cachedResponse.status, headers: cachedResponse.headers })
        : cachedResponse,
    ),
};

/** What this page's own data is: small answers that change with the job; never streams, downloads or what only this moment is true. */
const isData = (url: URL): boolean =>
  /^\/api\/(jobs|units|shop|strip|runs|files|parts|practice)\b/.test(url.pathname) &&
  !/\/(sheet\/live|archive|package|pdf|original)$/.test(url.pathname);

const pages = new NetworkFirst({
  cacheName: PAGES,
  networkTimeoutSeconds: PATIENCE_s,
  plugins: [whole, new ExpirationPlugin({ maxEntries: 200, maxAgeSeconds: 60 * DAY_s })],
});

const worker = new Serwist({
  skipWaiting: false,
  clientsClaim: true,
  navigationPreload: false,
  runtimeCaching: [
    {
      matcher: ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/_next/static/'),
      handler: new CacheFirst({
        cacheName: ASSETS,
        plugins: [whole, itsOwnThread, new ExpirationPlugin({ maxEntries: 400, maxAgeSeconds: 90 * DAY_s })],
      }),
    },
    {
      matcher: ({ url, sameOrigin, request }) =>
        sameOrigin && request.mode === 'navigate' && !/^\/(api|pair|c|sign-in)\b/.test(url.pathname),
      handler: {
        handle: (options) =>
          pages
            .handle(options)
            .catch(async () => (await caches.match(OFFLINE)) ?? new Response('Vanner cannot be reached.', { status: 503 })),
      },
    },
    {
      // Parts of pages for going from one to the next: without a network the browser falls back to the whole page, which is kept.
      matcher: ({ request }) => request.headers.has('rsc'),
      handler: new NetworkOnly(),
    },
    {
      matcher: ({ url, sameOrigin, request }) => sameOrigin && request.method === 'GET' && isData(url),
      handler: new NetworkFirst({
        cacheName: DATA,
        networkTimeoutSeconds: PATIENCE_s,
        plugins: [whole, new ExpirationPlugin({ maxEntries: 400, maxAgeSeconds: 60 * DAY_s })],
      }),
    },
  ],
});
worker.addEventListeners();

self.addEventListener('install', (event) => {
  event.waitUntil(caches.open(ASSETS).then((cache) => cache.add(new Request(OFFLINE, { cache: 'reload' }))));
});

/** A page that was come to from within the app was never asked for whole: it is kept now. */
async function keepPage(url: string): Promise<void> {
  const cache = await caches.open(PAGES);
  const known = await cache.match(url);
  const at = Date.parse(known?.headers.get('date') ?? '');
  if (Date.now() - at < FRESH_ms) return;
  const response = await fetch(url, { credentials: 'same-origin', headers: { accept: 'text/html' } });
  if (response.status === 200 && !response.redirected) await cache.put(url, response);
}

/** What a page had loaded before this worker was there. */
async function keepAssets(urls: readonly string[]): Promise<void> {
  const cache = await caches.open(ASSETS);
  for (const url of urls) if (!(await cache.match(url))) await cache.add(url).catch(() => {});
}

type Message =
  | { readonly type: 'keep'; readonly url: string; readonly assets: readonly string[] }
  | { readonly type: 'forget' }
  | { readonly type: 'take over' }
  | { readonly type: 'release' };

self.addEventListener('message', (event) => {
  const message = event.data as Message;
  switch (message.type) {
    case 'keep':
      event.waitUntil(Promise.all([keepPage(message.url), keepAssets(message.assets)]).catch(() => {}));
      return;
    case 'forget':
      event.waitUntil(Promise.all([caches.delete(PAGES), caches.delete(DATA)]));
      return;
    case 'take over':
      void self.skipWaiting();
      return;
    case 'release':
      event.ports[0]?.postMessage(RELEASE);
  }
});
