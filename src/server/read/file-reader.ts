import { joinedBytes } from '@/core/read/bytes';
import { TableReader } from '@/core/read/reader';
import type { ReadResult } from '@/core/read/result';
import { containerKind, openTable } from './open';

/** First bytes by which it is decided whether a file is a plain table, read as it comes, or a container, opened whole. */
const HEAD_BYTES = 65_536;

/**
 * Reads any file that shops have into a table of figures, piece by piece: plain text as it comes, containers (workbooks,
 * archives, documents, tracks, measurement files) once they are whole. `choice` names the table meant in one of several.
 */
export class ShopFileReader {
  private held: Uint8Array[] = [];
  private bytes = 0;
  private table: TableReader | null = null;
  private container = false;

  constructor(
    private readonly choice: string | null = null,
    private readonly onBlock?: (block: number, columns: readonly Float64Array[]) => void,
  ) {}

  push(piece: Uint8Array): void {
    if (this.table) return this.table.push(piece);
    // The piece's memory is used again for the next one.
    this.held.push(piece.slice());
    this.bytes += piece.length;
    if (!this.container && this.bytes >= HEAD_BYTES) this.decide();
  }

  private decide(): void {
    this.container = containerKind(this.whole().subarray(0, HEAD_BYTES)) !== null;
    if (this.container) return;
    this.table = new TableReader(this.onBlock);
    for (const piece of this.held) this.table.push(piece);
    this.held = [];
  }

  private whole(): Uint8Array {
    if (this.held.length === 1) return this.held[0]!;
    const all = joinedBytes(this.held);
    this.held = [all];
    return all;
  }

  finish(): ReadResult {
    if (!this.table && !this.container) this.decide();
    if (this.table) return this.table.finish();
    const opened = openTable(this.whole(), this.choice);
    this.held = [];
    if (opened.refused !== null) return opened;
    const reader = new TableReader();
    reader.push(opened.text);
    const read = reader.finish();
    if (read.refused !== null) return read;
    return { ...read, report: { ...read.report, container: opened.container, unread: opened.unread } };
  }
}
