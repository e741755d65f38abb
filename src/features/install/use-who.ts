'use client';

import { useState, useSyncExternalStore } from 'react';
import { PERSON_COOKIE } from '@/core/person-cookie';

const WHO_KEY = 'vanner-who';
const nothing = (): (() => void) => () => {};

/** Whoever the top bar says sits at this screen. */
const personHere = (): string => {
  const kept = new RegExp(`(?:^|;\\s*)${PERSON_COOKIE}=([^;]*)`).exec(document.cookie)?.[1] ?? '';
  try {
    return decodeURIComponent(kept);
  } catch {
    // Another server of this machine wrote it: cookies know no ports.
    return '';
  }
};

/** Who is at the car, remembered on this device; until somebody says, whoever sits at this screen. */
export function useWho(): [string, (who: string) => void] {
  const kept = useSyncExternalStore(
    nothing,
    () => localStorage.getItem(WHO_KEY) ?? personHere(),
    () => '',
  );
  const [typed, setTyped] = useState<string | null>(null);
  const set = (who: string): void => {
    localStorage.setItem(WHO_KEY, who);
    setTyped(who);
  };
  return [typed ?? kept, set];
}
