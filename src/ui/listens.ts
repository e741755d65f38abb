'use client';

import { useSyncExternalStore } from 'react';

const never = (): (() => void) => () => {};

/** Whether the page has begun to listen: as the server sends it, buttons do nothing yet. */
export const useListens = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
