'use client';

import { useEffect, useState } from 'react';

/** What the server could not give is asked for again after so long, then after twice that, and so on to a minute, ms. */
const AGAIN_MS = 5000;
const RAREST_MS = 60_000;

/**
 * A count that goes up while something has failed, soon at first and rarer then (it may be gone for good), and as soon as the
 * network is back: who hangs on it asks again.
 */
export function useAgain(failed: boolean): number {
  const [tries, setTries] = useState(0);
  useEffect(() => {
    if (!failed) return undefined;
    let pause_ms = AGAIN_MS;
    let timer: ReturnType<typeof setTimeout>;
    const again = (): void => setTries((n) => n + 1);
    const wait = (): void => {
      timer = setTimeout(() => {
        again();
        pause_ms = Math.min(2 * pause_ms, RAREST_MS);
        wait();
      }, pause_ms);
    };
    wait();
    window.addEventListener('online', again);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('online', again);
    };
  }, [failed]);
  return tries;
}
