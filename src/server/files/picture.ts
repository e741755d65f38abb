import type { Db, Trx } from '../db/client';
import { notFound, ServerProblem } from '../errors';
import { cleanPicture } from '../work/clean-picture';
import { filePieces, fileSize, storeFile } from './store';

/** Largest picture taken and served, bytes. */
const PICTURE_LIMIT_BYTES = 12 * 1024 * 1024;

const KINDS: readonly { type: string; starts: readonly number[]; at?: number }[] = [
  { type: 'image/png', starts: [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a] },
  { type: 'image/jpeg', starts: [0xff, 0xd8, 0xff] },
  // RIFF….WEBP
  { type: 'image/webp', starts: [0x57, 0x45, 0x42, 0x50], at: 8 },
];

/** The kind of picture that bytes are, by their first few; null: none that a browser should draw. */
export function pictureType(head: Uint8Array): string | null {
  return KINDS.find((k) => k.starts.every((b, i) => head[(k.at ?? 0) + i] === b))?.type ?? null;
}

const tooLargePicture = (): ServerProblem => new ServerProblem(413, 'too_large', 'This picture is larger than 12 MB. Save it smaller.');

/**
 * Takes a file in: a picture without what its camera wrote into it (where it was taken, when, with what), upright; anything else
 * byte for byte. Pictures: `too_large`, `not_a_picture`.
 */
export async function storeUpload(
  inOne: <T>(work: (trx: Trx) => Promise<T>) => Promise<T>,
  body: ReadableStream<Uint8Array>,
): Promise<Awaited<ReturnType<typeof storeFile>>> {
  const pieces = body[Symbol.asyncIterator]();
  const first = await pieces.next();
  async function* all(): AsyncGenerator<Uint8Array> {
    for (let next = first; !next.done; next = await pieces.next()) yield next.value;
  }
  if (first.done || pictureType(first.value) === null) return inOne((trx) => storeFile(trx, all()));
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const piece of all()) {
    size += piece.byteLength;
    if (size > PICTURE_LIMIT_BYTES) throw tooLargePicture();
    parts.push(piece);
  }
  const bytes = await cleanPicture({ bytes: Buffer.concat(parts), kept: false });
  return inOne((trx) => storeFile(trx, [bytes]));
}

/** A stored file as a picture. `not_found`, or refused where it is something else or too large to be one. */
export async function readPicture(db: Db | Trx, hash: string): Promise<{ bytes: Uint8Array<ArrayBuffer>; type: string }> {
  const size = /^[0-9a-f]{64}$/.test(hash) ? await fileSize(db, hash) : null;
  if (size === null) throw notFound('picture');
  if (size > PICTURE_LIMIT_BYTES) throw tooLargePicture();
  const bytes = new Uint8Array(size);
  let at = 0;
  for await (const piece of filePieces(db, hash)) {
    bytes.set(piece, at);
    at += piece.length;
  }
  const type = pictureType(bytes);
  if (!type) throw new ServerProblem(415, 'not_a_picture', 'This file is no PNG, JPEG or WebP picture.');
  return { bytes, type };
}

/** A stored picture as an answer. Anything that is not one is not served: an upload must never come back as a page. */
export async function pictureResponse(db: Db | Trx, hash: string): Promise<Response> {
  const picture = await readPicture(db, hash);
  // One from an archive, or kept before pictures were made anew as they came in, may still tell where it was taken.
  return new Response(await cleanPicture({ bytes: picture.bytes, kept: true }), {
    headers: {
      'content-type': picture.type,
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
}
