import { MOST_CHANNELS } from '@/core/documents/kinds';
import { db } from '@/server/db/client';
import { notFound } from '@/server/errors';
import { route } from '@/server/http';
import { readChannels } from '@/server/runs';

/** The figures of one channel, or of several (their columns with commas between) one after the other, as little-endian doubles: as many of each. */
export const GET = route<{ id: string; col: string }>(async (_req, { id, col }) => {
  const columns = col.split(',');
  if (columns.length > MOST_CHANNELS || columns.some((c) => !/^\d{1,5}$/.test(c))) throw notFound('channel');
  const channels = await readChannels(db(), id, columns.map(Number));
  return new Response(new Blob(channels), {
    headers: {
      'content-type': 'application/octet-stream',
      'content-disposition': 'attachment',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
});
