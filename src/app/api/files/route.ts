import { admit } from '@/server/access';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/kinds';
import { storeUpload } from '@/server/files/picture';
import { tooLarge } from '@/server/files/store';
import { spooled } from '@/server/files/spool';
import { route } from '@/server/http';

/** Takes one file as the raw body: a picture upright and without what its camera wrote into it, else byte for byte. It is never served back as a page. */
export const POST = route(async (req) => {
  await admit(req);
  if (Number(req.headers.get('content-length') ?? 0) > UPLOAD_LIMIT_BYTES) throw tooLarge();
  if (!req.body) throw new ServerProblem(400, 'empty_file', 'The file is empty.');
  const stream = req.body as ReadableStream<Uint8Array>;
  const stored = await spooled(stream, UPLOAD_LIMIT_BYTES, tooLarge, (file) =>
    storeUpload((work) => db().transaction().execute(work), file),
  );
  return Response.json(stored, { status: 201 });
});
