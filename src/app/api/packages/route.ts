import { admit } from '@/server/access';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { route } from '@/server/http';
import { takeInPackage } from '@/server/package/read';
import { packageDocumentInThread } from '@/server/work/package-doc';

/** Takes a whole job in: the archive is the body. It goes past the proxy, which would hold it in memory. */
export const POST = route(async (req) => {
  await admit(req);
  if (!req.body) throw new ServerProblem(422, 'empty_file', 'The file is empty.');
  return Response.json(await takeInPackage(db(), req.body as ReadableStream<Uint8Array>, packageDocumentInThread), { status: 201 });
});
