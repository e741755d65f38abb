import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { BOARD_COOKIE } from '@/features/jobs/board-address';
import { BoardPage } from '@/features/jobs/board-page';
import { boardSince } from '@/features/jobs/board-since';
import { boardPage, boardQuery } from '@/server/board';
import { db } from '@/server/db/client';
import { packed } from '@/server/packed';

export const metadata: Metadata = { title: 'Jobs' };

/** As the address says, or, where it says nothing, as it was last narrowed in this browser. */
export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const said = await searchParams;
  const kept = (await cookies()).get(BOARD_COOKIE)?.value ?? '';
  const asked = Object.keys(said).length > 0 ? said : Object.fromEntries(new URLSearchParams(kept));
  const query = boardQuery.parse(asked);
  return <BoardPage sent={packed(await boardPage(db(), query, await boardSince(query)))} query={query} />;
}
