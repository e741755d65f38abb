import { admit } from '@/server/access';
import { db } from '@/server/db/client';
import { pictureResponse } from '@/server/files/picture';
import { route } from '@/server/http';

/** Serves a stored picture. */
export const GET = route<{ hash: string }>(async (req, { hash }) => {
  await admit(req);
  return pictureResponse(db(), hash);
});
