'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { StoredPass, StoredVisit, StripBook, StripPassDoc, StripVisitDoc, WeatherReadingDoc } from '@/core/documents/strip';
import type { JobFindings } from '@/core/verdict/findings';
import { nightOrder } from '@/core/strip/air-of-day';
import { historyLogs } from '@/core/inference/shop-history';
import type { JobStrip } from '@/core/job/strip';
import { useJob, useJobStore } from '@/features/job/provider';
import { useShopHistory } from '@/features/job/use-shop-history';
import { outbox, type Waiting } from '@/features/offline/outbox';
import { useWaiting } from '@/features/offline/use-outbox';
import { send } from '@/ui/post';
import { uuid } from '@/ui/uuid';
import { openStripThread, type StripThread } from './strip-thread';

export interface Strip {
  /** Null until the server has answered. What waits here to be sent is in it. */
  readonly book: StripBook | null;
  readonly wrong: string | null;
  /** Ids of days and passes that wait here to be sent. */
  readonly waiting: ReadonlySet<string>;
  /** What the server would not take after it had waited here. */
  readonly refused: readonly Waiting[];
  readonly addVisit: (doc: StripVisitDoc) => Promise<StoredVisit>;
  readonly saveVisit: (visit: StoredVisit, doc: StripVisitDoc) => Promise<void>;
  readonly addWeather: (visit: StoredVisit, readings: readonly WeatherReadingDoc[]) => Promise<void>;
  readonly removeVisit: (visit: StoredVisit) => Promise<void>;
  /** Out of the trash again, with what went there with it. */
  readonly bringBack: (thing: StoredVisit | StoredPass) => Promise<void>;
  readonly addPasses: (visit: StoredVisit, docs: readonly StripPassDoc[]) => Promise<readonly StoredPass[]>;
  readonly savePass: (pass: StoredPass, doc: StripPassDoc) => Promise<void>;
  readonly removePass: (pass: StoredPass) => Promise<void>;
}

const inOrder = (book: StripBook): StripBook => ({
  visits: [...book.visits].sort((a, b) => a.doc.takenOn.localeCompare(b.doc.takenOn)),
  passes: nightOrder(book.passes),
});

/** Not on the server yet. */
const UNSENT_VERSION = 0;

/** The book with what waits here in it: a day, passes, readings of the air, each as it will stand once it is sent. */
function withWaiting(book: StripBook, items: readonly Waiting[]): StripBook {
  let { visits, passes } = book;
  for (const i of items) {
    if (i.refused !== null) continue;
    if (i.kind === 'visit') {
      const { id, ...doc } = i.body as StripVisitDoc & { id: string };
      if (!visits.some((v) => v.id === id)) visits = [...visits, { id, jobId: i.jobId, version: UNSENT_VERSION, doc }];
    } else if (i.kind === 'pass') {
      const visitId = i.url.split('/').at(-2)!;
      const fresh = (i.body as (StripPassDoc & { id: string })[]).filter(({ id }) => !passes.some((p) => p.id === id));
      passes = [...passes, ...fresh.map(({ id, ...doc }) => ({ id, visitId, version: UNSENT_VERSION, doc }))];
    } else if (i.kind === 'weather') {
      const visitId = i.url.split('/').at(-2)!;
      const readings = i.body as WeatherReadingDoc[];
      const times = new Set(readings.map((r) => r.at));
      visits = visits.map((v) =>
        v.id === visitId
          ? {
              ...v,
              doc: {
                ...v.doc,
                weather: [...v.doc.weather.filter((r) => !times.has(r.at)), ...readings].sort((a, b) => a.at.localeCompare(b.at)),
              },
            }
          : v,
      );
    }
  }
  return inOrder({ visits, passes });
}

const KINDS: ReadonlySet<Waiting['kind']> = new Set(['visit', 'pass', 'weather']);

