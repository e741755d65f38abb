import { csvText, type CsvForm } from '@/core/export/csv';

/** A column as text: what is copied and saved stands for what is seen. */
export interface TextColumn<T> {
  readonly title: string;
  readonly text: (row: T) => string;
}

const oneLine = (cell: string): string => cell.replace(/[\t\r\n]+/g, ' ').trim();

/** Rows for the clipboard: a line a row, cells apart by tabs, as a spreadsheet takes them. */
export const rowsAsTabs = <T>(columns: readonly TextColumn<T>[], rows: readonly T[]): string =>
  [columns.map((c) => oneLine(c.title)), ...rows.map((r) => columns.map((c) => oneLine(c.text(r))))]
    .map((line) => line.join('\t'))
    .join('\n');

export const rowsAsCsv = <T>(columns: readonly TextColumn<T>[], rows: readonly T[], form: CsvForm = 'plain'): string =>
  csvText([columns.map((c) => c.title), ...rows.map((r) => columns.map((c) => oneLine(c.text(r))))], form);
