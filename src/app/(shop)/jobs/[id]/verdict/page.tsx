import type { Metadata } from 'next';
import { VerdictStop } from '@/features/verdict/verdict-stop';
import { db } from '@/server/db/client';
import { jobFacts } from '@/server/facts';
import { readShop } from '@/server/shop';
import { openJob } from '../open-job';

export const metadata: Metadata = { title: 'Verdict' };

/** The answer comes with the page: what was measured is read before it is sent. */
export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const { doc } = await openJob(id);
  const [facts, shop] = await Promise.all([jobFacts(db(), id, doc), readShop(db())]);
  return <VerdictStop facts={facts} shop={shop} />;
}
