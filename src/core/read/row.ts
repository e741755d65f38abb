const LF = 0x0a;
const CR = 0x0d;
const MINUS = 0x2d;
const PLUS = 0x2b;
const SPACE = 0x20;
const ZERO = 0x30;
/** Up to here a whole number fits the machine's short integers: longer figures are read cell by cell. */
const MOST_DIGITS = 9;
const TENS = Float64Array.from({ length: MOST_DIGITS + 1 }, (_, i) => 10 ** i);

/**
 * Reads a whole row of plain figures straight from the bytes: `values.length` cells from `at` to the line's end, an empty cell
 * as NaN. `end` is where the last line feed stands: nothing here goes past one, so the bytes' own end need not be looked for at
 * every byte. The position after the line's end; −1 where the row is anything else (words, quotes, long figures, an exponent,
 * too few or too many cells, no figure at all, no line end in hand): `values` then hold nothing of use, and the row is read
 * with care. Gives exactly what the careful way gives; a long log is read in half the time.
 */
export function scanRow(bytes: Uint8Array, at: number, end: number, delimiter: number, mark: number, values: Float64Array): number {
  if (at > end) return -1;
  const last = values.length - 1;
  let i = at;
  let figures = 0;
  for (let n = 0; ; n += 1) {
    let byte = bytes[i]!;
    while (byte === SPACE) byte = bytes[++i]!;
    const sign = byte === MINUS ? -1 : byte === PLUS ? 1 : 0;
    if (sign !== 0) byte = bytes[++i]!;
    const from = i;
    let mantissa = 0;
    let digit = byte - ZERO;
    while (digit >= 0 && digit <= 9) {
      mantissa = (mantissa * 10 + digit) | 0;
      byte = bytes[++i]!;
      digit = byte - ZERO;
    }
    let digits = i - from;
    let fraction = 0;
    if (byte === mark && mark !== delimiter) {
      const after = i + 1;
      byte = bytes[++i]!;
      digit = byte - ZERO;
      while (digit >= 0 && digit <= 9) {
        mantissa = (mantissa * 10 + digit) | 0;
        byte = bytes[++i]!;
        digit = byte - ZERO;
      }
      fraction = i - after;
      digits += fraction;
      if (digits === 0) return -1;
    }
    if (digits > MOST_DIGITS) return -1;
    while (byte === SPACE) byte = bytes[++i]!;
    if (digits > 0) {
      values[n] = (sign < 0 ? -mantissa : mantissa) / TENS[fraction]!;
      figures += 1;
    } else if (sign !== 0) return -1;
    else values[n] = NaN;
    if (byte === delimiter && n < last) {
      i += 1;
      continue;
    }
    if (n !== last || figures === 0) return -1;
    if (byte === LF) return i + 1;
    return byte === CR && bytes[i + 1] === LF ? i + 2 : -1;
  }
}
