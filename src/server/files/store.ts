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

/** A file on its way in: pieces go to the database as they come, the hash of its content is its name at the end. */
export class IncomingFile {
  private readonly hash = createHash('sha256');
  private readonly staging = `incoming-${crypto.randomUUID()}`;
  private size = 0;
  private seq = 0;
  private held: Uint8Array[] = [];
  private heldBytes = 0;
  private begun = false;
  /** One piece is written while the next is coming in. */
  private writing: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly trx: Trx,
    private readonly onPiece: (piece: Uint8Array) => Promise<void> = () => Promise.resolve(),
  ) {}

  private async begin(): Promise<void> {
    if (this.begun) return;
    this.begun = true;
    await this.trx.insertInto('file').values({ hash: this.staging, size: 0 }).execute();
  }

  private async flush(): Promise<void> {
    await this.writing;
    if (this.heldBytes === 0) return;
    const bytes = Buffer.concat(this.held, this.heldBytes);
    this.writing = this.trx.insertInto('file_chunk').values({ hash: this.staging, seq: this.seq, bytes }).execute();
    // A write that fails is told at the next flush; until then nobody waits for it.
    this.writing.catch(() => {});
    this.seq += 1;
    this.held = [];
    this.heldBytes = 0;
    await this.onPiece(bytes);
  }

  async push(piece: Uint8Array): Promise<void> {
    await this.begin();
    this.size += piece.byteLength;
    if (this.size > UPLOAD_LIMIT_BYTES) throw tooLarge();
    this.hash.update(piece);
    this.held.push(piece);
    this.heldBytes += piece.byteLength;
    if (this.heldBytes >= CHUNK_BYTES) await this.flush();
  }

  async finish(): Promise<{ hash: string; size: number; known: boolean }> {
    const { trx, size } = this;
    await this.begin();
    await this.flush();
    await this.writing;
    const digest = this.hash.digest('hex');
    const known = await trx.selectFrom('file').select('hash').where('hash', '=', digest).executeTakeFirst();
    // The same file from another sender may have come to its end in the meantime: then its pieces stand already.
    const mine = known
      ? undefined
      : await trx
          .insertInto('file')
          .values({ hash: digest, size })
          .onConflict((c) => c.doNothing())
          .returning('hash')
          .executeTakeFirst();
    if (mine) {
      await sql`UPDATE file_chunk SET hash = ${digest} WHERE hash = ${this.staging}`.execute(trx);
    }
    await trx.deleteFrom('file').where('hash', '=', this.staging).execute();
    return { hash: digest, size, known: mine === undefined };
  }
}

/**
 * Takes a file in as it streams past, byte for byte, under the hash of its content; `onPiece` is handed each piece too, and
 * waited for. Nothing is left of one that breaks off: it all happens in the caller's transaction.
 */
export async function storeFile(
  trx: Trx,
  body: ReadableStream<Uint8Array>,
  onPiece?: (piece: Uint8Array) => Promise<void>,
): Promise<{ hash: string; size: number; known: boolean }> {
  const file = new IncomingFile(trx, onPiece);
  for await (const piece of body) await file.push(piece);
  return file.finish();
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
