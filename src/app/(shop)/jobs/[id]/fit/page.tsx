import type { Metadata } from 'next';
import { FitStop } from '@/features/fit/fit-stop';
import { db } from '@/server/db/client';
import { readShopRules } from '@/server/shop';

export const metadata: Metadata = { title: 'Fit' };

export default async function Page() {
  return <FitStop shopRules={await readShopRules(db())} />;
}
