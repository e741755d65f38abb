import { useSyncExternalStore } from 'react';
import type * as schemas from '@/core/documents/schemas';

/** What documents are checked by before they are sent. */
export type Checks = typeof schemas;

let here: Checks | null = null;
let coming: Promise<Checks> | null = null;
const waiting = new Set<() => void>();

/** Takes the checks as loaded, or as on their way: for who has them at hand. */
export function giveChecks(checks: Checks | Promise<Checks> | null): void {
  here = checks instanceof Promise ? null : checks;
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

/** A line that hangs holds nobody up for longer, ms. */
const PATIENCE_ms = 3000;

/** The checks where they can be had soon, else null: what was typed then goes to the server unchecked, which says what is wrong. */
export function checksSoon(): Promise<Checks | null> {
  if (here) return Promise.resolve(here);
  return new Promise((resolve) => {
    const late = setTimeout(() => resolve(here), PATIENCE_ms);
    void loadChecks()
      .catch(() => null)
      .then((checks) => {
        clearTimeout(late);
        resolve(checks);
      });
  });
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
