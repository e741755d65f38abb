import { db } from '@/server/db/client';
import { notFound } from '@/server/errors';
import { pictureResponse } from '@/server/files/picture';
import { route } from '@/server/http';
import { readJob } from '@/server/jobs';
import { linkedJob } from '@/server/share';

/** A picture of the car on its customer's page: only one of those the shop ticked, only while the link is open. */
export const GET = route<{ token: string; at: string }>(async (_req, { token, at }) => {
  const jobId = await linkedJob(db(), token);
  const about = jobId === null ? null : (await readJob(db(), jobId)).doc.about;
  const photo = about?.onCustomersPage.includes('photos') ? about.photos[Number(at)] : undefined;
  if (!photo) throw notFound('picture');
  return pictureResponse(db(), photo.hash);
});
