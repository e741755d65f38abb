'use client';

import { useEffect, useMemo, useState } from 'react';
import { useJob, useRuns } from '@/features/job/provider';
import { openThread } from '@/ui/thread';
import type { ManifoldDrop, ManifoldDropApi } from './manifold-drop.worker';

/** What stock's manifold showed on the dyno, read when it is asked for. */
export function useManifoldDrop(asked: boolean): {
  /** Whether some run of stock has such a channel at all. */
  readonly offered: boolean;
  readonly drop: ManifoldDrop | null;
  readonly failed: boolean;
} {
  const { runs: all } = useRuns();
  const fwhm_rpm = useJob((s) => s.doc.test.fwhm_rpm);
  const runs = useMemo(
    () =>
      all.filter(
        ({ doc }) =>
          doc.kind === 'dyno' &&
          doc.side?.kind === 'stock' &&
          doc.leftOut === null &&
          doc.channels.some((c) => c.quantity === 'manifold pressure'),
      ),
    [all],
  );
  const [state, setState] = useState<{ of: typeof runs | null; drop: ManifoldDrop | null; failed: boolean }>({
    of: null,
    drop: null,
    failed: false,
  });
  useEffect(() => {
    if (!asked || runs.length === 0) return;
    const thread = openThread<ManifoldDropApi>(() => new Worker(new URL('./manifold-drop.worker.ts', import.meta.url), { type: 'module' }));
    thread.api.manifoldDrop(runs, fwhm_rpm).then(
      (drop) => setState({ of: runs, drop, failed: false }),
      () => setState({ of: runs, drop: null, failed: true }),
    );
    return thread.end;
  }, [asked, runs, fwhm_rpm]);
  const here = asked && state.of === runs;
  return { offered: runs.length > 0, drop: here ? state.drop : null, failed: here && state.failed };
}
