'use client';

import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import { isFailure, type Failure } from '@/core/failure';
import type { JobModel } from '@/core/job/model';
import { rangeProblem } from '@/core/job/ranges';
import type { GainRange } from '@/core/sizing/uncertainty';
import { useJob } from './provider';
import type { SizingApi, UncertaintyRequest } from './sizing.worker';

export interface UncertaintyState {
  readonly ranges: Readonly<Record<string, GainRange>>;
  /** Share of the draws done; null: not running. */
  readonly progress: number | null;
  readonly stop: () => void;
  readonly start: () => void;
}

/** Typing settles before a run begins, ms. */
const QUIET_MS = 500;
/** A worker that says nothing for this long is stuck: it is ended and another one asked, so many times at most. */
const SILENT_MS = 3000;
const MOST_TRIES = 6;

const begin = (): { worker: Worker; api: Remote<SizingApi> } => {
  const worker = new Worker(new URL('./sizing.worker.ts', import.meta.url), { type: 'module' });
  return { worker, api: wrap<SizingApi>(worker) };
};

/** The same draws for everybody: a range must not change by being looked at again. */
const SEED = 20_260;

function requestOf(model: JobModel, cylinders: number, tolerances: UncertaintyRequest['tolerances']): UncertaintyRequest {
  const { problem, before, reference, candidates, apart, modelError } = rangeProblem(model, cylinders);
  const named = model.candidates.map((c, i) => ({ id: c.id, path: candidates[i]! }));
  return { problem, before, reference, candidates: named, tolerances, seed: SEED, apart, modelError };
}

/** The 10–90 % ranges of the shown units' gains, drawn in a worker whenever the job settles; stopped by hand or by the next change. */
export function useUncertainty(model: JobModel | Failure): UncertaintyState {
  const tolerances = useJob((s) => s.doc.sizing.tolerances);
  const cylinders = useJob((s) => s.doc.car.engine.cylinders);
  const thread = useRef<{ worker: Worker; api: Remote<SizingApi> } | null>(null);
  const [state, setState] = useState<{ ranges: UncertaintyState['ranges']; progress: number | null }>({ ranges: {}, progress: null });
  const [again, setAgain] = useState(0);
  const patience = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    thread.current = begin();
    return () => {
      thread.current?.worker.terminate();
      thread.current = null;
    };
  }, []);
  useEffect(() => {
    if (isFailure(model) || model.candidates.length === 0) return;
    let current = true;
    const ask = (tries: number): void => {
      if (!thread.current) return;
      let mine = true;
      const heard = (): void => {
        clearTimeout(patience.current);
        if (tries >= MOST_TRIES) return;
        patience.current = setTimeout(() => {
          mine = false;
          thread.current?.worker.terminate();
          thread.current = begin();
          ask(tries + 1);
        }, SILENT_MS);
      };
      const finish = (ranges: UncertaintyState['ranges'] | null): void => {
        if (!current || !mine) return;
        clearTimeout(patience.current);
        setState((s) => (ranges ? { ranges, progress: null } : { ...s, progress: null }));
      };
      setState((s) => ({ ...s, progress: 0 }));
      heard();
      thread.current.api
        .uncertainty(
          requestOf(model, cylinders, tolerances),
          proxy((share: number, ranges: UncertaintyState['ranges']) => {
            if (!current || !mine) return;
            heard();
            setState({ ranges, progress: share });
          }),
        )
        .then(finish)
        .catch(() => finish(null));
    };
    const timer = setTimeout(() => ask(1), QUIET_MS);
    return () => {
      current = false;
      clearTimeout(timer);
      clearTimeout(patience.current);
      void thread.current?.api.stop();
      // What was drawn belongs to the figures before: it is not shown beside new ones.
      setState({ ranges: {}, progress: null });
    };
  }, [model, cylinders, tolerances, again]);
  const stop = useCallback(() => {
    clearTimeout(patience.current);
    void thread.current?.api.stop();
    setState((s) => ({ ...s, progress: null }));
  }, []);
  const start = useCallback(() => setAgain((n) => n + 1), []);
  return { ...state, stop, start };
}
