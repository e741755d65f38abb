import { admit } from '@/server/access';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { route } from '@/server/http';
import { spooled } from '@/server/files/spool';
import { PACKAGE_LIMIT_BYTES, takeInPackage } from '@/server/package/read';
import { packageDocumentInThread } from '@/server/work/package-doc';

const tooLarge = (): ServerProblem => new ServerProblem(413, 'too_large', 'An archive has 1 GB at most.');

/** Takes a whole job in: the archive is the body. It goes past the proxy, which would hold it in memory. */
export const POST = route(async (req) => {
  await admit(req);
  if (!req.body) throw new ServerProblem(422, 'empty_file', 'The file is empty.');
  const taken = await spooled(req.body as ReadableStream<Uint8Array>, PACKAGE_LIMIT_BYTES, tooLarge, (archive) =>
    takeInPackage(db(), archive, packageDocumentInThread),
  );
  return Response.json(taken, { status: 201 });
});
