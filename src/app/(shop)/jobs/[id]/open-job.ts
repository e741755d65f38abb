import { notFound } from 'next/navigation';
import { cache } from 'react';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { readJob } from '@/server/jobs';

/** The job of a page, read once for its title, its frame and what stands in it; one that is not there is a page that is not. */
export const openJob = cache(async (id: string) => {
  try {
    return await readJob(db(), id);
  } catch (error) {
    if (error instanceof ServerProblem && error.status === 404) notFound();
    throw error;
  }
});
