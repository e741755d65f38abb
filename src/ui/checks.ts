import { useEffect, useSyncExternalStore } from 'react';
import type * as schemas from '@/core/documents/schemas';

/** What documents are checked by before they are sent. */
export type Checks = typeof schemas;

let here: Checks | null = null;
let coming: Promise<Checks> | null = null;
const waiting = new Set<() => void>();

/** Takes the checks as loaded: for who has them at hand. */
export function giveChecks(checks: Checks | null): void {
  here = checks;
  coming = checks && Promise.resolve(checks);
  for (const tell of [...waiting]) tell();
}

/** The checks if they are here already. */
export const checksHere = (): Checks | null => here;

/**
 * The checks, loaded when first asked for: they and their library are 35 kB that nobody needs who only reads. Rejects where
 * they cannot be had; the next call tries again.
 */
export function loadChecks(): Promise<Checks> {
  coming ??= import('@/core/documents/schemas').then(
    (checks) => {
      giveChecks(checks);
      return checks;
    },
    (error: unknown) => {
      coming = null;
      throw error;
    },
  );
  return coming;
}

/** The checks, or null while nobody has asked for them; the component draws again once they are here. */
export function useChecks(): Checks | null {
  return useSyncExternalStore(
    (tell) => {
      waiting.add(tell);
      return () => waiting.delete(tell);
    },
    checksHere,
    () => null,
  );
}

const SIGNS = ['pointermove', 'pointerdown', 'touchstart', 'keydown', 'focusin'] as const;

/**
 * Has something fetched at the first sign of somebody at the page: it is here before they come to use it, and kept for where
 * there is no network. `fetch` is one and the same function at every drawing.
 */
export function useWhenTouched(fetch: () => Promise<unknown>): void {
  useEffect(() => {
    const begin = (): void => {
      end();
      // What could not be had is asked for again where it is used, and missed there in words.
      void fetch().catch(() => undefined);
    };
    const end = (): void => SIGNS.forEach((sign) => window.removeEventListener(sign, begin, true));
    SIGNS.forEach((sign) => window.addEventListener(sign, begin, { capture: true, passive: true }));
    return end;
  }, [fetch]);
}
