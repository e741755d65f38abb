import { cutText } from '../cut-text';
import Papa from 'papaparse';
import { headerSplits, type HeaderSplit } from '../units/header';
import { unitByWord } from '../units/units';
import { cellNumber, cellWithWord, isNothing, plainCellNumber, type DecimalMark } from './cell';
import { isKnownName } from './guess';
import { readUnitWord } from './unit-words';
import { ruleOf } from './rules';
import { RUN_MARK } from './run-mark';

export type Delimiter = '\t' | ';' | ',' | '|';

/** How a delimited file is laid out. Line numbers count from 1; null: there is none. */
export interface Layout {
  readonly delimiter: Delimiter;
  readonly decimal: DecimalMark;
  readonly columns: number;
  /** First line of figures. */
  readonly dataLine: number;
  readonly headerLine: number | null;
  readonly unitsLine: number | null;
  /** Every line ends with a separator that opens no cell. Missing in layouts of an older release, as are all below. */
  readonly trailing?: boolean;
  /** Fewest cells a row of the table has: rows may lack what the names lack too. */
  readonly least?: number;
  /** Figures with this mark in threes are thousands, by the size they then have. */
  readonly thousands?: ',' | '.' | null;
  readonly preamble: readonly string[];
  readonly names: readonly string[];
  readonly units: readonly string[];
  /** The word that follows every figure of a column in its cells; '' where none does. */
  readonly words?: readonly string[];
}

export function splitRows(text: string, delimiter: Delimiter): string[][] {
  return Papa.parse<string[]>(text, { delimiter, header: false, skipEmptyLines: false }).data;
}

/** So much of a cell is looked at; the ends of lines in what is left out stay, as lines are counted by them. */
const LONGEST_CELL = 1000;
const beginning = (cell: string): string =>
  cell.length <= LONGEST_CELL ? cell : cutText(cell, LONGEST_CELL) + cell.slice(LONGEST_CELL).replace(/[^\n]+/g, '');

/** A row of dashes that parts the names of a drawn table from its figures. */
const isRule = (row: readonly string[]): boolean => row.some((c) => /-{3}/.test(c)) && row.every((c) => /^\s*(:?-{2,}:?)?\s*$/.test(c));

const OPTIONS: readonly (readonly [Delimiter, DecimalMark])[] = [
  ['\t', '.'],
  ['\t', ','],
  [';', ','],
  [';', '.'],
  ['|', '.'],
  ['|', ','],
  [',', '.'],
  [',', ','],
];

/** Rows with fewer figures than this share of their cells are text. */
const NUMERIC_SHARE = 0.5;

function isFigure(cell: string, decimal: DecimalMark): boolean {
  if (Number.isFinite(cellNumber(cell, decimal))) return true;
  const worded = cellWithWord(cell, decimal);
  return worded !== null && readUnitWord(worded.word) !== null;
}

const numericCells = (row: readonly string[], decimal: DecimalMark): number => row.filter((c) => isFigure(c, decimal)).length;
const filledCells = (row: readonly string[]): number => row.filter((c) => c.trim() !== '').length;

function hasFigures(row: readonly string[], decimal: DecimalMark): boolean {
  const filled = row.filter((c) => c.trim() !== '' && !isNothing(c)).length;
  const numeric = numericCells(row, decimal);
  return numeric > 0 && numeric >= NUMERIC_SHARE * filled;
}

/** Number of columns that most rows with figures in them have. */
function commonWidth(rows: readonly string[][], decimal: DecimalMark): number {
  const count = new Map<number, number>();
  for (const row of rows) {
    if (!hasFigures(row, decimal)) continue;
    count.set(row.length, (count.get(row.length) ?? 0) + 1);
  }
  let best = 0;
  for (const [width, n] of count) if (n > (count.get(best) ?? 0) || (n === count.get(best) && width > best)) best = width;
  return best;
}

interface Found {
  readonly delimiter: Delimiter;
  readonly decimal: DecimalMark;
  readonly rows: string[][];
  readonly columns: number;
}

export interface FoundLayout {
  readonly layout: Layout;
  /** Cells of equal rows that are figures: by it two ways of cutting a text are held against each other. */
  readonly score: number;
}

/**
 * Finds the layout from the first lines of a file: the separator and decimal mark under which the most cells of equal
 * rows are numbers (a sniffer of ours: short two-column files with decimal commas mislead the library's), then where
 * figures start, and which lines above them are names and units. Null where no column holds figures.
 */
