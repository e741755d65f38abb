import type { Metadata } from 'next';
import { connection } from 'next/server';
import { KeysRoom } from '@/features/keys/keys-room';
import { listKeys } from '@/server/api-keys';
import { OPERATIONS } from '@/server/api/operations';
import { db } from '@/server/db/client';

export const metadata: Metadata = { title: 'API keys' };

export default async function Page() {
  await connection();
  const operations = OPERATIONS.map(({ method, path, summary, writes }) => ({ method, path, summary, writes }));
  return <KeysRoom keys={await listKeys(db())} operations={operations} />;
}
