import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { packageOf, packageStream } from '@/server/package/write';

/** The whole job as one archive, written as it is sent. */
export const GET = route<{ id: string }>(async (_req, { id }) => {
  const doc = await packageOf(db(), id);
  const name = `${doc.job.doc.name}.vanner.zip`;
  return new Response(packageStream(db(), doc), {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="job.vanner.zip"; filename*=UTF-8''${encodeURIComponent(name)}`,
      'cache-control': 'no-store',
    },
  });
});
