import { db } from '@/server/db/client';
import { notFound } from '@/server/errors';
import { route } from '@/server/http';
import { readChannels } from '@/server/runs';

/** Column numbers with commas between them. */
const COLUMNS = /^\d{1,5}(,\d{1,5}){0,63}$/;

/** The figures of one channel, or of several one after the other, as little-endian doubles: as many of each. */
export const GET = route<{ id: string; col: string }>(async (_req, { id, col }) => {
  if (!COLUMNS.test(col)) throw notFound('channel');
  const channels = await readChannels(db(), id, col.split(',').map(Number));
  return new Response(new Blob(channels), {
    headers: {
      'content-type': 'application/octet-stream',
      'content-disposition': 'attachment',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
});
