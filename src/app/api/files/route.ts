import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { storeFile, tooLarge, UPLOAD_LIMIT_BYTES } from '@/server/files/store';
import { route } from '@/server/http';

/** Takes one file as the raw body. It is kept byte for byte and never served back as a page. */
export const POST = route(async (req) => {
  if (Number(req.headers.get('content-length') ?? 0) > UPLOAD_LIMIT_BYTES) throw tooLarge();
  if (!req.body) throw new ServerProblem(400, 'empty_file', 'The file is empty.');
  const stream = req.body as ReadableStream<Uint8Array>;
  const stored = await db()
    .transaction()
    .execute((trx) => storeFile(trx, stream));
  return Response.json(stored, { status: 201 });
});
