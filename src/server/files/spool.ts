import { createReadStream, createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { ServerProblem } from '../errors';

/** Uploads on their way at once. More wait on their own side: what is here has a disk to write to. */
const MOST_AT_ONCE = 8;
/** A sender that is silent for this long is gone, ms. */
const SILENT_ms = 60_000;

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
  silent_ms = SILENT_ms,
): Promise<T> {
  if ((holder.vannerUploads ?? 0) >= MOST_AT_ONCE) throw busy();
  holder.vannerUploads = (holder.vannerUploads ?? 0) + 1;
  const folder = await mkdtemp(join(tmpdir(), 'vanner-upload-'));
  const path = join(folder, 'file');
  try {
    await toDisk(body, path, limit_bytes, tooLarge, silent_ms);
    return await work(Readable.toWeb(createReadStream(path)) as unknown as ReadableStream<Uint8Array>);
  } finally {
    holder.vannerUploads -= 1;
    await rm(folder, { recursive: true, force: true });
  }
}

async function toDisk(
  body: ReadableStream<Uint8Array>,
  path: string,
  limit_bytes: number,
  tooLarge: () => ServerProblem,
  silent_ms: number,
): Promise<void> {
  const sender = Readable.fromWeb(body as unknown as NodeStream<Uint8Array>);
  const file = createWriteStream(path, { mode: 0o600 });
  let timer: ReturnType<typeof setTimeout> | undefined;
  const listen = (): void => {
    clearTimeout(timer);
    timer = setTimeout(() => sender.destroy(new ServerProblem(408, 'silent', 'The file stopped coming. Send it again.')), silent_ms);
  };
  let size = 0;
  try {
    listen();
    for await (const piece of sender as AsyncIterable<Uint8Array>) {
      listen();
      size += piece.byteLength;
      if (size > limit_bytes) throw tooLarge();
      if (!file.write(piece)) await new Promise<void>((resolve) => void file.once('drain', resolve));
    }
    file.end();
    await finished(file);
  } finally {
    clearTimeout(timer);
    file.destroy();
    sender.destroy();
  }
}
