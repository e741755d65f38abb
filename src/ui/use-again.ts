'use client';

import { useEffect, useState } from 'react';

/** What the server could not give is asked for again after so long, ms. */
const AGAIN_MS = 5000;

/** A count that goes up while something has failed, every few seconds and as soon as the network is back: who hangs on it asks again. */
export function useAgain(failed: boolean): number {
  const [tries, setTries] = useState(0);
  useEffect(() => {
    if (!failed) return undefined;
    const again = (): void => setTries((n) => n + 1);
    const timer = setInterval(again, AGAIN_MS);
    window.addEventListener('online', again);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', again);
    };
  }, [failed]);
  return tries;
}
