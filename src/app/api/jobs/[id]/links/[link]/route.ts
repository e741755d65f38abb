import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { listLinks, revokeLink } from '@/server/share';

export const DELETE = route<{ id: string; link: string }>(async (_req, { id, link }) => {
  await revokeLink(db(), id, link);
  return Response.json(await listLinks(db(), id));
});
