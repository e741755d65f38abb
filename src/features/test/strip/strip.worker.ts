/** What the passes say, worked out off the interface thread at every slip that is typed. */
import { expose } from 'comlink';
import type { StripBook } from '@/core/documents/strip';
import { jobStrip, type JobStrip, type StripJob } from '@/core/job/strip';
import type { StripOptions } from '@/core/strip/analysis';

const analyse = (job: StripJob, book: StripBook, history: StripOptions['history']): JobStrip => jobStrip(job, book, undefined, history);

export const api = { analyse };
export type StripApi = typeof api;
expose(api);
