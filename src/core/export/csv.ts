/** How a table is written for what will open it. */
export const CSV_FORMS = ['plain', 'spreadsheet', 'decimal comma'] as const;
/**
 * plain: commas and decimal points, for programs. spreadsheet: the same, marked as UTF-8 so that a spreadsheet reads names in
 * any script. decimal comma: semicolons and decimal commas, marked, for a spreadsheet that writes figures so.
 */
export type CsvForm = (typeof CSV_FORMS)[number];

export type CsvCell = string | number | null | undefined;

const MARK = '\uFEFF';

/** A cell of words that a spreadsheet would take for a formula is made one of words. */
const harmless = (text: string): string => (/^'*[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** Words as they were before they were made harmless. */
export const unharmed = (cell: string): string => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

function written(cell: CsvCell, delimiter: string, comma: boolean): string {
  if (cell === null || cell === undefined) return '';
  if (typeof cell === 'number') {
    if (!Number.isFinite(cell)) return '';
    const text = Object.is(cell, -0) ? '-0' : String(cell);
    return comma ? text.replace('.', ',') : text;
  }
  const text = harmless(cell);
  return text.includes(delimiter) || /["\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Rows of cells as CSV. Numbers are written in full; words are quoted where they must be. */
export function csvText(rows: readonly (readonly CsvCell[])[], form: CsvForm = 'plain'): string {
  const comma = form === 'decimal comma';
  const delimiter = comma ? ';' : ',';
  const lines = rows.map((r) => r.map((c) => written(c, delimiter, comma)).join(delimiter));
  return `${form === 'plain' ? '' : MARK}${lines.join('\n')}\n`;
}

/** A row of words exactly as they are, for files that Vanner itself reads back. */
export const csvRow = (cells: readonly string[]): string =>
  cells.map((c) => (/[",\n\r]/.test(c) ? `"${c.replaceAll('"', '""')}"` : c)).join(',');

/** Names of which each stands once: one that comes again is numbered. */
export function uniqueNames(names: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return names.map((name) => {
    const n = (seen.get(name) ?? 0) + 1;
    seen.set(name, n);
    return n === 1 ? name : `${name} (${n})`;
  });
}
