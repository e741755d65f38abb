import { admit } from '@/server/access';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/run';
import { storeFile, tooLarge } from '@/server/files/store';
import { spooled } from '@/server/files/spool';
import { route } from '@/server/http';

/** Takes one file as the raw body. It is kept byte for byte and never served back as a page. */
export const POST = route(async (req) => {
  await admit(req);
  if (Number(req.headers.get('content-length') ?? 0) > UPLOAD_LIMIT_BYTES) throw tooLarge();
  if (!req.body) throw new ServerProblem(400, 'empty_file', 'The file is empty.');
  const stream = req.body as ReadableStream<Uint8Array>;
  const stored = await spooled(stream, UPLOAD_LIMIT_BYTES, tooLarge, (file) =>
    db()
      .transaction()
      .execute((trx) => storeFile(trx, file)),
  );
  return Response.json(stored, { status: 201 });
});
