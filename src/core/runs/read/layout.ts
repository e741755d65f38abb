import Papa from 'papaparse';
import { unitByWord } from '../../units/units';
import { plainCellNumber, type DecimalMark } from './cell';
import { isKnownName } from './guess';

export type Delimiter = '\t' | ';' | ',';

/** How a delimited file is laid out. Line numbers count from 1; null: there is none. */
export interface Layout {
  readonly delimiter: Delimiter;
  readonly decimal: DecimalMark;
  readonly columns: number;
  /** First line of figures. */
  readonly dataLine: number;
  readonly headerLine: number | null;
  readonly unitsLine: number | null;
  /** Every line ends with a separator that opens no cell. Missing in layouts of an older release. */
  readonly trailing?: boolean;
  readonly preamble: readonly string[];
  readonly names: readonly string[];
  readonly units: readonly string[];
}

export function splitRows(text: string, delimiter: Delimiter): string[][] {
  return Papa.parse<string[]>(text, { delimiter, header: false, skipEmptyLines: false }).data;
}

const OPTIONS: readonly (readonly [Delimiter, DecimalMark])[] = [
  ['\t', '.'],
  ['\t', ','],
  [';', ','],
  [';', '.'],
  [',', '.'],
];

/** Rows with fewer figures than this share of their cells are text. */
const NUMERIC_SHARE = 0.5;

const numericCells = (row: readonly string[], decimal: DecimalMark): number =>
  row.filter((c) => Number.isFinite(plainCellNumber(c, decimal))).length;
const filledCells = (row: readonly string[]): number => row.filter((c) => c.trim() !== '').length;

function isData(row: readonly string[], columns: number, decimal: DecimalMark): boolean {
  const filled = filledCells(row);
  return row.length === columns && filled > 0 && numericCells(row, decimal) >= NUMERIC_SHARE * filled;
}

/** Number of columns that most rows with figures in them have. */
function commonWidth(rows: readonly string[][], decimal: DecimalMark): number {
  const count = new Map<number, number>();
  for (const row of rows) {
    if (numericCells(row, decimal) === 0) continue;
    count.set(row.length, (count.get(row.length) ?? 0) + 1);
  }
  let best = 0;
  for (const [width, n] of count) if (n > (count.get(best) ?? 0) || (n === count.get(best) && width > best)) best = width;
  return best;
}

/**
 * Finds the layout from the first lines of a file: the separator and decimal mark under which the most cells of equal
 * rows are numbers (a sniffer of ours: short two-column files with decimal commas mislead the library's), then where
 * figures start, and which lines above them are names and units. Null where no column holds figures.
 */
export function findLayout(head: string): Layout | null {
  let best: { delimiter: Delimiter; decimal: DecimalMark; rows: string[][]; columns: number; score: number } | null = null;
  for (const [delimiter, decimal] of OPTIONS) {
    const rows = splitRows(head, delimiter);
    const columns = commonWidth(rows, decimal);
    const equal = rows.filter((r) => r.length === columns && isData(r, columns, decimal));
    const figures = equal.reduce((n, r) => n + numericCells(r, decimal), 0);
    const score = figures * (headed(rows, columns, decimal) ? 1 : UNHEADED);
    if (score > 0 && score > (best?.score ?? 0)) best = { delimiter, decimal, rows, columns, score };
  }
  return best && layoutOf(best);
}

/** A separator that cuts the names into another number of cells than the figures is probably their decimal mark. */
const UNHEADED = 0.45;

function headed(rows: readonly string[][], columns: number, decimal: DecimalMark): boolean {
  const first = rows.findIndex((r) => isData(r, columns, decimal));
  const above = rows.slice(0, Math.max(0, first)).filter((r) => filledCells(r) > 0);
  const last = above.at(-1);
  return last === undefined || last.length === columns || last.length === columns + 1 || numericCells(last, decimal) > 0;
}

function layoutOf(found: { delimiter: Delimiter; decimal: DecimalMark; rows: string[][]; columns: number }): Layout | null {
  const { rows, columns, decimal } = found;
  const first = rows.findIndex((row, i) => {
    // A preamble may hold one line that looks like figures; two in a row (or the last line) are the table.
    const next = rows.slice(i + 1).find((r) => filledCells(r) > 0);
    return isData(row, columns, decimal) && (next === undefined || isData(next, columns, decimal));
  });
  if (first < 0) return null;
  const above = rows
    .map((row, i) => ({ row, i }))
    .slice(0, first)
    .filter(({ row }) => filledCells(row) > 0);
  const last = above.at(-1);
  const beforeLast = above.at(-2);
  const fits = (x?: { row: string[] }): x is { row: string[]; i: number } =>
    x !== undefined && x.row.length >= columns - 1 && filledCells(x.row) >= Math.min(2, columns) && numericCells(x.row, decimal) === 0;
  // A row of names may be nothing but units (rpm, kW): it is a units row only under a row that names something known.
  const unitsRow = fits(last) && looksLikeUnits(last.row) && fits(beforeLast) && beforeLast.row.some(isKnownName) ? last : null;
  const headerRow = unitsRow ? beforeLast! : fits(last) || (columns === 1 && last) ? last! : null;
  // A separator after the last cell of every line opens a column that is none.
  const empty = (row: readonly string[]): boolean => row.at(-1)!.trim() === '';
  const trailing =
    columns > 1 &&
    (headerRow === null || (headerRow.row.length === columns && empty(headerRow.row))) &&
    rows.slice(first).every((r) => r.length !== columns || empty(r));
  const width = trailing ? columns - 1 : columns;
  const preambleEnd = headerRow ? headerRow.i : first;
  const names: string[] = [];
  const units: string[] = [];
  for (let c = 0; c < width; c += 1) {
    const { name, unit } = nameAndUnit(headerRow?.row[c] ?? '');
    names.push(name || `column ${c + 1}`);
    units.push(bare(unitsRow?.row[c] ?? '') || unit);
  }
  return {
    delimiter: found.delimiter,
    decimal,
    columns: width,
    trailing,
    dataLine: first + 1,
    headerLine: headerRow ? headerRow.i + 1 : null,
    unitsLine: unitsRow ? unitsRow.i + 1 : null,
    preamble: rows
      .slice(0, preambleEnd)
      .map((r) => r.join(found.delimiter).trim())
      .filter((l) => l !== ''),
    names,
    units,
  };
}

const bare = (cell: string): string =>
  cell
    .trim()
    .replace(/^[([{]\s*/, '')
    .replace(/\s*[)\]}]$/, '')
    .trim();

function looksLikeUnits(row: readonly string[]): boolean {
  const filled = row.map(bare).filter((c) => c !== '');
  const known = filled.filter((c) => c === '-' || unitByWord(c) !== null).length;
  return filled.length > 0 && known >= filled.length / 2;
}

/** "Power (kW)" and "Power [kW]" and "Power, kW" apart. */
export function nameAndUnit(cell: string): { name: string; unit: string } {
  const text = cell.trim();
  const bracket = /^(.*?)\s*[([]([^()[\]]*)[)\]]\s*$/.exec(text);
  if (bracket) return { name: bracket[1]!.trim() || text, unit: bracket[2]!.trim() };
  const underscore = /^(.*)_([A-Za-z/%]+)$/.exec(text);
  if (underscore && unitByWord(underscore[2]!)) return { name: underscore[1]!, unit: underscore[2]! };
  return { name: text, unit: unitByWord(text)?.dimension === 'engineSpeed' ? text : '' };
}
