'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { SheetEventDoc } from '@/core/documents/sheet';
import type { SheetEvent } from '@/core/install/run-sheet';
import { send, type Refused } from '@/ui/post';

/** What a person writes; who, when and its mark are added here. */
export type Entry = SheetEvent extends infer E ? (E extends SheetEvent ? Omit<E, 'who' | 'at_ms'> : never) : never;

export interface SheetLog {
  /** Kept by the server. */
  readonly kept: readonly SheetEventDoc[];
  /** Written down here, on its way: nothing is lost while the connection is. */
  readonly waiting: readonly SheetEventDoc[];
  /** What others wrote about the same step or check while this device was away. */
  readonly met: readonly { readonly mine: SheetEventDoc; readonly theirs: SheetEventDoc }[];
  /** Why the last one was not taken. */
  readonly refused: string | null;
  readonly write: (entry: Entry, who: string, at_ms?: number) => void;
}

/** A connection that was lost is tried again after this, ms. */
const AGAIN_MS = 3000;
const keyOf = (jobId: string): string => `vanner-sheet-${jobId}`;

function readWaiting(jobId: string): SheetEventDoc[] {
  try {
    return JSON.parse(localStorage.getItem(keyOf(jobId)) ?? '[]') as SheetEventDoc[];
  } catch {
    return [];
  }
}

/** The step, check or bag an event speaks of. */
const subjectOf = (e: SheetEventDoc): string | null => ('step' in e ? e.step : 'gate' in e ? e.gate : 'bag' in e ? e.bag : null);
/** An event that had to wait this long was written without a connection, ms. */
const WAITED_MS = 2500;

/** A job's run-sheet: events go to the server one after the other, wait here while it is away, and survive a reload. */
export function useSheet(jobId: string, written: readonly SheetEventDoc[]): SheetLog {
  const [kept, setKept] = useState(written);
  const [waiting, setWaiting] = useState<readonly SheetEventDoc[]>([]);
  const [refused, setRefused] = useState<string | null>(null);
  const [met, setMet] = useState<SheetLog['met']>([]);
  const seen = useRef(new Set(written.map((e) => e.id)));
  const queue = useRef<SheetEventDoc[]>([]);
  const busy = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  const keep = useCallback((): void => {
    localStorage.setItem(keyOf(jobId), JSON.stringify(queue.current));
    setWaiting([...queue.current]);
  }, [jobId]);

  const flush = useCallback(async (): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    clearTimeout(timer.current);
    while (queue.current.length > 0) {
      try {
        const mine = queue.current[0]!;
        const events = await send<SheetEventDoc[]>('POST', `/api/jobs/${jobId}/sheet`, mine);
        setKept(events);
        const others = events.filter((e) => !seen.current.has(e.id) && e.id !== mine.id);
        const same = others.filter((e) => subjectOf(e) !== null && subjectOf(e) === subjectOf(mine) && e.type !== mine.type);
        if (Date.now() - mine.at_ms > WAITED_MS && same.length > 0)
          setMet((list) => [...list, ...same.map((theirs) => ({ mine, theirs }))]);
        if (queue.current.length === 1) events.forEach((e) => seen.current.add(e.id));
        queue.current.shift();
        keep();
      } catch (error) {
        const { status, message } = error as Refused;
        // Refused for good: it leaves the queue and says why. Anything else waits and is sent again.
        if (status >= 400 && status < 500) {
          queue.current.shift();
          keep();
          setRefused(message);
          continue;
        }
        timer.current = setTimeout(() => void flush(), AGAIN_MS);
        break;
      }
    }
    busy.current = false;
  }, [jobId, keep]);

  useEffect(() => {
    queue.current = readWaiting(jobId);
    // What waited from before a reload is shown and sent once the page stands.
    const first = setTimeout(() => {
      setWaiting([...queue.current]);
      void flush();
    }, 0);
    const online = (): void => void flush();
    window.addEventListener('online', online);
    return () => {
      clearTimeout(first);
      clearTimeout(timer.current);
      window.removeEventListener('online', online);
    };
  }, [jobId, flush]);

  const write = useCallback(
    (entry: Entry, who: string, at_ms: number = Date.now()): void => {
      setRefused(null);
      queue.current.push({ ...entry, id: crypto.randomUUID(), who, at_ms } as SheetEventDoc);
      keep();
      void flush();
    },
    [keep, flush],
  );
  return { kept, waiting, met, refused, write };
}
