import { db } from '@/server/db/client';
import { filePieces } from '@/server/files/store';
import { route } from '@/server/http';
import { readRun } from '@/server/runs';

/** The file a run came in, byte for byte, never as a page. */
export const GET = route<{ id: string }>(async (_req, { id }) => {
  const { fileHash, fileName } = await readRun(db(), id);
  const pieces = filePieces(db(), fileHash);
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await pieces.next();
      if (next.done === true) controller.close();
      else controller.enqueue(new Uint8Array(next.value));
    },
  });
  return new Response(body, {
    headers: {
      'content-type': 'application/octet-stream',
      'content-disposition': `attachment; filename="run"; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'x-content-type-options': 'nosniff',
      'cache-control': 'no-store',
    },
  });
});
