import { createReadStream, createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { ServerProblem } from '../errors';

/** Uploads on their way at once. More wait on their own side: what is here has a disk to write to. */
const MOST_AT_ONCE = 8;
/** In each such time a sender brings at least so much, or it is gone: one that drips would hold its place for ever. */
const PATIENCE_ms = 60_000;
const LEAST_BYTES = 16 * 1024;

const holder = globalThis as { vannerUploads?: number };

const busy = (): ServerProblem =>
  new ServerProblem(503, 'busy', 'Too many files are coming in at once. Send this one again in a few seconds.', { retryAfter_s: 5 });

/**
 * Takes an upload in onto the disk first and hands it on when it is whole: a slow sender holds a file open, and no connection
 * of the database. Nothing stays of it. Refuses what is larger than `limit_bytes`, and more than a few at once.
 */
export async function spooled<T>(
  body: ReadableStream<Uint8Array>,
  limit_bytes: number,
  tooLarge: () => ServerProblem,
  work: (file: ReadableStream<Uint8Array>) => Promise<T>,
  patience_ms = PATIENCE_ms,
): Promise<T> {
  if ((holder.vannerUploads ?? 0) >= MOST_AT_ONCE) throw busy();
  holder.vannerUploads = (holder.vannerUploads ?? 0) + 1;
  let folder: string | null = null;
  try {
    folder = await mkdtemp(join(tmpdir(), 'vanner-upload-'));
    const path = join(folder, 'file');
    await toDisk(body, path, limit_bytes, tooLarge, patience_ms);
    return await work(Readable.toWeb(createReadStream(path)) as unknown as ReadableStream<Uint8Array>);
  } finally {
    holder.vannerUploads -= 1;
    if (folder !== null) await rm(folder, { recursive: true, force: true });
  }
}

async function toDisk(
  body: ReadableStream<Uint8Array>,
  path: string,
  limit_bytes: number,
  tooLarge: () => ServerProblem,
  patience_ms: number,
): Promise<void> {
  const sender = Readable.fromWeb(body as unknown as NodeStream<Uint8Array>);
  let size = 0;
  let before = 0;
  const watch = setInterval(() => {
    if (size - before < LEAST_BYTES) sender.destroy(new ServerProblem(408, 'silent', 'The file stopped coming. Send it again.'));
    before = size;
  }, patience_ms);
  try {
    await pipeline(
      sender,
      async function* (pieces: AsyncIterable<Uint8Array>) {
        for await (const piece of pieces) {
          size += piece.byteLength;
          if (size > limit_bytes) throw tooLarge();
          yield piece;
        }
      },
      createWriteStream(path, { mode: 0o600 }),
    );
  } finally {
    clearInterval(watch);
  }
}
