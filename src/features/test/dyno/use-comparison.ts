'use client';

import type { Remote } from 'comlink';
import { useEffect, useMemo, useRef, useState } from 'react';
import { usedBands } from '@/core/compare/used-bands';
import { comparedUnit } from '@/core/job/compared-unit';
import { historyLogs } from '@/core/inference/shop-history';
import { useJob, useRuns } from '@/features/job/provider';
import { useShopHistory } from '@/features/job/use-shop-history';
import { openThread } from '@/ui/thread';
import { useAgain } from '@/ui/use-again';
import type { CompareApi, CompareReply } from './compare.worker';

export interface ComparisonState {
  readonly reply: CompareReply | null;
  readonly failed: string | null;
  readonly unitId: string | null;
}

/** The comparison of the job's runs, worked out in a worker anew whenever a run or a setting changes. */
export function useComparison(): ComparisonState {
  const { runs: all } = useRuns();
  const runs = useMemo(() => all.filter((r) => r.doc.kind === 'dyno'), [all]);
  const test = useJob((s) => s.doc.test);
  const gearbox = useJob((s) => s.doc.car.gearbox);
  const redline_rpm = useJob((s) => s.doc.car.engine.redline_rpm);
  const wastegated = useJob((s) => s.doc.car.induction.kind === 'turbo');
  const chosen = useJob((s) => s.doc.pick.chosen);
  const unitId = comparedUnit(chosen, runs);
  const history = useShopHistory();
  const worker = useRef<Remote<CompareApi> | null>(null);
  const [state, setState] = useState<{ reply: CompareReply | null; failed: string | null }>({ reply: null, failed: null });
  const tries = useAgain(state.failed !== null);
  useEffect(() => {
    const thread = openThread<CompareApi>(() => new Worker(new URL('./compare.worker.ts', import.meta.url), { type: 'module' }));
    worker.current = thread.api;
    return () => {
      worker.current = null;
      thread.end();
    };
  }, []);
  useEffect(() => {
    let current = true;
    const ask = worker.current;
    if (!ask) return;
    ask
      .compare({
        runs,
        unitId,
        ...test,
        bands_rpm: [...test.bands_rpm, ...usedBands(gearbox, test.shift_rpm ?? redline_rpm)],
        gearbox,
        wastegated,
        history: historyLogs(history).dyno,
      })
      .then((reply) => current && setState({ reply, failed: null }))
      .catch(
        () =>
          current &&
          setState((s) => ({
            ...s,
            failed: 'The runs could not be read: the server or its database is away. They are asked for again until it is back.',
          })),
      );
    return () => {
      current = false;
    };
  }, [runs, unitId, test, gearbox, redline_rpm, wastegated, history, tries]);
  return { ...state, unitId };
}
