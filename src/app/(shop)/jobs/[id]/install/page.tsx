import type { Metadata } from 'next';
import { InstallStop } from '@/features/install/install-stop';
import { db } from '@/server/db/client';
import { listSheet } from '@/server/sheet-events';

export const metadata: Metadata = { title: 'Install' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <InstallStop written={await listSheet(db(), (await params).id)} />;
}
