import { wrap } from 'comlink';
import type { StripBook } from '@/core/documents/strip';
import { jobStrip, type JobStrip, type StripJob } from '@/core/job/strip';
import type { StripOptions } from '@/core/strip/analyse';
import type { StripApi } from './strip.worker';

export interface StripThread {
  readonly analyse: (job: StripJob, book: StripBook, history: StripOptions['history']) => Promise<JobStrip>;
  readonly end: () => void;
}

/** A thread that works out what the passes say; where there are none to be had, the page does it itself. */
export function openStripThread(): StripThread {
  if (typeof Worker === 'undefined')
    return { analyse: (job, book, history) => Promise.resolve(jobStrip(job, book, undefined, history)), end: () => {} };
  const thread = new Worker(new URL('./strip.worker.ts', import.meta.url), { type: 'module' });
  const api = wrap<StripApi>(thread);
  return { analyse: (job, book, history) => api.analyse(job, book, history), end: () => thread.terminate() };
}
