import { listKeys, revokeKey } from '@/server/api-keys';
import { db } from '@/server/db/client';
import { route } from '@/server/http';

/** From now on the key opens nothing. */
export const DELETE = route<{ id: string }>(async (_req, { id }) => {
  await revokeKey(db(), id);
  return Response.json(await listKeys(db()));
});
