import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import { UPLOAD_LIMIT_BYTES } from '@/core/documents/kinds';
import type { Db, Trx } from '../db/client';
import { copyRows, int4, text } from '../db/copy';
import { piecesLost, ServerProblem } from '../errors';

/** Originals are kept in pieces of this size, so that neither side ever holds a whole one twice. */
const CHUNK_BYTES = 1 << 20;

/** What the names of files and recordings begin with that are still coming in; real ones are named by their content. */
export const INCOMING = 'incoming-';

export const tooLarge = (): ServerProblem =>
  new ServerProblem(
    413,
    'too_large',
    `The file is larger than the ${UPLOAD_LIMIT_BYTES / 1024 / 1024} MB taken in one go. Cut the log down to the pull, or export it with fewer channels.`,
  );

/**
 * A file on its way in: pieces go to the database as they come, the hash of its content is its name at the end. Outside of a
 * transaction every piece stands for itself, so that a slow sender holds no connection: then `discard` what comes to nothing.
 * `onPiece` is shown each piece and waited for; once it has taken the next, the memory of the one before is used again.
 */
export class IncomingFile {
  private readonly hash = createHash('sha256');
  private readonly staging = `${INCOMING}${crypto.randomUUID()}`;
  private size = 0;
  private seq = 0;
  /** Two pieces taken in turns, in memory that a reading thread sees too: one is filled while the other is written and read. */
  private piece: Uint8Array<SharedArrayBuffer> | null = null;
  private other: Uint8Array<SharedArrayBuffer> | null = null;
  private held = 0;
  private begun = false;
  /** One piece is written while the next is coming in. */
  private writing: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly db: Db | Trx,
    private readonly onPiece: (piece: Uint8Array) => Promise<void> = () => Promise.resolve(),
  ) {}

  private async begin(): Promise<void> {
    if (this.begun) return;
    this.begun = true;
    await this.db.insertInto('file').values({ hash: this.staging, size: 0 }).execute();
  }

  private async flush(): Promise<void> {
    await this.writing;
    if (this.held === 0 || !this.piece) return;
    const bytes = Buffer.from(this.piece.buffer, 0, this.held);
    this.writing = this.write(bytes, this.seq);
    // A write that fails is told at the next flush; until then nobody waits for it.
    this.writing.catch(() => {});
    this.hash.update(bytes);
    this.seq += 1;
    this.held = 0;
    [this.piece, this.other] = [this.other, this.piece];
    await this.onPiece(bytes);
  }

  private async write(bytes: Buffer, seq: number): Promise<unknown> {
    if (this.db.isTransaction) return this.db.insertInto('file_chunk').values({ hash: this.staging, seq, bytes }).execute();
    return copyRows(this.db, 'file_chunk', ['hash', 'seq', 'bytes'], [[text(this.staging), int4(seq), bytes]]);
  }

  async push(piece: Uint8Array): Promise<void> {
    await this.begin();
    this.size += piece.byteLength;
    if (this.size > UPLOAD_LIMIT_BYTES) throw tooLarge();
    for (let at = 0; at < piece.byteLength;) {
      this.piece ??= new Uint8Array(new SharedArrayBuffer(CHUNK_BYTES));
      const part = piece.subarray(at, at + CHUNK_BYTES - this.held);
      this.piece.set(part, this.held);
      this.held += part.byteLength;
      at += part.byteLength;
      if (this.held === CHUNK_BYTES) await this.flush();
    }
  }

  /** All pieces are written. */
  async settle(): Promise<void> {
    await this.begin();
    await this.flush();
    await this.writing;
  }

  /**
   * Pieces written outside of a transaction are not waited for until they are on the disk: a database that was ended in the
   * middle may have lost some. They count once they are all found.
   */
  private async checkWhole(trx: Trx): Promise<void> {
    const { rows } = await sql<{ pieces: number; bytes: number }>`
      SELECT count(*)::integer AS pieces, coalesce(sum(octet_length(bytes)), 0)::float8 AS bytes
      FROM file_chunk WHERE hash = ${this.staging}`.execute(trx);
    if (rows[0]?.pieces !== this.seq || rows[0].bytes !== this.size) throw piecesLost();
  }

  /** Gives the whole file its name, or finds that it is known. */
  async finish(trx: Trx): Promise<{ hash: string; size: number; known: boolean }> {
    const { size } = this;
    await this.settle();
    [this.piece, this.other] = [null, null];
    const digest = this.hash.digest('hex');
    await this.checkWhole(trx);
    // One that is sent again counts as new: what will point at it may not be saved yet.
    const known = await trx
      .updateTable('file')
      .set({ created_at: new Date() })
      .where('hash', '=', digest)
      .returning('hash')
      .executeTakeFirst();
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

  /** Gives the whole file a name that is not its content's; there must be none of it yet. */
  async finishAs(trx: Trx, name: string): Promise<void> {
    const { size } = this;
    await this.settle();
    await this.checkWhole(trx);
    await trx.insertInto('file').values({ hash: name, size }).execute();
    await sql`UPDATE file_chunk SET hash = ${name} WHERE hash = ${this.staging}`.execute(trx);
    await trx.deleteFrom('file').where('hash', '=', this.staging).execute();
  }

  /** Nothing is left of it; one that is finished does not notice. */
  async discard(): Promise<void> {
    await this.writing.catch(() => {});
    if (this.begun) await this.db.deleteFrom('file').where('hash', '=', this.staging).execute();
  }
}

/**
 * Takes a file in as it streams past, byte for byte, under the hash of its content; `onPiece` is handed each piece too, and
 * waited for. Nothing is left of one that breaks off: it all happens in the caller's transaction.
 */
export async function storeFile(
  trx: Trx,
  body: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  onPiece?: (piece: Uint8Array) => Promise<void>,
): Promise<{ hash: string; size: number; known: boolean }> {
  const file = new IncomingFile(trx, onPiece);
  for await (const piece of body) await file.push(piece);
  return file.finish(trx);
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

/** How long a file may be on its way; h. */
const LONGEST_UPLOAD_h = 12;

/** Takes away what is left of files whose server was killed while they came in, with what was stored of their samples. */
export async function sweepIncoming(db: Db | Trx): Promise<void> {
  const lost = sql`hash LIKE ${`${INCOMING}%`} AND created_at < now() - make_interval(hours => ${LONGEST_UPLOAD_h})`;
  await sql`DELETE FROM log WHERE file_hash IN (SELECT hash FROM file WHERE ${lost})`.execute(db);
  await sql`DELETE FROM file WHERE ${lost}`.execute(db);
}
