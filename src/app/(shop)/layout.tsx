import { connection } from 'next/server';
import type { ReactNode } from 'react';
import { Connection } from '@/features/offline/connection';
import { hasPassphrase } from '@/server/access';
import { shopNow } from '@/server/shop-now';
import { Shell } from '@/ui/shell/shell';
import { readPerson } from '@/ui/theme/cookies';

export default async function Layout({ children }: { children: ReactNode }) {
  await connection();
  // The frame stands even while the database is away; only the shop's name and people are missing then.
  const [shop, signedIn] = await Promise.all([shopNow(), hasPassphrase()]);
  return (
    <Shell shop={shop.name} people={shop.people} person={await readPerson()} signedIn={signedIn}>
      <Connection renderedAt_ms={Date.now()} signedIn={signedIn} />
      {children}
    </Shell>
  );
}