export function findLayout(head: string): FoundLayout | null {
  let best: (Found & { score: number }) | null = null;
  for (const [delimiter, decimal] of OPTIONS) {
    if (delimiter === '|' && !head.includes('|')) continue;
    const rows = splitRows(head, delimiter).map((row) => (isRule(row) ? row.map(() => '') : row.map(beginning)));
    const columns = commonWidth(rows, decimal);
    const equal = rows.filter((r) => r.length === columns && hasFigures(r, decimal));
    // A grouped or worded figure counts a little less: a plain reading of the same cells is the better one.
    const figures = equal.reduce((n, r) => n + 0.1 * numericCells(r, decimal) + 0.9 * r.filter((c) => isPlain(c, decimal)).length, 0);
    const score = figures * (headed(rows, columns, decimal) ? 1 : UNHEADED);
    if (score > 0 && score > (best?.score ?? 0)) best = { delimiter, decimal, rows, columns, score };
  }
  const layout = best && layoutOf(best);
  return layout ? { layout, score: best!.score } : null;
}

const isPlain = (cell: string, decimal: DecimalMark): boolean => Number.isFinite(plainCellNumber(cell, decimal));

/** A separator that cuts the names into another number of cells than the figures is probably their decimal mark. */
const UNHEADED = 0.45;

function headed(rows: readonly string[][], columns: number, decimal: DecimalMark): boolean {
  const first = rows.findIndex((r) => r.length === columns && hasFigures(r, decimal));
  const above = rows.slice(0, Math.max(0, first)).filter((r) => filledCells(r) > 0);
  const last = above.at(-1);
  if (last === undefined || last.length === columns || last.length === columns + 1 || numericCells(last, decimal) > 0) return true;
  // Names may lack the last column where it holds words.
  return last.length === columns - 1 && rows.every((r) => r.length !== columns || !isFigure(r.at(-1)!, decimal));
}

/** A row as wide as the table, or wider or narrower by cells that are no figures. */
function fitsTable(row: readonly string[], columns: number, least: number, decimal: DecimalMark): boolean {
  return row.length >= least && hasFigures(row.slice(0, columns), decimal) && numericCells(row.slice(columns), decimal) === 0;
}

/** A row that names the columns of a table: as wide as it, and of something we know. */
function isNames(row: readonly string[], columns: number, decimal: DecimalMark): boolean {
  const filled = filledCells(row);
  return filled >= Math.max(2, columns - 1) && numericCells(row, decimal) === 0 && row.some((c) => isKnownName(nameAndUnit(c).name));
}

/**
 * Where the table begins: the first row of the longest stretch of rows that fit it. A line of figures, or a summary of a
 * few, may stand above it; a stretch is broken by a row of names, not by a marker or a remark among its rows.
 */
function tableStart(rows: readonly string[][], columns: number, decimal: DecimalMark): number {
  let best = { at: -1, length: 0 };
  let at = -1;
  let length = 0;
  const close = (): void => {
    if (length > best.length) best = { at, length };
    at = -1;
    length = 0;
  };
  rows.forEach((row, i) => {
    if (filledCells(row) === 0) return;
    if (fitsTable(row, columns, columns, decimal)) {
      if (at < 0) at = i;
      length += 1;
    } else if (isNames(row, columns, decimal)) close();
  });
  close();
  if (best.at < 0) return -1;
  // Pulls under one header each are stretches of one table: the first of them with these very names begins it.
  const names = rowAbove(rows, best.at)?.row.join('\u0000');
  if (names === undefined) return best.at;
  const firstOfNames = rows.findIndex((r) => r.join('\u0000') === names);
  const start = rows.findIndex((r, i) => i > firstOfNames && fitsTable(r, columns, columns, decimal));
  return start >= 0 && start < best.at && rowAbove(rows, start)?.row.join('\u0000') === names ? start : best.at;
}

function rowAbove(rows: readonly string[][], at: number): { row: string[]; i: number } | undefined {
  for (let i = at - 1; i >= 0; i -= 1) if (filledCells(rows[i]!) > 0) return { row: rows[i]!, i };
  return undefined;
}

/** The rows over a table: its names, and its units where they have a row of their own. */
function headOf(rows: readonly string[][], begins: number, columns: number, decimal: DecimalMark) {
  const last = rowAbove(rows, begins);
  const beforeLast = last && rowAbove(rows, last.i);
  const fits = (x?: { row: string[] }): x is { row: string[]; i: number } =>
    x !== undefined && x.row.length >= columns - 1 && filledCells(x.row) >= Math.min(2, columns) && numericCells(x.row, decimal) === 0;
  // A row of names may be nothing but units (rpm, kW): it is a units row only under a row that names something known.
  const unitsRow = fits(last) && looksLikeUnits(last.row) && fits(beforeLast) && beforeLast.row.some(isKnownName) ? last : null;
  const headerRow = unitsRow ? beforeLast! : fits(last) || (columns === 1 && last) ? last! : null;
  return { headerRow, unitsRow };
}

