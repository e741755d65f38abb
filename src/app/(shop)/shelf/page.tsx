import type { Metadata } from 'next';
import { ShelfRoom } from '@/features/shelf/shelf-room';
import { db } from '@/server/db/client';
import { listUnits } from '@/server/units';

export const metadata: Metadata = { title: 'Shelf' };

export default async function Page() {
  return <ShelfRoom initial={await listUnits(db())} />;
}
