'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { StoredPass, StoredVisit, StripBook, StripPassDoc, StripVisitDoc } from '@/core/documents/strip';
import type { JobFindings } from '@/core/job/findings';
import { nightOrder } from '@/core/strip/air-of-day';
import { historyLogs } from '@/core/inference/shop-history';
import type { JobStrip } from '@/core/job/strip';
import { useJob, useJobStore } from '@/features/job/provider';
import { useShopHistory } from '@/features/job/use-shop-history';
import { send } from '@/ui/post';
import { openStripThread, type StripThread } from './strip-thread';

export interface Strip {
  /** Null until the server has answered. */
  readonly book: StripBook | null;
  readonly wrong: string | null;
  readonly addVisit: (doc: StripVisitDoc) => Promise<StoredVisit>;
  readonly saveVisit: (visit: StoredVisit, doc: StripVisitDoc) => Promise<void>;
  readonly removeVisit: (visit: StoredVisit) => Promise<void>;
  readonly addPasses: (visit: StoredVisit, docs: readonly StripPassDoc[]) => Promise<void>;
  readonly savePass: (pass: StoredPass, doc: StripPassDoc) => Promise<void>;
  readonly removePass: (pass: StoredPass) => Promise<void>;
}

const inOrder = (book: StripBook): StripBook => ({
  visits: [...book.visits].sort((a, b) => a.doc.takenOn.localeCompare(b.doc.takenOn)),
  passes: nightOrder(book.passes),
});

/** The job's visits and passes, and what can be done with them. Every change goes to the server first. */
export function useStrip(): Strip {
  const id = useJob((s) => s.id);
  const job = useJobStore();
  const [book, setBook] = useState<StripBook | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    send<StripBook>('GET', `/api/jobs/${id}/strip`)
      .then((b) => current && setBook(b))
      .catch((e: Error) => current && setWrong(e.message));
    return () => {
      current = false;
    };
  }, [id]);
  const put = useCallback((change: (b: StripBook) => StripBook) => setBook((b) => (b ? inOrder(change(b)) : b)), []);
  const found = useCallback((findings: JobFindings) => job.setState({ findings }), [job]);
  return useMemo(
    () => ({
      book,
      wrong,
      addVisit: async (doc) => {
        const visit = await send<StoredVisit>('POST', `/api/jobs/${id}/strip`, doc);
        put((b) => ({ ...b, visits: [...b.visits, visit] }));
        return visit;
      },
      saveVisit: async (visit, doc) => {
        const { visit: saved, findings } = await send<{ visit: StoredVisit; findings: JobFindings }>(
          'PUT',
          `/api/strip/visits/${visit.id}`,
          {
            version: visit.version,
            doc,
          },
        );
        put((b) => ({ ...b, visits: b.visits.map((v) => (v.id === saved.id ? saved : v)) }));
        found(findings);
      },
      removeVisit: async (visit) => {
        const { findings } = await send<{ findings: JobFindings }>('DELETE', `/api/strip/visits/${visit.id}`);
        put((b) => ({ visits: b.visits.filter((v) => v.id !== visit.id), passes: b.passes.filter((p) => p.visitId !== visit.id) }));
        found(findings);
      },
      addPasses: async (visit, docs) => {
        const { passes, findings } = await send<{ passes: StoredPass[]; findings: JobFindings }>(
          'POST',
          `/api/strip/visits/${visit.id}/passes`,
          docs,
        );
        put((b) => ({ ...b, passes: [...b.passes, ...passes] }));
        found(findings);
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
        const { findings } = await send<{ findings: JobFindings }>('DELETE', `/api/strip/passes/${pass.id}`);
        put((b) => ({ ...b, passes: b.passes.filter((p) => p.id !== pass.id) }));
        found(findings);
      },
    }),
    [book, wrong, id, put, found],
  );
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
