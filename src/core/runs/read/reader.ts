import { cellNumber, findLayout, splitRows, type Layout } from './layout';
import { fileKind } from './text';

export interface SkippedLine {
  readonly line: number;
  readonly reason: 'wrong number of cells' | 'no figures';
  readonly text: string;
}

/** What was found and what was left out, so that nothing is thrown away silently. */
export interface ImportReport {
  readonly encoding: string;
  readonly layout: Omit<Layout, 'names' | 'units'>;
  readonly rows: number;
  readonly blankLines: number;
  readonly skipped: readonly SkippedLine[];
  readonly skippedTotal: number;
  readonly emptyCells: number;
  /** Cells in columns of figures that hold something else. */
  readonly textCells: number;
}

export interface ReadColumn {
  readonly name: string;
  readonly unit: string;
  /** NaN where the cell was empty or not a number. */
  readonly values: Float64Array<ArrayBuffer>;
  /** How many cells are numbers. */
  readonly count: number;
}

export type ReadRefusal =
  | { readonly refused: 'empty_file' }
  | { readonly refused: 'not_text'; readonly looksLike: string }
  | { readonly refused: 'no_numeric_column' };

export type ReadResult = { readonly refused: null; readonly columns: readonly ReadColumn[]; readonly report: ImportReport } | ReadRefusal;

/** Bytes looked at before deciding how the file is laid out. */
const HEAD_BYTES = 1 << 16;
/** Skipped lines kept word for word. */
const SKIPPED_KEPT = 50;
const SKIPPED_TEXT = 160;

/** A growing column of doubles. */
class Grower {
  private data = new Float64Array(1024);
  length = 0;
  count = 0;

  push(value: number): void {
    if (this.length === this.data.length) {
      const larger = new Float64Array(this.data.length * 2);
      larger.set(this.data);
      this.data = larger;
    }
    this.data[this.length] = value;
    this.length += 1;
    if (!Number.isNaN(value)) this.count += 1;
  }

  take(): Float64Array<ArrayBuffer> {
    return this.data.slice(0, this.length);
  }
}

/**
 * Reads a delimited table of figures as it comes, chunk by chunk: `push` each chunk in order, then `finish`.
 * Comma, semicolon or tab; decimal point or comma; lines before the table; a row of names and perhaps one of units.
 * Empty lines, short rows and words among figures are counted and reported. Testing basis §2.
 */
export class TableReader {
  private head: Uint8Array[] = [];
  private headBytes = 0;
  private decoder: TextDecoder | null = null;
  private encoding = 'utf-8';
  private layout: Layout | null = null;
  private refusal: ReadRefusal | null = null;
  private rest = '';
  private line = 0;
  private columns: Grower[] = [];
  private rows = 0;
  private blankLines = 0;
  private skipped: SkippedLine[] = [];
  private skippedTotal = 0;
  private emptyCells = 0;
  private textCells = 0;

  push(chunk: Uint8Array): void {
    if (this.refusal) return;
    if (this.decoder) {
      this.text(this.decoder.decode(chunk, { stream: true }), false);
      return;
    }
    this.head.push(chunk);
    this.headBytes += chunk.length;
    if (this.headBytes >= HEAD_BYTES) this.begin(false);
  }

  finish(): ReadResult {
    if (!this.decoder && !this.refusal) this.begin(true);
    else if (this.decoder) this.text(this.decoder.decode(), true);
    if (this.refusal) return this.refusal;
    if (!this.layout || this.columns.every((c) => c.count === 0)) return { refused: 'no_numeric_column' };
    const { names, units, ...layout } = this.layout;
    return {
      refused: null,
      columns: this.columns.map((c, i) => ({ name: names[i]!, unit: units[i]!, values: c.take(), count: c.count })),
      report: {
        encoding: this.encoding,
        layout,
        rows: this.rows,
        blankLines: this.blankLines,
        skipped: this.skipped,
        skippedTotal: this.skippedTotal,
        emptyCells: this.emptyCells,
        textCells: this.textCells,
      },
    };
  }

  /** The head is in hand: decides what the file is, then reads the head as the first chunk. */
  private begin(whole: boolean): void {
    const bytes = new Uint8Array(this.headBytes);
    let at = 0;
    for (const part of this.head) {
      bytes.set(part, at);
      at += part.length;
    }
    this.head = [];
    const kind = fileKind(bytes.subarray(0, HEAD_BYTES));
    if (kind.kind === 'not text') {
      this.refusal = { refused: 'not_text', looksLike: kind.looksLike };
      return;
    }
    this.encoding = kind.encoding;
    this.decoder = new TextDecoder(kind.encoding);
    const text = this.decoder.decode(bytes, { stream: !whole });
    if (whole && text.trim() === '') {
      this.refusal = { refused: 'empty_file' };
      return;
    }
    const end = whole ? text.length : text.lastIndexOf('\n') + 1;
    this.layout = findLayout(normalised(text.slice(0, end)));
    if (!this.layout) {
      this.refusal = { refused: 'no_numeric_column' };
      return;
    }
    this.columns = Array.from({ length: this.layout.columns }, () => new Grower());
    this.text(text, whole);
  }

  /** Cuts the text at its last line end, keeps the rest for the next chunk. */
  private text(piece: string, last: boolean): void {
    const all = this.rest + piece;
    let end = all.length;
    if (!last) {
      end = Math.max(all.lastIndexOf('\n'), all.lastIndexOf('\r', all.length - 2)) + 1;
    }
    this.rest = all.slice(end);
    if (end === 0) return;
    const block = normalised(all.slice(0, end));
    const rows = splitRows(block.endsWith('\n') ? block.slice(0, -1) : block, this.layout!.delimiter);
    for (const row of rows) this.row(row);
  }

  private row(row: readonly string[]): void {
    this.line += 1;
    const layout = this.layout!;
    if (this.line < layout.dataLine) return;
    if (row.length === 1 && row[0]!.trim() === '') {
      this.blankLines += 1;
      return;
    }
    if (row.length !== layout.columns) return this.skip(row, 'wrong number of cells');
    const values = row.map((cell) => cellNumber(cell, layout.decimal));
    if (values.every(Number.isNaN)) return this.skip(row, 'no figures');
    values.forEach((value, i) => {
      this.columns[i]!.push(value);
      if (!Number.isNaN(value)) return;
      if (row[i]!.trim() === '') this.emptyCells += 1;
      else this.textCells += 1;
    });
    this.rows += 1;
  }

  private skip(row: readonly string[], reason: SkippedLine['reason']): void {
    this.skippedTotal += 1;
    if (this.skipped.length < SKIPPED_KEPT) {
      this.skipped.push({ line: this.line, reason, text: row.join(this.layout!.delimiter).slice(0, SKIPPED_TEXT) });
    }
  }
}

const normalised = (text: string): string => text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n');
