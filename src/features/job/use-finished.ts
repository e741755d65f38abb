'use client';

import { useEffect, useState } from 'react';
import type { FinishedJob } from '@/core/verdict/similar';
import { send } from '@/ui/post';

/** What the shop's finished jobs say; null until the server has answered. */
export function useFinished(): readonly FinishedJob[] | null {
  const [jobs, setJobs] = useState<readonly FinishedJob[] | null>(null);
  useEffect(() => {
    let current = true;
    send<FinishedJob[]>('GET', '/api/shop/finished')
      .then((list) => current && setJobs(list))
      // Without them the panel is silent; the rest of the page stands.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, []);
  return jobs;
}
