import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/run';
import type { Db, Trx } from '../db/client';
import { ServerProblem } from '../errors';

/** Originals are kept in pieces of this size, so that neither side ever holds a whole one twice. */
const CHUNK_BYTES = 1 << 20;

export const tooLarge = (): ServerProblem =>
  new ServerProblem(
    413,
    'too_large',
    `The file is larger than the ${UPLOAD_LIMIT_BYTES / 1024 / 1024} MB taken in one go. Cut the log down to the pull, or export it with fewer channels.`,
  );

/**
 * Takes a file in as it streams past, byte for byte, under the hash of its content; `onPiece` is handed each piece too, and
 * waited for. Nothing is left of one that breaks off: it all happens in the caller's transaction.
 */
export async function storeFile(
  trx: Trx,
  body: ReadableStream<Uint8Array>,
  onPiece: (piece: Uint8Array) => Promise<void> = () => Promise.resolve(),
): Promise<{ hash: string; size: number; known: boolean }> {
  const hash = createHash('sha256');
  const staging = `incoming-${crypto.randomUUID()}`;
  await trx.insertInto('file').values({ hash: staging, size: 0 }).execute();
  let size = 0;
  let seq = 0;
  let held: Uint8Array[] = [];
  let heldBytes = 0;
  // One piece is written while the next is coming in.
  let writing: Promise<unknown> = Promise.resolve();
  const flush = async (): Promise<void> => {
    await writing;
    if (heldBytes === 0) return;
    const bytes = Buffer.concat(held, heldBytes);
    writing = trx.insertInto('file_chunk').values({ hash: staging, seq, bytes }).execute();
    // A write that fails is told at the next flush; until then nobody waits for it.
    writing.catch(() => {});
    seq += 1;
    held = [];
    heldBytes = 0;
    await onPiece(bytes);
  };
  for await (const piece of body) {
    size += piece.byteLength;
    if (size > UPLOAD_LIMIT_BYTES) throw tooLarge();
    hash.update(piece);
    held.push(piece);
    heldBytes += piece.byteLength;
    if (heldBytes >= CHUNK_BYTES) await flush();
  }
  await flush();
  await writing;
  const digest = hash.digest('hex');
  const known = await trx.selectFrom('file').select('hash').where('hash', '=', digest).executeTakeFirst();
  if (!known) {
    await trx
      .insertInto('file')
      .values({ hash: digest, size })
      .onConflict((c) => c.doNothing())
      .execute();
    await sql`UPDATE file_chunk SET hash = ${digest} WHERE hash = ${staging}`.execute(trx);
  }
  await trx.deleteFrom('file').where('hash', '=', staging).execute();
  return { hash: digest, size, known: known !== undefined };
}

export async function fileSize(db: Db | Trx, hash: string): Promise<number | null> {
  const row = await db.selectFrom('file').select('size').where('hash', '=', hash).executeTakeFirst();
  return row ? Number(row.size) : null;
}

/** The pieces of a stored file in order. */
export async function* filePieces(db: Db | Trx, hash: string): AsyncGenerator<Buffer> {
  for (let seq = 0; ; seq += 1) {
    const row = await db.selectFrom('file_chunk').select('bytes').where('hash', '=', hash).where('seq', '=', seq).executeTakeFirst();
    if (!row) return;
    yield row.bytes;
  }
}