/** How many cells a row of the table has, and how many it must have at least. */
function widthOf(table: readonly string[][], header: readonly string[] | null, columns: number) {
  // A separator after the last cell of every line opens a column that is none.
  const empty = (row: readonly string[]): boolean => row.at(-1)!.trim() === '';
  const trailing =
    columns > 1 &&
    (header === null || (header.length === columns && empty(header))) &&
    table.every((r) => r.length !== columns || empty(r));
  const width = trailing ? columns - 1 : columns;
  const named = header ? header.slice(0, width).filter((c) => c.trim() !== '').length : width;
  const least = trailing ? width : Math.min(width, Math.max(1, named));
  return { trailing, width, least };
}

function layoutOf(found: Found): Layout | null {
  const { rows, columns, delimiter } = found;
  let { decimal } = found;
  const begins = tableStart(rows, columns, decimal);
  if (begins < 0) return null;
  const { headerRow, unitsRow } = headOf(rows, begins, columns, decimal);
  const table = rows.slice(begins);
  const { trailing, width, least } = widthOf(table, headerRow?.row ?? null, columns);
  const group = headerRow && rowAbove(rows, headerRow.i);
  const groups = group ? groupNames(group.row, headerRow.row, width, decimal) : null;
  const names: string[] = [];
  const units: string[] = [];
  const words: string[] = [];
  for (let c = 0; c < width; c += 1) {
    const { name, unit } = nameAndUnit(headerRow?.row[c] ?? '');
    const worded = wordOf(table.slice(0, 50), c, decimal);
    names.push([groups?.[c], name || `column ${c + 1}`].filter(Boolean).join(' '));
    units.push(bare(unitsRow?.row[c] ?? '') || unit || worded);
    words.push(worded);
  }
  const thousands = thousandsByHabit(table, names, units, decimal);
  if (thousands) decimal = thousands === ',' ? '.' : ',';
  const lineOf = lineNumbers(rows);
  const preambleEnd = headerRow ? headerRow.i : begins;
  return {
    delimiter,
    decimal,
    columns: width,
    trailing,
    least,
    thousands,
    dataLine: lineOf(begins),
    headerLine: headerRow ? lineOf(headerRow.i) : null,
    unitsLine: unitsRow ? lineOf(unitsRow.i) : null,
    preamble: rows
      .slice(0, groups ? group!.i : preambleEnd)
      // A cell with the separator in it keeps its quotes: "24,5" between commas is one figure.
      .map((r) =>
        r
          .map((c) => (c.includes(delimiter) ? `"${c.replaceAll('"', '""')}"` : c))
          .join(delimiter)
          .trim(),
      )
      .filter((l) => l !== ''),
    names,
    units,
    words,
  };
}

/** Lines that rows begin on: a quoted cell may run over several. */
function lineNumbers(rows: readonly string[][]): (row: number) => number {
  return (row) => 1 + row + rows.slice(0, row).reduce((n, r) => n + r.reduce((m, c) => m + (c.match(/\n/g)?.length ?? 0), 0), 0);
}

/**
 * A row of run names over the names ("Run 1,,,Run 2,,"): each name with the one above it or to its left. Null where the row
 * above is nothing of the kind.
 */
function groupNames(above: readonly string[], header: readonly string[], width: number, decimal: DecimalMark): string[] | null {
  const filled = filledCells(above);
  if (filled < 2 || filled >= width || above.length < width - 1 || numericCells(above, decimal) > 0) return null;
  const plain = header.slice(0, width).map((h) => h.trim().toLowerCase());
  // Only names that stand twice need telling apart.
  if (new Set(plain).size === plain.length) return null;
  let group = '';
  return Array.from({ length: width }, (_, c) => (group = (above[c] ?? '').trim() || group));
}

/** The word that follows the figures of a column in every cell that has one. */
function wordOf(rows: readonly string[][], column: number, decimal: DecimalMark): string {
  const cells = rows.map((r) => r[column] ?? '').filter((c) => c.trim() !== '');
  const found = cells.map((c) => (isPlain(c, decimal) ? null : cellWithWord(c, decimal)));
  const word = found.find((f) => f !== null)?.word ?? '';
  return word !== '' && readUnitWord(word) && found.every((f) => f?.word === word) ? word : '';
}

