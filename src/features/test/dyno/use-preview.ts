'use client';

import type { Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { RunDoc, StoredRun } from '@/core/documents/run';
import { useJob } from '@/features/job/provider';
import { openThread } from '@/ui/thread';
import type { CompareApi, PreparedRun } from './compare.worker';

/** What a dyno file becomes with a record as it stands in the form, before it is saved; null until that is known. */
export function usePreview(run: StoredRun, doc: RunDoc): PreparedRun | null {
  const correction = useJob((s) => s.doc.test.correction);
  const fwhm_rpm = useJob((s) => s.doc.test.fwhm_rpm);
  const [api, setApi] = useState<Remote<CompareApi> | null>(null);
  const [made, setMade] = useState<PreparedRun | null>(null);
  useEffect(() => {
    const thread = openThread<CompareApi>(() => new Worker(new URL('./compare.worker.ts', import.meta.url), { type: 'module' }));
    setApi(thread.api);
    return thread.end;
  }, []);
  useEffect(() => {
    if (!api || doc.kind !== 'dyno') return;
    let current = true;
    api
      .preview({ ...run, doc }, { correction, fwhm_rpm })
      .then((p) => current && setMade(p))
      // Saving will say that the server is away.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [api, run, doc, correction, fwhm_rpm]);
  return made;
}
