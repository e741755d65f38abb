import type { ContainerFault, ReadRefusal, TableInside } from '@/core/read/result';

/** A table taken out of a container: its rows as text, and what is to be said of where it came from. */
export interface InnerTable {
  readonly name: string;
  readonly rows: readonly (readonly string[])[];
}

export interface Opened {
  readonly refused: null;
  /** What the container is, in words. */
  readonly container: string;
  /** The table as lines of tabs, ready for the table reader. */
  readonly text: Uint8Array;
  /** What else was in it. */
  readonly unread: readonly string[];
}

export type OpenResult = Opened | ReadRefusal;

/** Most cells of a table taken out of a container. */
export const MOST_CELLS = 40_000_000;

export const fault = (container: string, why: ContainerFault): ReadRefusal => ({ refused: 'container', container, why });

const plain = (cell: string): string => (/[\t\n\r"]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);

export function tabbed(rows: readonly (readonly string[])[]): Uint8Array {
  return new TextEncoder().encode(rows.map((r) => r.map(plain).join('\t')).join('\n') + '\n');
}

const isFigure = (cell: string): boolean =>
  /^[+-]?(\d[\d.,']*|\.\d+)(e[+-]?\d+)?(\s?\S{1,6})?$/i.test(cell.trim()) || /^\d{1,2}:\d{2}/.test(cell.trim());

/** Whether rows hold figures under each other: a title page does not. */
function holdsTable({ rows }: InnerTable): boolean {
  let lines = 0;
  for (const row of rows) {
    if (row.filter(isFigure).length >= 2) lines += 1;
    if (lines >= 3) return true;
  }
  return false;
}

const widthOf = (rows: InnerTable['rows']): number => rows.reduce((m, r) => Math.max(m, r.length), 0);

/** The one table that is meant: the only one with figures, or the one that was chosen by its name. */
export function chosenTable(container: string, tables: readonly InnerTable[], choice: string | null): OpenResult {
  const found = tables.filter(holdsTable);
  if (found.length === 0) return fault(container, 'no_table');
  const one = choice === null ? (found.length === 1 ? found[0] : undefined) : found.find((t) => t.name === choice);
  if (!one) {
    const inside = found.map(({ name, rows }): TableInside => ({ name, rows: rows.length, columns: widthOf(rows) }));
    return { refused: 'which_table', container, tables: inside };
  }
  const unread = tables.filter((t) => t !== one && t.rows.length > 0).map((t) => t.name);
  return { refused: null, container: tables.length > 1 ? `“${one.name}” of ${container}` : container, text: tabbed(one.rows), unread };
}
