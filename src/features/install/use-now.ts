'use client';

import { useSyncExternalStore } from 'react';

let second = 0;
let ticking: ReturnType<typeof setInterval> | undefined;
const listeners = new Set<() => void>();
function tick(): void {
  second = Date.now();
  listeners.forEach((l) => l());
}
function subscribe(changed: () => void): () => void {
  listeners.add(changed);
  ticking ??= setInterval(tick, 1000);
  // The first time is shown at once, and not while the page is being put together.
  const soon = setTimeout(tick, 0);
  return () => {
    clearTimeout(soon);
    listeners.delete(changed);
    if (listeners.size > 0) return;
    clearInterval(ticking);
    ticking = undefined;
  };
}
/** The time by this device's clock, once a second; only ever read against stamps. */
export const useNow = (): number =>
  useSyncExternalStore(
    subscribe,
    () => second,
    () => 0,
  );
