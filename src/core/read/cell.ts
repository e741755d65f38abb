export type DecimalMark = '.' | ',';

const POINT_NUMBER = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?$/i;
/** Thousands marks are only believed where the mark cannot be the decimal one: 1,234.5 and 1.234,5 and 1'234 and 1 234. */
const GROUPED = {
  '.': /^[+-]?[1-9]\d{0,2}(?:([,'’\s])\d{3})(?:\1\d{3})*(?:\.\d+)?$/,
  ',': /^[+-]?[1-9]\d{0,2}(?:([.'’\s])\d{3})(?:\1\d{3})*(?:,\d+)?$/,
} as const;
const CLOCK = /^(?:(\d{1,3}):)?(\d{1,2}):(\d{2}(?:[.,]\d+)?)\s*([ap]\.?m\.?)?$/i;
const CLOCK_MS = /^(\d{1,3}):(\d{2}):(\d{2}):(\d{3})$/;
const STAMP =
  /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[ T]+|,\s*)(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*(Z|[+-]\d{2}:?\d{2}|[ap]\.?m\.?)?$/i;
const DAY_FIRST = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4})(?:[ T]+|,\s*)(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*([ap]\.?m\.?)?$/i;
/** What loggers write where there is no figure. */
const NOTHING = /^(?:nan|n\/?a|#n\/a|null|none|nil|inf|-inf|-+|—|–|\*+|\?+)$/i;

/** What is longer is no figure, whatever stands in it: it is not looked through. */
const LONGEST_FIGURE = 80;
/** The cell without the blanks around it; empty where it is too long to be a figure. */
function figureText(cell: string): string {
  const text = cell.trim();
  return text.length > LONGEST_FIGURE ? '' : text;
}

/** A cell that says there is no figure: as good as an empty one. */
export const isNothing = (cell: string): boolean => NOTHING.test(figureText(cell));

/** A cell as a number by its decimal mark alone: what a layout is judged by. Clock times and dated stamps become seconds. */
export function plainCellNumber(cell: string, decimal: DecimalMark): number {
  const text = figureText(cell)
    .replace(/^=?"(.*)"$/, '$1')
    .replace(/^−/, '-');
  const plain = decimal === ',' ? (text.includes('.') ? '' : text.replace(',', '.')) : text;
  return POINT_NUMBER.test(plain) ? Number(plain) : seconds(text);
}

/** A table cell as a number, thousands marks and all; NaN when it is not one. */
export function cellNumber(cell: string, decimal: DecimalMark): number {
  const value = plainCellNumber(cell, decimal);
  if (value === value) return value;
  const text = figureText(cell).replace(/^−/, '-');
  if (!GROUPED[decimal].test(text)) return NaN;
  const bare = text.replace(/['’\s]/g, '');
  return Number(decimal === '.' ? bare.replaceAll(',', '') : bare.replaceAll('.', '').replace(',', '.'));
}

const WITH_WORD = /^([+-]?[\d.,'’]+(?:e[+-]?\d+)?)\s*([^\d\s.,'’+-][^\d]{0,11})$/i;

/** A cell that says its unit ("37.2 kW"): the figure and the word; null where it is not so. */
export function cellWithWord(cell: string, decimal: DecimalMark): { value: number; word: string } | null {
  const match = WITH_WORD.exec(figureText(cell).replace(/^−/, '-'));
  if (!match) return null;
  const value = cellNumber(match[1]!, decimal);
  return value === value ? { value, word: match[2]!.trim() } : null;
}

const secondsOf = (text: string | undefined): number => (text === undefined ? 0 : Number(text.replace(',', '.')));

/** A time of day, counted from midnight: what may run past it. */
export function isClock(cell: string): boolean {
  const text = figureText(cell);
  return CLOCK.test(text) || CLOCK_MS.test(text);
}

/** An hour of the day, of half a day where it says which. */
const hourOf = (hour: string | undefined, half: string | undefined): number =>
  half ? (Number(hour) % 12) + (/^p/i.test(half) ? 12 : 0) : Number(hour ?? 0);

function seconds(text: string): number {
  if (!text.includes(':')) return NaN;
  const clock = CLOCK.exec(text);
  if (clock) {
    const half = clock[4];
    // With am and pm, two figures are hours and minutes.
    if (half && clock[1] === undefined) return hourOf(clock[2], half) * 3600 + secondsOf(clock[3]) * 60;
    return hourOf(clock[1], half) * 3600 + Number(clock[2]) * 60 + secondsOf(clock[3]);
  }
  const fine = CLOCK_MS.exec(text);
  if (fine) return Number(fine[1]) * 3600 + Number(fine[2]) * 60 + Number(fine[3]) + Number(fine[4]) / 1000;
  const stamp = STAMP.exec(text);
  if (stamp) {
    const [, year, month, day, hour, minute, second, zone] = stamp;
    const offset = /^([+-])(\d{2}):?(\d{2})$/.exec(zone ?? '');
    const half = /^[ap]/i.test(zone ?? '') ? zone : undefined;
    const away = offset ? (offset[1] === '-' ? 1 : -1) * (Number(offset[2]) * 3600 + Number(offset[3]) * 60) : 0;
    return Date.UTC(Number(year), Number(month) - 1, Number(day), hourOf(hour, half), Number(minute)) / 1000 + secondsOf(second) + away;
  }
  const other = DAY_FIRST.exec(text);
  if (!other) return NaN;
  const [, a, b, year, hour, minute, second, half] = other;
  // Only differences matter here; where the first cannot be a day the month stands first.
  const [day, month] = Number(b) > 12 ? [Number(b), Number(a)] : [Number(a), Number(b)];
  return Date.UTC(Number(year), month - 1, day, hourOf(hour, half), Number(minute)) / 1000 + secondsOf(second);
}

const MINUS = 0x2d;
const PLUS = 0x2b;
const SPACE = 0x20;
const QUOTE = 0x22;
/** Up to here an integer is a double exactly; its quotient by an exact power of ten is then the nearest double. */
const MOST_DIGITS = 15;
const TENS = Float64Array.from({ length: 23 }, (_, i) => 10 ** i);

/** Where a scan of a cell ended, and what it read. One object serves a whole file. */
export interface CellScan {
  value: number;
  end: number;
  /** A plain number or nothing at all; false: the cell's text has to be looked at. */
  plain: boolean;
}

/**
 * Reads a cell of figures straight from the bytes, from `at` to the separator or `end`. Gives exactly what `cellNumber` would
 * of its text; where it cannot (an exponent, many digits, words, quotes) it says so. Twenty times as fast as going by text.
 */
export function scanCell(bytes: Uint8Array, at: number, end: number, delimiter: number, mark: number, out: CellScan): void {
  let i = at;
  while (i < end && bytes[i] === SPACE) i += 1;
  let sign = 1;
  if (bytes[i] === MINUS && i < end) {
    sign = -1;
    i += 1;
  } else if (bytes[i] === PLUS && i < end) i += 1;
  const from = i;
  let mantissa = 0;
  let digits = 0;
  let fraction = 0;
  while (i < end) {
    const d = bytes[i]! - 48;
    if (d < 0 || d > 9) break;
    mantissa = mantissa * 10 + d;
    digits += 1;
    i += 1;
  }
  if (i < end && bytes[i] === mark && mark !== delimiter) {
    i += 1;
    while (i < end) {
      const d = bytes[i]! - 48;
      if (d < 0 || d > 9) break;
      mantissa = mantissa * 10 + d;
      digits += 1;
      fraction += 1;
      i += 1;
    }
  }
  const signed = from > at && bytes[from - 1] !== SPACE;
  const lone = i === from;
  while (i < end && bytes[i] === SPACE) i += 1;
  if (i === end || bytes[i] === delimiter) {
    out.end = i;
    out.plain = (lone && !signed) || (digits > 0 && digits <= MOST_DIGITS);
    out.value = digits > 0 ? (sign * mantissa) / TENS[Math.min(fraction, 22)]! : NaN;
    return;
  }
  i = closingQuote(bytes, at, end);
  while (i < end && bytes[i] !== delimiter) i += 1;
  out.end = i;
  out.plain = false;
  out.value = NaN;
}

/** Past the closing quote of a quoted cell; its beginning where it is not quoted, or the quote is never closed: then it is dirt. */
function closingQuote(bytes: Uint8Array, at: number, end: number): number {
  let i = at;
  while (i < end && bytes[i] === SPACE) i += 1;
  if (bytes[i] !== QUOTE || i >= end) return at;
  for (i += 1; i < end; i += 1) {
    if (bytes[i] !== QUOTE) continue;
    if (bytes[i + 1] !== QUOTE || i + 1 >= end) return i + 1;
    i += 1;
  }
  return at;
}
