'use client';

import { useListens } from '@/ui/listens';

/** Says in the page itself whether it listens yet; for whoever drives it by program. */
export const Ready = () => <span hidden data-listens={useListens()} />;
