import { unpackBlock, type PackedBlock, type PlacedBlock } from '@/core/read/packed-block';
import type { Db, Trx } from './db/client';
import { copyRows, int2, int4, uuid } from './db/copy';
import { piecesLost } from './errors';
import { INCOMING } from './files/store';

const buffer = (bytes: Uint8Array): Buffer => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** Blocks stored by one statement. */
const TOGETHER = 64;

/** Stores blocks of a recording. */
export async function putBlocks(db: Db | Trx, logId: string, blocks: readonly PlacedBlock[]): Promise<void> {
  if (!db.isTransaction) {
    await copyRows(
      db,
      'log_block',
      ['log_id', 'col', 'block', 'width', 'decimals', 'data'],
      blocks.map((b) => [uuid(logId), int4(b.col), int4(b.block), int2(b.width), int2(b.decimals), b.bytes]),
    );
    return;
  }
  const rows = blocks.map(({ col, block, width, decimals, bytes }) => ({
    log_id: logId,
    col,
    block,
    width,
    decimals,
    data: buffer(bytes),
  }));
  for (let i = 0; i < rows.length; i += TOGETHER)
    await db
      .insertInto('log_block')
      .values(rows.slice(i, i + TOGETHER))
      .execute();
}

/** A stored block, or a stretch of one, as doubles. */
export const storedValues = (row: { data: Buffer; width: number; decimals: number }): Float64Array<ArrayBuffer> =>
  unpackBlock({ bytes: row.data, width: row.width as PackedBlock['width'], decimals: row.decimals });

/** Blocks that may wait for the database before the reader has to wait for them. */
const MOST_WAITING = 128;

/**
 * A recording whose blocks are stored while its file is still being read. Until it is finished it is known under a name of its
 * own and shows nowhere; every write stands for itself, so that a slow sender holds no connection.
 */
export class StagedLog {
  readonly id = crypto.randomUUID();
  readonly file = `${INCOMING}${this.id}`;
  private writing: Promise<void> | null = null;
  private failed: unknown = null;
  private given = 0;
  private written = 0;
  private over = false;

  constructor(
    private readonly db: Db,
    private readonly jobId: string,
    private readonly onShare: (share: number) => void = () => {},
  ) {}

  private async begin(): Promise<void> {
    const nothing = JSON.stringify([]);
    await this.db.insertInto('file').values({ hash: this.file, size: 0 }).execute();
    await this.db
      .insertInto('log')
      .values({
        id: this.id,
        job_id: this.jobId,
        file_hash: this.file,
        file_name: '',
        columns: nothing,
        report: JSON.stringify({}),
        rows: 0,
      })
      .execute();
  }

  /** Takes blocks in; they are written in the order they come, one statement at a time. */
  put(blocks: readonly PlacedBlock[]): void {
    if (this.over) return;
    this.given += blocks.length;
    this.writing = (this.writing ?? this.begin()).then(async () => {
      if (this.over) return;
      await putBlocks(this.db, this.id, blocks);
      this.written += blocks.length;
    });
    this.writing.catch((error: unknown) => (this.failed ??= error));
  }

  /** Waits while too much is waiting to be written; throws what went wrong with it. */
  async room(): Promise<void> {
    if (this.given - this.written > MOST_WAITING) await this.writing;
    if (this.failed !== null) throw this.failed;
  }

  /** Waits until all that was given is written. */
  async settle(): Promise<void> {
    this.onShare(this.given === 0 ? 1 : this.written / this.given);
    this.writing ??= this.begin();
    await this.writing;
    this.onShare(1);
  }

  /** Blocks are not waited for until they are on the disk: a database that was ended in the middle may have lost some. */
  async checkWhole(trx: Trx): Promise<void> {
    const { n } = await trx
      .selectFrom('log_block')
      .select(({ fn }) => fn.countAll().as('n'))
      .where('log_id', '=', this.id)
      .executeTakeFirstOrThrow();
    if (Number(n) !== this.given) throw piecesLost();
  }

  /** Nothing is left of it. */
  async discard(): Promise<void> {
    this.over = true;
    if (this.writing === null) return;
    await this.writing.catch(() => {});
    await this.db.deleteFrom('log').where('id', '=', this.id).where('file_hash', '=', this.file).execute();
    await this.db.deleteFrom('file').where('hash', '=', this.file).execute();
  }
}
