import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { readChannel } from '@/server/runs';

/** One channel's figures as little-endian doubles. */
export const GET = route<{ id: string; col: string }>(async (_req, { id, col }) => {
  const data = await readChannel(db(), id, Number(col));
  return new Response(data, {
    headers: {
      'content-type': 'application/octet-stream',
      'content-disposition': 'attachment',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
});
