import { pdfResponse } from '@/features/customer/response';
import { db } from '@/server/db/client';
import { notFound } from '@/server/errors';
import { route } from '@/server/http';
import { openLink } from '@/server/share';

/** The page behind a link as a PDF. */
export const GET = route<{ token: string }>(async (_req, { token }) => {
  const link = await openLink(db(), token);
  if (!link) throw notFound('link');
  return pdfResponse(link.jobId, link.pack);
});
