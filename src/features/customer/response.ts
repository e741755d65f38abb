import 'server-only';
import { headers } from 'next/headers';
import type { ShopSettings } from '@/core/documents/shop';
import type { PackName } from '@/core/units/measures';
import { jobReport } from '@/server/customer';
import { db } from '@/server/db/client';
import { makePdf } from '@/server/drawing/make-pdf';
import { datesOf, localeOf } from '@/ui/dates';
import { customerSheet } from './content';

/** A day as whoever asks for this page writes it. */
export const dayForReader = async (at: string | Date): Promise<string> =>
  datesOf(localeOf((await headers()).get('accept-language'))).day(at);

/** A job's customer page as a PDF to open in place. */
export async function pdfResponse(jobId: string, pack?: PackName, paper?: ShopSettings['paper']): Promise<Response> {
  const { doc, report, shop } = await jobReport(db(), jobId);
  const sheet = customerSheet(shop, doc, report, pack ?? shop.pack);
  const madeOn = await dayForReader(new Date());
  const name = `${doc.name}, verdict.pdf`;
  return new Response(await makePdf({ of: 'customer', sheet, paper: paper ?? shop.paper, madeOn }), {
    headers: {
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="verdict.pdf"; filename*=UTF-8''${encodeURIComponent(name)}`,
      'cache-control': 'no-store',
      'x-content-type-options': 'nosniff',
      'x-robots-tag': 'noindex',
    },
  });
}
