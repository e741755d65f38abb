import type { Layout } from './layout';

export const SKIP_REASONS = [
  'wrong number of cells',
  'no figures',
  'the header again',
  'cut off at the end of the file',
  'a line without an end',
] as const;
export type SkipReason = (typeof SKIP_REASONS)[number];

export interface SkippedLine {
  readonly line: number;
  readonly reason: SkipReason;
  readonly text: string;
}

/** What was found and what was left out, so that nothing is thrown away silently. Lines count from 1. */
export interface ImportReport {
  readonly encoding: string;
  readonly layout: Omit<Layout, 'names' | 'units'>;
  readonly rows: number;
  readonly blankLines: number;
  readonly skipped: readonly SkippedLine[];
  readonly skippedTotal: number;
  readonly emptyCells: number;
  /** Cells in columns of figures that hold something else. Missing in reports of an older release, as are all below. */
  readonly textCells: number;
  readonly firstTextCell?: { readonly line: number; readonly column: string; readonly text: string } | null;
  /** Zero bytes dropped: space a logger had set aside and never wrote. */
  readonly zeroBytes?: number;
  /** Rows before which the header stands again. */
  readonly sections?: readonly number[];
  /** Rows whose time is before, or the same as, that of the row above. */
  readonly timeBack?: { readonly count: number; readonly firstLine: number | null };
  readonly timeRepeated?: { readonly count: number; readonly firstLine: number | null };
}

/** Rows of a column that are kept, sent and stored together. */
export const BLOCK_ROWS = 65_536;

export interface ReadColumn {
  readonly name: string;
  readonly unit: string;
  /** The rows in order, BLOCK_ROWS a block, the last one shorter. NaN where the cell was empty or not a number. */
  readonly blocks: readonly Float64Array<ArrayBuffer>[];
  /** How many cells are numbers. */
  readonly count: number;
}

export type ReadRefusal =
  | { readonly refused: 'empty_file' }
  | { readonly refused: 'not_text'; readonly looksLike: string }
  | { readonly refused: 'no_numeric_column'; readonly line: number; readonly text: string }
  | { readonly refused: 'too_many_cells'; readonly line: number; readonly columns: number };

export type ReadResult = { readonly refused: null; readonly columns: readonly ReadColumn[]; readonly report: ImportReport } | ReadRefusal;

/** All rows of a column as one array. */
export function columnValues(column: Pick<ReadColumn, 'blocks'>): Float64Array<ArrayBuffer> {
  if (column.blocks.length === 1) return column.blocks[0]!;
  const out = new Float64Array(column.blocks.reduce((n, b) => n + b.length, 0));
  let at = 0;
  for (const block of column.blocks) {
    out.set(block, at);
    at += block.length;
  }
  return out;
}
