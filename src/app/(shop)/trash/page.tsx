import type { Metadata } from 'next';
import { connection } from 'next/server';
import { TrashRoom } from '@/features/trash/trash-room';
import { db } from '@/server/db/client';
import { listTrash } from '@/server/trash';

export const metadata: Metadata = { title: 'Trash' };

export default async function Page() {
  await connection();
  return <TrashRoom trashed={await listTrash(db())} />;
}
