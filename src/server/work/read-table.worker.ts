/** A server thread that reads a table of figures: pieces come in over a port, columns go back. Bundled by scripts/build-workers.mjs. */
import type { MessagePort } from 'node:worker_threads';
import { move, transferableSymbol, valueSymbol } from 'piscina';
import type { ReadResult } from '../../core/read/result';
import { packBlock, packedBlocks, type PlacedBlock } from '../../core/read/packed-block';
import { ShopFileReader } from '../read/file-reader';

export interface ReadTask {
  readonly port: MessagePort;
  /** The table meant in a file of several. */
  readonly table: string | null;
}

/**
 * Asks for piece after piece (so that no more than one waits), gives blocks as they fill, packed as they are stored, then
 * returns what was read, its columns moved, not copied.
 */
export default function readTable({ port, table }: ReadTask): Promise<ReadResult> {
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
        const buffers = result.refused === null ? result.columns.flatMap((c) => c.blocks.map((b) => b.buffer)) : [];
        resolve(moved(result, buffers));
      } catch (error) {
        port.close();
        reject(error instanceof Error ? error : new Error(String(error)));
      }
    });
    port.postMessage('next');
  });
}

/** Wraps a result so that piscina hands its buffers over instead of copying them. */
function moved(result: ReadResult, buffers: ArrayBuffer[]): ReadResult {
  return move({
    get [transferableSymbol]() {
      return buffers;
    },
    get [valueSymbol]() {
      return result;
    },
  } as unknown as ArrayBuffer) as unknown as ReadResult;
}
