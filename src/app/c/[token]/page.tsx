import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { connection } from 'next/server';
import { customerSheet } from '@/features/customer/content';
import { CustomerPage } from '@/features/customer/customer-page';
import { jobReport } from '@/server/customer';
import { dayForReader } from '@/features/customer/response';
import { db } from '@/server/db/client';
import { openLink } from '@/server/share';

// Neither the title nor anything else tells a stranger what lies behind a link.
export const metadata: Metadata = { title: 'Verdict', robots: { index: false, follow: false } };

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  await connection();
  const { token } = await params;
  const link = await openLink(db(), token);
  if (!link) notFound();
  const { doc, report, shop } = await jobReport(db(), link.jobId);
  return (
    <CustomerPage
      sheet={customerSheet(shop, doc, report, link.pack)}
      until={await dayForReader(link.expiresAt)}
      pdf={`/c/${token}/pdf`}
      photos={`/c/${token}/photo`}
    />
  );
}
