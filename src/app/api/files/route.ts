import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/run';
import { storeFile, tooLarge } from '@/server/files/store';
import { foreignRequest } from '@/server/guard';
import { route } from '@/server/http';

/** Takes one file as the raw body. It is kept byte for byte and never served back as a page. */
export const POST = route(async (req) => {
  const foreign = foreignRequest(req);
  if (foreign) throw new ServerProblem(403, 'foreign', foreign);
  if (Number(req.headers.get('content-length') ?? 0) > UPLOAD_LIMIT_BYTES) throw tooLarge();
  if (!req.body) throw new ServerProblem(400, 'empty_file', 'The file is empty.');
  const stream = req.body as ReadableStream<Uint8Array>;
  const stored = await db()
    .transaction()
    .execute((trx) => storeFile(trx, stream));
  return Response.json(stored, { status: 201 });
});
