'use client';

import { Button } from 'antd';
import { usePathname, useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useState, useSyncExternalStore } from 'react';
import { outbox } from './outbox';
import { usePrefs } from '@/ui/theme/prefs';
import styles from './offline.module.css';
import { useWaiting } from './use-outbox';
import { msg } from './messages';

/** The server is asked whether it is there this often while it is not, ms. */
const ASK_ms = 4000;
/** A page older than this when it opens may have come out of this browser's own keeping, ms. */
const OLD_ms = 30_000;
const MINUTE_ms = 60_000;

/** How long ago, in the coarsest words that are still true. */
function ageText(ms: number): string {
  const minutes = Math.round(ms / MINUTE_ms);
  if (minutes < 1) return 'less than a minute ago';
  if (minutes < 90) return `${minutes} min ago`;
  const hours = Math.round(minutes / 60);
  return hours < 36 ? `${hours} h ago` : `${Math.round(hours / 24)} days ago`;
}

const answers = (): Promise<boolean> =>
  fetch('/api/health', { cache: 'no-store' }).then(
    (r) => r.ok,
    () => false,
  );

/** Whether the server answers: asked when something went wrong, when this page may be an old one, and until it answers again. */
function useServer(renderedAt_ms: number): { there: boolean; age_ms: number } {
  const [there, setThere] = useState(true);
  const [age_ms, setAge] = useState(0);
  const reached = useSyncExternalStore(
    (changed) => outbox().subscribe(changed),
    () => outbox().isConnected(),
    () => true,
  );
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let ended = false;
    const ask = async (): Promise<void> => {
      clearTimeout(timer);
      const now = await answers();
      if (ended) return;
      setThere(now);
      setAge(Date.now() - renderedAt_ms);
      if (now) void outbox().flush();
      else timer = setTimeout(() => void ask(), ASK_ms);
    };
    const lost = (): void => void ask();
    if (!navigator.onLine || !reached || Date.now() - renderedAt_ms > OLD_ms) void ask();
    window.addEventListener('online', lost);
    window.addEventListener('offline', lost);
    return () => {
      ended = true;
      clearTimeout(timer);
      window.removeEventListener('online', lost);
      window.removeEventListener('offline', lost);
    };
  }, [reached, renderedAt_ms]);
  return { there, age_ms };
}

/** Registers the worker that keeps pages, hands it what is open, and says when a new release waits. */
function useKeeper(): { fresh: boolean; takeOver: () => void } {
  const path = usePathname();
  const search = useSearchParams().toString();
  const [waiting, setWaiting] = useState<ServiceWorker | null>(null);
  useEffect(() => {
    const { serviceWorker } = navigator as { serviceWorker?: ServiceWorkerContainer };
    if (!serviceWorker || process.env.NODE_ENV !== 'production') return;
    let ended = false;
    const offer = (r: ServiceWorkerRegistration): void => {
      if (!ended && r.waiting && serviceWorker.controller) setWaiting(r.waiting);
    };
    void serviceWorker.register('/sw.js', { updateViaCache: 'none' }).then(
      (r: ServiceWorkerRegistration | undefined) => {
        // Where workers are shut off by whoever runs the browser there is none, and no refusal either.
        if (!r) return;
        offer(r);
        r.addEventListener('updatefound', () => r.installing?.addEventListener('statechange', () => offer(r)));
      },
      () => {},
    );
    return () => {
      ended = true;
    };
  }, []);
  useEffect(() => {
    const { serviceWorker } = navigator as { serviceWorker?: ServiceWorkerContainer };
    if (!serviceWorker) return;
    // Once the page has settled: keeping it must not be in the way of opening it.
    const timer = setTimeout(() => {
      void serviceWorker.ready.then((r) =>
        r.active?.postMessage({
          type: 'keep',
          url: `${path}${search === '' ? '' : `?${search}`}`,
          assets: performance
            .getEntriesByType('resource')
            .map((e) => e.name)
            .filter((n) => n.startsWith(`${location.origin}/_next/static/`)),
        }),
      );
    }, 1500);
    return () => clearTimeout(timer);
  }, [path, search]);
  const takeOver = useCallback(() => {
    navigator.serviceWorker.addEventListener('controllerchange', () => location.reload(), { once: true });
    waiting?.postMessage({ type: 'take over' });
  }, [waiting]);
  return { fresh: waiting !== null, takeOver };
}

/** One line over every page while something is not as usual: no server, things that wait, a new release. Otherwise nothing. */
export function Connection({ renderedAt_ms, signedIn }: { renderedAt_ms: number; signedIn: boolean }) {
  const { dates } = usePrefs();
  const { there, age_ms } = useServer(renderedAt_ms);
  const { fresh, takeOver } = useKeeper();
  const items = useWaiting();
  const waiting = items.filter((i) => i.refused === null).length;
  const refused = items.length - waiting;
  const signedOut = useSyncExternalStore(
    (changed) => outbox().subscribe(changed),
    () => outbox().isSignedOut(),
    () => false,
  );
  const kept = typeof window !== 'undefined' && window.isSecureContext;
  const lines: string[] = [];
  if (!there) {
    lines.push(`No connection. This page is as of ${dates.dayTime(renderedAt_ms)}, ${ageText(age_ms)}.`);
    lines.push(
      kept
        ? 'Pages opened on this device before open again; what you write is kept here and goes out by itself.'
        : 'This address is plain HTTP, so this browser keeps no pages: leave this one open. What you write waits here and goes out by itself.',
    );
  }
  if (waiting > 0) lines.push(`${waiting} ${waiting === 1 ? 'thing waits' : 'things wait'} here to be sent.`);
  if (signedOut && waiting > 0) lines.push(signedIn ? 'The sign-in has run out.' : 'The server wants the shop’s passphrase first.');
  if (refused > 0) lines.push(`${refused} ${refused === 1 ? 'was' : 'were'} not taken: open the job to see why.`);
  if (lines.length === 0 && !fresh) return null;
  return (
    <div className={`${styles['line']} no-print`} data-tone={there ? 'plain' : 'away'} role="status">
      <span suppressHydrationWarning>{lines.join(' ')}</span>
      {signedOut && waiting > 0 && <a href={`/sign-in?to=${encodeURIComponent(location.pathname)}`}>{msg.signInAgain}</a>}
      {fresh && (
        <>
          <span>{msg.aNewReleaseIsHereWhat}</span>
          <Button size="small" onClick={takeOver}>
            {msg.takeIt}
          </Button>
        </>
      )}
    </div>
  );
}