/** The book as the server has it, and a way to change it here: also while it is still being read. */
function useKeptBook(id: string) {
  const [kept, setBook] = useState<StripBook | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  // What is changed while the book is still being read; null: it is there.
  const early = useRef<((b: StripBook) => StripBook)[] | null>([]);
  useEffect(() => {
    let current = true;
    early.current = [];
    send<StripBook>('GET', `/api/jobs/${id}/strip`)
      .then((b) => {
        if (!current) return;
        setBook(inOrder((early.current ?? []).reduce((book, change) => change(book), b)));
        early.current = null;
      })
      .catch((e: Error) => current && setWrong(e.message));
    return () => {
      current = false;
    };
  }, [id]);
  const put = useCallback((change: (b: StripBook) => StripBook) => {
    early.current?.push(change);
    setBook((b) => (b ? inOrder(change(b)) : b));
  }, []);
  return { kept, wrong, put };
}

interface Means {
  readonly id: string;
  /** What waits in this device's outbox. */
  readonly items: readonly Waiting[];
  readonly put: (change: (b: StripBook) => StripBook) => void;
  readonly found: (findings: JobFindings) => void;
}

/** What can be done with the book. What is new goes into the outbox, what changes something straight to the server. */
const stripActs = ({ id, items, put, found }: Means): Omit<Strip, 'book' | 'wrong' | 'waiting' | 'refused'> => ({
  addVisit: async (doc) => {
    const visit: StoredVisit = { id: uuid(), jobId: id, version: UNSENT_VERSION, doc };
    const fate = await outbox().add({
      id: visit.id,
      jobId: id,
      kind: 'visit',
      url: `/api/jobs/${id}/strip`,
      body: { ...doc, id: visit.id },
    });
    return fate.kind === 'sent' ? (fate.answer as StoredVisit) : visit;
  },
  saveVisit: async (visit, doc) => {
    const { visit: saved, findings } = await send<{ visit: StoredVisit; findings: JobFindings }>('PUT', `/api/strip/visits/${visit.id}`, {
      version: visit.version,
      doc,
    });
    put((b) => ({ ...b, visits: b.visits.map((v) => (v.id === saved.id ? saved : v)) }));
    found(findings);
  },
  addWeather: async (visit, readings) => {
    await outbox().add({ id: uuid(), jobId: id, kind: 'weather', url: `/api/strip/visits/${visit.id}/weather`, body: readings });
  },
  removeVisit: async (visit) => {
    const { findings } = await send<{ findings: JobFindings }>('DELETE', `/api/strip/visits/${visit.id}`);
    put((b) => ({ visits: b.visits.filter((v) => v.id !== visit.id), passes: b.passes.filter((p) => p.visitId !== visit.id) }));
    found(findings);
  },
  bringBack: async (thing) => {
    const isVisit = 'jobId' in thing;
    const kind = isVisit ? 'strip_visit' : 'strip_pass';
    const { findings } = await send<{ findings: JobFindings }>('POST', '/api/trash', { kind, id: thing.id, trashed: false });
    const there = await send<StripBook>('GET', `/api/jobs/${id}/strip`);
    put(() => there);
    found(findings);
  },
  addPasses: async (visit, docs) => {
    const body = docs.map((doc) => ({ ...doc, id: uuid() }));
    await outbox().add({ id: uuid(), jobId: id, kind: 'pass', url: `/api/strip/visits/${visit.id}/passes`, body });
    return body.map(({ id: passId, ...doc }) => ({ id: passId, visitId: visit.id, version: UNSENT_VERSION, doc }));
  },
  savePass: async (pass, doc) => {
    const { pass: saved, findings } = await send<{ pass: StoredPass; findings: JobFindings }>('PUT', `/api/strip/passes/${pass.id}`, {
      version: pass.version,
      doc,
    });
    put((b) => ({ ...b, passes: b.passes.map((p) => (p.id === saved.id ? saved : p)) }));
    found(findings);
  },
  removePass: async (pass) => {
    const own = items.find((i) => i.kind === 'pass' && (i.body as { id: string }[]).some((b) => b.id === pass.id));
    // Not sent yet: it is taken out where it waits.
    if (own && (own.body as unknown[]).length === 1) return outbox().dismiss(own.seq);
    const { findings } = await send<{ findings: JobFindings }>('DELETE', `/api/strip/passes/${pass.id}`);
    put((b) => ({ ...b, passes: b.passes.filter((p) => p.id !== pass.id) }));
    found(findings);
  },
});

