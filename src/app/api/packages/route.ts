import { z } from 'zod';
import { admit } from '@/server/access';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { query, route } from '@/server/http';
import { spooled } from '@/server/files/spool';
import { PACKAGE_LIMIT_BYTES } from '@/server/package/read';
import { askWork } from '@/server/queue/work';

const wanted = z.object({ work: z.uuid().optional().describe('An id of the sender’s own: sent again with it, an archive is taken once') });

const tooLarge = (): ServerProblem => new ServerProblem(413, 'too_large', 'An archive has 1 GB at most.');

/**
 * Takes an archive for a worker to make a job of: the archive is the body. Answers with the piece of work to ask after. It goes past
 * the proxy, which would hold it in memory.
 */
export const POST = route(async (req) => {
  await admit(req);
  const { work: id } = query(req, wanted);
  if (!req.body) throw new ServerProblem(422, 'empty_file', 'The file is empty.');
  const work = await spooled(req.body as ReadableStream<Uint8Array>, PACKAGE_LIMIT_BYTES, tooLarge, (archive) =>
    askWork(db(), 'archive', archive, id),
  );
  return Response.json({ work }, { status: 202, headers: { location: `/api/work/${work}` } });
});
