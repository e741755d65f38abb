'use client';

import { useMemo, useSyncExternalStore } from 'react';
import { outbox, type Waiting } from './outbox';

const NONE: readonly Waiting[] = [];

/** What waits in this browser to be sent, of one job or of all. */
export function useWaiting(jobId?: string): readonly Waiting[] {
  const all = useSyncExternalStore(
    (changed) => outbox().subscribe(changed),
    () => outbox().list(),
    () => NONE,
  );
  return useMemo(() => (jobId === undefined ? all : all.filter((i) => i.jobId === jobId)), [all, jobId]);
}