/** The job's visits and passes, and what can be done with them. What is new goes through this device's outbox, and is seen at once. */
export function useStrip(): Strip {
  const id = useJob((s) => s.id);
  const job = useJobStore();
  const { kept, wrong, put } = useKeptBook(id);
  const all = useWaiting(id);
  const items = useMemo(() => all.filter((i) => KINDS.has(i.kind)), [all]);
  const found = useCallback((findings: JobFindings) => job.setState({ findings }), [job]);
  useEffect(
    () =>
      outbox().onSent((item, answer) => {
        if (item.jobId !== id) return;
        if (item.kind === 'visit') put((b) => ({ ...b, visits: upsert(b.visits, [answer as StoredVisit]) }));
        else if (item.kind === 'pass') {
          const { passes, findings } = answer as { passes: StoredPass[]; findings: JobFindings };
          put((b) => ({ ...b, passes: upsert(b.passes, passes) }));
          found(findings);
        } else if (item.kind === 'weather') {
          const { visit, findings } = answer as { visit: StoredVisit; findings: JobFindings };
          put((b) => ({ ...b, visits: upsert(b.visits, [visit]) }));
          found(findings);
        }
      }),
    [id, put, found],
  );
  const book = useMemo(() => (kept ? withWaiting(kept, items) : null), [kept, items]);
  const waiting = useMemo(
    () =>
      new Set(
        items.flatMap((i) =>
          i.refused !== null ? [] : i.kind === 'pass' ? (i.body as { id: string }[]).map((b) => b.id) : i.kind === 'visit' ? [i.id] : [],
        ),
      ),
    [items],
  );
  const refused = useMemo(() => items.filter((i) => i.refused !== null), [items]);
  return useMemo(
    () => ({
      book,
      wrong,
      waiting,
      refused,
      ...stripActs({ id, items, put, found }),
    }),
    [book, wrong, waiting, refused, items, id, put, found],
  );
}

/** A list with some of its entries as they are now, new ones at its end. */
function upsert<T extends { readonly id: string }>(list: readonly T[], now: readonly T[]): T[] {
  const by = new Map(now.map((x) => [x.id, x]));
  const out = list.map((x) => by.get(x.id) ?? x);
  return [...out, ...now.filter((x) => !list.some((y) => y.id === x.id))];
}

/** Stock against the compared unit over the whole book, worked out in a worker anew as soon as anything in it changes. */
export function useStripAnalysis(book: StripBook | null): JobStrip & { readonly working: boolean } {
  const chosen = useJob((s) => s.doc.pick.chosen);
  const kind = useJob((s) => s.doc.car.induction.kind);
  const strip = useJob((s) => s.doc.test.strip);
  const history = useShopHistory();
  const worker = useRef<StripThread | null>(null);
  const [found, setFound] = useState<{ of: StripBook; strip: JobStrip } | null>(null);
  useEffect(() => {
    const thread = openStripThread();
    worker.current = thread;
    return () => {
      worker.current = null;
      thread.end();
    };
  }, []);
  useEffect(() => {
    const ask = worker.current;
    if (!ask || !book) return;
    let current = true;
    ask
      .analyse({ car: { induction: { kind } }, pick: { chosen }, test: { strip } }, book, historyLogs(history))
      .then((s) => current && setFound({ of: book, strip: s }))
      // A worker that is gone took its page with it.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [book, chosen, kind, strip, history]);
  return { ...(found?.strip ?? { unitId: null, analysis: null }), working: book !== null && found?.of !== book };
}
