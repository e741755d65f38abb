import { connection } from 'next/server';
import type { ReactNode } from 'react';
import { Connection } from '@/features/offline/connection';
import { db } from '@/server/db/client';
import { sessionKey } from '@/server/passphrase';
import { shopNow } from '@/server/shop-now';
import { Shell } from '@/ui/shell/shell';
import { readPerson } from '@/ui/theme/cookies';

export default async function Layout({ children }: { children: ReactNode }) {
  await connection();
  // The frame stands even while the database is away; only the shop's name and people are missing then.
  const [shop, key] = await Promise.all([shopNow(), sessionKey(db()).catch(() => null)]);
  return (
    <Shell shop={shop.name} people={shop.people} person={await readPerson()} signedIn={key !== null}>
      <Connection renderedAt_ms={Date.now()} signedIn={key !== null} />
      {children}
    </Shell>
  );
}
