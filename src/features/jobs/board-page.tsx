'use client';

import type { BoardPage as Page, BoardQuery } from '@/server/board';
import type { Packed } from '@/server/packed';
import { useUnpacked } from '@/ui/unpacked';
import { JobBoard } from './board';

/** The board as the server sends it. */
export const BoardPage = ({ sent, query }: { sent: Packed<Page>; query: BoardQuery }) => (
  <JobBoard page={useUnpacked(sent)} query={query} />
);
