'use client';

import { useSyncExternalStore } from 'react';

const never = (): (() => void) => () => {};

/** Whether the page has begun to listen: as the server sends it, buttons do nothing yet. */
const useListens = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );

/** Says in the page itself whether it listens yet; for whoever drives it by program. */
export const Ready = () => <span hidden data-listens={useListens()} />;
