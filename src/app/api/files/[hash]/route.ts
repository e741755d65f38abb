import { admit } from '@/server/access';
import { db } from '@/server/db/client';
import { readPicture } from '@/server/files/picture';
import { route } from '@/server/http';

/** Serves a stored picture. Anything that is not one is not served: an upload must never come back as a page. */
export const GET = route<{ hash: string }>(async (req, { hash }) => {
  await admit(req);
  const picture = await readPicture(db(), hash);
  return new Response(picture.bytes, {
    headers: {
      'content-type': picture.type,
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
});
