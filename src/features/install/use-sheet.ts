'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { SheetEventDoc } from '@/core/documents/sheet';
import type { SheetEvent } from '@/core/documents/sheet-event';
import { outbox, type Waiting } from '@/features/offline/outbox';
import { useWaiting } from '@/features/offline/use-outbox';
import { send } from '@/ui/post';
import { uuid } from '@/ui/uuid';

/** What a person writes; who, when, where and its mark are added here. */
export type Entry = SheetEvent extends infer E
  ? E extends SheetEvent
    ? Omit<E, 'who' | 'at_ms' | 'phone_ms' | 'kept_ms' | 'id' | 'device' | 'seen'>
    : never
  : never;

export interface SheetLog {
  /** Kept by the server. */
  readonly kept: readonly SheetEventDoc[];
  /** Written down here, on its way: nothing is lost while the connection is. */
  readonly waiting: readonly SheetEventDoc[];
  /** Photos on their way, by the mark that stands for their hash. */
  readonly photos: ReadonlyMap<string, Blob>;
  /** What the server would not take after it had waited here, with its reason. */
  readonly refusedLater: readonly Waiting[];
  /** Why the last one was not taken. */
  readonly refused: string | null;
  /** What others wrote since this page is open, the newest first. */
  readonly heard: readonly SheetEventDoc[];
  /** Whether news of others come in: at once, every two seconds, or not just now. */
  readonly live: 'live' | 'asking' | 'away';
  /** Add to this device's clock to have the server's, ms. */
  readonly clock_ms: number;
  readonly device: string;
  readonly write: (entry: Entry, who: string, at_ms?: number) => void;
  readonly addPhoto: (step: string, photo: Blob, who: string) => void;
}

const DEVICE_KEY = 'vanner-device';
const oldKey = (jobId: string): string => `vanner-sheet-${jobId}`;
/** Where the line for news breaks, they are asked for this often, ms. */
const ASK_ms = 2000;
const HEARD = 5;

/** This browser's own mark: what it wrote itself it knew of. */
function deviceId(): string {
  const known = localStorage.getItem(DEVICE_KEY);
  if (known !== null) return known;
  const made = uuid();
  localStorage.setItem(DEVICE_KEY, made);
  return made;
}

interface News {
  readonly events: readonly SheetEventDoc[];
  readonly count: number;
  readonly now_ms: number;
}

/** What an earlier release kept waiting in this browser goes the same way as everything since. */
function takeOver(jobId: string): void {
  try {
    const old = JSON.parse(localStorage.getItem(oldKey(jobId)) ?? '[]') as SheetEventDoc[];
    for (const e of old)
      void outbox()
        .add({ id: e.id, jobId, kind: 'sheet', url: `/api/jobs/${jobId}/sheet`, body: e })
        .catch(() => {});
  } catch {
    // Not ours to read.
  }
  localStorage.removeItem(oldKey(jobId));
}

/** A job's run-sheet: what this device writes goes through its outbox; what others write comes in as it is kept. */
export function useSheet(jobId: string, written: readonly SheetEventDoc[]): SheetLog {
  const [kept, setKept] = useState(written);
  const [refused, setRefused] = useState<string | null>(null);
  const [heard, setHeard] = useState<readonly SheetEventDoc[]>([]);
  const [live, setLive] = useState<SheetLog['live']>('live');
  const [clock_ms, setClock] = useState(0);
  const [device, setDevice] = useState('');
  const latest = useRef(written);
  const items = useWaiting(jobId);

  /** Takes what is kept as it stands on the server, or what is new on it. */
  const take = useCallback((events: readonly SheetEventDoc[]): void => {
    const known = new Set(latest.current.map((e) => e.id));
    const fresh = events.filter((e) => !known.has(e.id));
    if (fresh.length === 0) return;
    latest.current = [...latest.current, ...fresh];
    setKept(latest.current);
    const mine = deviceId();
    const theirs = fresh.filter((e) => e.device !== mine && e.type !== 'rpm');
    if (theirs.length > 0) setHeard((list) => [...theirs.toReversed(), ...list].slice(0, HEARD));
  }, []);

  useEffect(() => {
    const first = setTimeout(() => {
      setDevice(deviceId());
      takeOver(jobId);
    }, 0);
    const stop = outbox().onSent((item, answer) => {
      if (item.jobId !== jobId || (item.kind !== 'sheet' && item.kind !== 'photo')) return;
      const whole = answer as SheetEventDoc[];
      if (!Array.isArray(whole)) return;
      take(whole);
    });
    return () => {
      clearTimeout(first);
      stop();
    };
  }, [jobId, take]);

  useEffect(() => {
    if (typeof EventSource === 'undefined') return;
    let asking: ReturnType<typeof setInterval> | undefined;
    const whole = (): void =>
      void send<SheetEventDoc[]>('GET', `/api/jobs/${jobId}/sheet`).then(
        (events) => {
          take(events);
          setLive('asking');
        },
        () => setLive('away'),
      );
    const source = new EventSource(`/api/jobs/${jobId}/sheet/live?from=${latest.current.length}`);
    source.onmessage = (e: MessageEvent<string>) => {
      clearInterval(asking);
      asking = undefined;
      const news = JSON.parse(e.data) as News;
      setClock(news.now_ms - Date.now());
      setLive('live');
      take(news.events);
      if (news.count !== latest.current.length) whole();
    };
    // The browser takes the line up again by itself; until it has, the sheet is asked for.
    source.onerror = () => {
      asking ??= setInterval(whole, ASK_ms);
      whole();
    };
    return () => {
      clearInterval(asking);
      source.close();
    };
  }, [jobId, take]);

  const waiting = useMemo(() => {
    const keptIds = new Set(kept.map((e) => e.id));
    return items.flatMap((i): SheetEventDoc[] => {
      if (i.refused !== null || (i.kind !== 'sheet' && i.kind !== 'photo')) return [];
      const event = (i.kind === 'photo' ? { ...(i.body as object), hash: i.id } : i.body) as SheetEventDoc;
      return keptIds.has(event.id) ? [] : [event];
    });
  }, [items, kept]);
  const photos = useMemo(() => new Map(items.flatMap((i) => (i.photo ? [[i.id, i.photo] as const] : []))), [items]);
  const refusedLater = useMemo(() => items.filter((i) => i.refused !== null && (i.kind === 'sheet' || i.kind === 'photo')), [items]);

  const stamp = useCallback(
    (who: string, at_ms: number) => ({ id: uuid(), who, at_ms, device: deviceId(), seen: latest.current.at(-1)?.id ?? null }),
    [],
  );
  const url = `/api/jobs/${jobId}/sheet`;
  const write = useCallback<SheetLog['write']>(
    (entry, who, at_ms = Date.now()) => {
      setRefused(null);
      const body = { ...entry, ...stamp(who, at_ms) };
      outbox()
        .add({ id: body.id, jobId, kind: 'sheet', url, body })
        .catch((error: Error) => setRefused(error.message));
    },
    [jobId, url, stamp],
  );
  const addPhoto = useCallback<SheetLog['addPhoto']>(
    (step, photo, who) => {
      setRefused(null);
      const body = { type: 'photo', step, ...stamp(who, Date.now()) };
      outbox()
        .add({ id: body.id, jobId, kind: 'photo', url, body, photo })
        .catch((error: Error) => setRefused(error.message));
    },
    [jobId, url, stamp],
  );
  return { kept, waiting, photos, refusedLater, refused, heard, live, clock_ms, device, write, addPhoto };
}
