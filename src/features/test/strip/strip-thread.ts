import type { StripBook } from '@/core/documents/strip';
import { jobStrip, type JobStrip, type StripJob } from '@/core/job/strip';
import type { StripOptions } from '@/core/strip/analysis';
import { openThread, ThreadGone } from '@/ui/thread';
import type { StripApi } from './strip.worker';

export interface StripThread {
  readonly analyse: (job: StripJob, book: StripBook, history: StripOptions['history']) => Promise<JobStrip>;
  readonly end: () => void;
}

/**
 * A thread that works out what the passes say; where there are none to be had, or its script could not be
 * fetched (at a strip there may be no network), the page does it itself.
 */
export function openStripThread(): StripThread {
  if (typeof Worker === 'undefined')
    return { analyse: (job, book, history) => Promise.resolve(jobStrip(job, book, undefined, history)), end: () => {} };
  const thread = openThread<StripApi>(() => new Worker(new URL('./strip.worker.ts', import.meta.url), { type: 'module' }));
  return {
    analyse: (job, book, history) =>
      thread.api.analyse(job, book, history).catch((error: unknown) => {
        if (error instanceof ThreadGone) return jobStrip(job, book, undefined, history);
        throw error;
      }),
    end: thread.end,
  };
}
