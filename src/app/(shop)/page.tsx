import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { JobBoard } from '@/features/jobs/board';
import { BOARD_COOKIE } from '@/features/jobs/board-address';
import { boardSince } from '@/features/jobs/board-since';
import { boardPage, boardQuery } from '@/server/board';
import { db } from '@/server/db/client';

export const metadata: Metadata = { title: 'Jobs' };

/** As the address says, or, where it says nothing, as it was last narrowed in this browser. */
export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const said = await searchParams;
  const kept = (await cookies()).get(BOARD_COOKIE)?.value ?? '';
  const asked = Object.keys(said).length > 0 ? said : Object.fromEntries(new URLSearchParams(kept));
  const query = boardQuery.parse(asked);
  return <JobBoard page={await boardPage(db(), query, await boardSince(query))} query={query} />;
}
