import type { Layout } from './layout';

export const SKIP_REASONS = [
  'wrong number of cells',
  'no figures',
  'the header again',
  'cut off at the end of the file',
  'a line without an end',
  'the names of another table',
  'a row of another table',
  'sums the table up',
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
  /** Rows with words behind the last column, which belong to none, and rows that lack cells at their end. */
  readonly extraCells?: { readonly count: number; readonly firstLine: number | null };
  readonly missingCells?: { readonly count: number; readonly firstLine: number | null };
  /** The clock ran past midnight: it is counted on. */
  readonly pastMidnight?: boolean;
  /** No separator: its columns stand under each other by blanks. */
  readonly setWithBlanks?: boolean;
  /** What the table was in, where the file is not a text of its own: a sheet, an archive, a document of another format. */
  readonly container?: string;
  /** What else was in it and was not read. */
  readonly unread?: readonly string[];
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
  /** Made by the reader out of other columns, as this says. */
  readonly made?: string;
  /** It is counted by a clock of its own, which is not the table's; what was made of it stands in a column that says so. */
  readonly ownClock?: boolean;
}

export type ReadRefusal =
  | { readonly refused: 'empty_file' }
  | { readonly refused: 'not_text'; readonly looksLike: string }
  | { readonly refused: 'no_numeric_column'; readonly line: number; readonly text: string }
  | { readonly refused: 'too_many_cells'; readonly line: number; readonly columns: number }
  /** A container of several tables: which one is meant is asked. */
  | { readonly refused: 'which_table'; readonly container: string; readonly tables: readonly TableInside[] }
  /** A container that cannot be read, with what is wrong with it. */
  | { readonly refused: 'container'; readonly container: string; readonly why: ContainerFault };

/** A table inside a workbook or an archive: what it is called, and how large it is. */
export interface TableInside {
  readonly name: string;
  readonly rows: number;
  readonly columns: number;
}

export const CONTAINER_FAULTS = ['damaged', 'too_large', 'no_table', 'encrypted', 'form'] as const;
export type ContainerFault = (typeof CONTAINER_FAULTS)[number];

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
