/** A server thread that reads a table of figures: pieces come in over a port, columns go back. Bundled by scripts/build-workers.mjs. */
import type { MessagePort } from 'node:worker_threads';
import { sampledColumn, type SampledColumn } from '../../core/read/guess';
import type { ReadRefusal, ReadResult } from '../../core/read/result';
import { packBlock, packedBlocks, type PlacedBlock } from '../../core/read/packed-block';
import { ShopFileReader } from '../read/file-reader';

export interface ReadTask {
  readonly port: MessagePort;
  /** The table meant in a file of several. */
  readonly table: string | null;
}

/** A table as it was read, its rows given block by block on the way. */
export type TableRead =
  (Omit<Extract<ReadResult, { refused: null }>, 'columns'> & { readonly columns: readonly SampledColumn[] }) | ReadRefusal;

/**
 * Asks for piece after piece (so that no more than one waits), gives blocks as they fill, packed as they are stored, then
 * returns what was read without its rows: they were all given, and handing hundreds of megabytes over keeps the collector of
 * the server's own thread busy for longer than the rest of an import.
 */
export default function readTable({ port, table }: ReadTask): Promise<TableRead> {
  /** How many blocks of every column were given already. */
  let given = 0;
  const give = (blocks: PlacedBlock[]): void =>
    port.postMessage(
      blocks,
      blocks.map((b) => b.bytes.buffer),
    );
  const reader = new ShopFileReader(table, (block, columns) => {
    given = block + 1;
    give(columns.map((values, col) => ({ col, block, ...packBlock(values) })));
  });
  return new Promise((resolve, reject) => {
    port.on('message', (piece: Uint8Array | 'drop' | null) => {
      try {
        if (piece === 'drop') {
          port.close();
          resolve({ refused: 'empty_file' });
          return;
        }
        if (piece) {
          reader.push(piece);
          port.postMessage('next');
          return;
        }
        const result = reader.finish();
        // What was made of other columns stands behind them, and was not given yet.
        const own = result.refused === null ? result.columns.findIndex((c) => c.made !== undefined) : 0;
        if (result.refused === null) give([...packedBlocks(result.columns, (col) => (own < 0 || col < own ? given : 0))]);
        port.postMessage('done');
        port.close();
        resolve(result.refused === null ? { ...result, columns: result.columns.map(sampledColumn) } : result);
      } catch (error) {
        port.close();
        reject(error instanceof Error ? error : new Error(String(error)));
      }
    });
    port.postMessage('next');
  });
}