/** Engine speeds a car has. */
const SPEEDS = [400, 20_000] as const;

/**
 * Whether figures such as 6,400 are thousands: where every figure with the mark has just three digits behind it, and the
 * engine speeds are possible ones only so.
 */
function thousandsByHabit(
  rows: readonly string[][],
  names: readonly string[],
  units: readonly string[],
  decimal: DecimalMark,
): ',' | '.' | null {
  const grouped = decimal === ',' ? /^[+-]?[1-9]\d{0,2}(?:,\d{3})+$/ : /^[+-]?[1-9]\d{0,2}(?:\.\d{3})+$/;
  const marked = rows.flatMap((r) => r.map((c) => c.trim()).filter((c) => c.includes(decimal) && isPlain(c, decimal)));
  if (marked.length < 3 || !marked.every((c) => grouped.test(c))) return null;
  const isSpeed = (name: string): boolean => /speed/i.test(name) || ruleOf('rpm')!.name.test(name);
  const rpm = names.findIndex((n, c) => isSpeed(n) && !/krpm|1000/i.test(`${n} ${units[c]}`));
  const cells = rpm < 0 ? [] : rows.map((r) => (r[rpm] ?? '').trim()).filter((c) => isPlain(c, decimal));
  const other = decimal === ',' ? '.' : ',';
  const asDecimals = cells.map((c) => plainCellNumber(c, decimal));
  const asThousands = cells.map((c) => cellNumber(c, other));
  const within = (v: number): boolean => v >= SPEEDS[0] && v <= SPEEDS[1];
  const odd = cells.length > 0 && asDecimals.some((v) => v < SPEEDS[0]) && asThousands.every(within);
  return odd ? decimal : null;
}

/** A name goes on no further: what is longer is none, and taking it apart would take long. */
const LONGEST_NAME = 200;
const bare = (cell: string): string =>
  cutText(cell.trim(), LONGEST_NAME)
    .replace(/^[([{]\s*/, '')
    .replace(/\s*[)\]}]$/, '')
    .trim();

function looksLikeUnits(row: readonly string[]): boolean {
  const filled = row.map(bare).filter((c) => c !== '');
  const known = filled.filter((c) => c === '-' || readUnitWord(c) !== null).length;
  return filled.length > 0 && known >= filled.length / 2;
}

const oneLine = (cell: string): string => cutText(cell.replace(/\s+/g, ' ').trim(), LONGEST_NAME);

const IS_RUN_MARK = new RegExp(`^\\s*${RUN_MARK}\\s*$`, 'i');

/** "Power (kW)", "Power [kW]", "Power / kW", "Power, kW" and "Power_kW" apart; of "RPM (run 7)" the brackets tell the run and stay with the name. */
export function nameAndUnit(cell: string): { name: string; unit: string } {
  const text = oneLine(cell);
  const bracket = /^(.*?)\s*[([{]([^()[\]{}]*(?:\([^()]*\))?[^()[\]{}]*)[)\]}]\s*$/.exec(text);
  if (bracket && IS_RUN_MARK.test(bracket[2]!)) {
    const { name, unit } = nameAndUnit(bracket[1]!);
    return { name: `${name} (${bracket[2]!.trim()})`.trim(), unit };
  }
  if (bracket) return { name: bracket[1]!.trim() || text, unit: bracket[2]!.trim() };
  const times = /^(.*?(?:rpm|speed|drehzahl|revs?))\s*([x×*/]\s*1[\s.,]?000)$/i.exec(text);
  if (times) return { name: times[1]!.trim(), unit: 'krpm' };
  // A name that is a unit of engine speed is both: "tr/min" is no "tr" by the minute.
  if (unitByWord(text)?.dimension === 'engineSpeed') return { name: text, unit: text };
  const split = headerSplits(text).find(tellsUnit);
  return split ? { name: split.name, unit: split.unit } : { name: text, unit: '' };
}

/** Whether what a header may hold as a unit is one here: behind no more than a slash or a blank only where the rest is a name we know. */
function tellsUnit({ name, unit, by }: HeaderSplit): boolean {
  if (by === 'brackets' || readUnitWord(unit) === null) return false;
  if (by === 'apart' || by === 'underscore') return true;
  return isKnownName(name) && (by === 'slash' || by === 'sign' || lastWordIsUnit(unit));
}

/** The last word of a name is its unit only where it is hardly anything else: "Torque Nm", not "Air in". */
const lastWordIsUnit = (word: string): boolean => word.length > 1 && !/^(in|min|at|mi|sec)$/i.test(word) && readUnitWord(word) !== null;
