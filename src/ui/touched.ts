import { useEffect } from 'react';

const SIGNS = ['pointermove', 'pointerdown', 'touchstart', 'keydown', 'focusin', 'beforeprint'] as const;

/** Runs this at the first sign of somebody at the page, once. Returns how to stop waiting for one. */
export function whenTouched(run: () => void): () => void {
  const begin = (): void => {
    end();
    run();
  };
  const end = (): void => SIGNS.forEach((sign) => window.removeEventListener(sign, begin, true));
  SIGNS.forEach((sign) => window.addEventListener(sign, begin, { capture: true, passive: true }));
  return end;
}

/**
 * Has something fetched at the first sign of somebody at the page: it is here before they come to use it, and kept for where
 * there is no network. `fetch` is one and the same function at every drawing.
 */
export function useWhenTouched(fetch: () => Promise<unknown>): void {
  // What could not be had is asked for again where it is used, and missed there in words.
  useEffect(() => whenTouched(() => void fetch().catch(() => undefined)), [fetch]);
}
