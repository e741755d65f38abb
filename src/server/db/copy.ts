import { once } from 'node:events';
import { from } from 'pg-copy-streams';
import { poolOf, type Db } from './client';

/** A field as PostgreSQL's binary form of COPY has it: its bytes, or a number of so many bytes. */
type Field = Uint8Array | { readonly int: number; readonly bytes: 2 | 4 };

const SIGNATURE = Buffer.from('PGCOPY\n\xff\r\n\0\0\0\0\0\0\0\0\0', 'latin1');
const END = Buffer.from([0xff, 0xff]);
/** What is shorter than this is sent with its neighbours; longer fields go out as they are, without a copy. */
const LONG_BYTES = 4096;

export const text = (value: string): Uint8Array => Buffer.from(value, 'utf8');
export const uuid = (value: string): Uint8Array => Buffer.from(value.replaceAll('-', ''), 'hex');
export const int2 = (int: number): Field => ({ int, bytes: 2 });
export const int4 = (int: number): Field => ({ int, bytes: 4 });

/** The pieces that rows are sent in: small fields gathered, large ones by themselves. */
function* piecesOf(rows: Iterable<readonly Field[]>): Generator<Uint8Array> {
  let small: Uint8Array[] = [SIGNATURE];
  const number = (int: number, bytes: 2 | 4): Buffer => {
    const b = Buffer.alloc(bytes);
    b.writeIntBE(int, 0, bytes);
    return b;
  };
  for (const row of rows) {
    small.push(number(row.length, 2));
    for (const field of row) {
      if (!(field instanceof Uint8Array)) {
        small.push(number(field.bytes, 4), number(field.int, field.bytes));
        continue;
      }
      small.push(number(field.byteLength, 4));
      if (field.byteLength < LONG_BYTES) {
        small.push(field);
        continue;
      }
      yield Buffer.concat(small);
      yield field;
      small = [];
    }
  }
  yield Buffer.concat([...small, END]);
}

/**
 * Writes rows by COPY, all or none, on a connection of their own for as long as that takes. Large fields reach the socket
 * without being copied: as parameters of a statement each is copied three times on the way, and a long log's worth of that
 * keeps the collector busy for longer than reading the log takes. `columns` name the fields of a row in their order.
 *
 * What is written so is not waited for until it is on the disk: it belongs to something that is still coming in, and counts
 * only once a later transaction names it. That one's commit waits for the log up to its own end, and these rows stand before it.
 */
export async function copyRows(db: Db, table: string, columns: readonly string[], rows: Iterable<readonly Field[]>): Promise<void> {
  const client = await poolOf(db).connect();
  let failed: Error | undefined;
  try {
    await client.query('BEGIN; SET LOCAL synchronous_commit = off');
    const stream = client.query(from(`COPY ${table} (${columns.join(', ')}) FROM STDIN (FORMAT binary)`));
    const done = new Promise<void>((resolve, reject) => stream.once('finish', resolve).once('error', reject));
    // Heard of below, even where it comes first.
    done.catch(() => {});
    for (const piece of piecesOf(rows)) if (!stream.write(piece)) await Promise.race([once(stream, 'drain'), done]);
    stream.end();
    await done;
    await client.query('COMMIT');
  } catch (error) {
    failed = error as Error;
    throw error;
  } finally {
    // A connection that broke in the middle is not used again.
    client.release(failed);
  }
}
