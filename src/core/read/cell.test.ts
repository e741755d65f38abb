import fc from 'fast-check';
import { cellNumber, scanCell, type CellScan } from './cell';
import { scanRow } from './row';
import { TableReader } from './reader';
import { columnValues } from './result';

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);
const COMMA = 0x2c;
const SEMICOLON = 0x3b;
const POINT = 0x2e;

function scan(text: string, delimiter = SEMICOLON, mark = POINT): CellScan {
  const out: CellScan = { value: NaN, end: -1, plain: false };
  const bytes = bytesOf(text);
  scanCell(bytes, 0, bytes.length, delimiter, mark, out);
  return out;
}

/** Text that a cell may hold: figures, and what looks like one. */
const cell = fc
  .array(fc.constantFrom(...'0123456789', '0', '1', '9', '.', ',', '-', '+', ' ', 'e', 'x'), { maxLength: 9 })
  .map((c) => c.join(''));

describe('a cell read from its bytes', () => {
  it.each([
    ['12.5', 12.5],
    ['-0.25', -0.25],
    ['+5', 5],
    ['  7  ', 7],
    ['.5', 0.5],
    ['8.', 8],
    ['123456789012345', 123_456_789_012_345],
  ])('“%s” is a figure', (text, value) => {
    expect(scan(`${text};9`)).toEqual({ value, end: text.length, plain: true });
  });

  it.each(['-', '+', '+ ', ' -', '1e3', 'x', '1 2', '"1"', '1234567890123456', '.'])('“%s” has to be looked at as text', (text) => {
    expect(scan(text).plain).toBe(false);
  });

  it.each(['', ' ', '   '])('“%s” is nothing at all', (text) => {
    expect(scan(`${text};1`)).toEqual({ value: NaN, end: text.length, plain: true });
  });

  it('is what its text is, wherever it says it is plain', () => {
    fc.assert(
      fc.property(cell, fc.constantFrom(['.', POINT] as const, [',', COMMA] as const), (text, [decimal, mark]) => {
        const got = scan(`${text};1`, SEMICOLON, mark);
        expect(got.end).toBe(text.length);
        if (got.plain) expect(got.value).toBe(text.trim() === '' ? NaN : cellNumber(text, decimal));
      }),
      { numRuns: 3000, endOnFailure: true },
    );
  });
});

describe('a row read in one go', () => {
  it('is what its cells are, or is left to be read with care', () => {
    fc.assert(
      fc.property(fc.array(cell, { minLength: 3, maxLength: 3 }), fc.constantFrom('\n', '\r\n'), (cells, end) => {
        const bytes = bytesOf(`${cells.join(';')}${end}`);
        const values = new Float64Array(3);
        const next = scanRow(bytes, 0, bytes.lastIndexOf(0x0a), SEMICOLON, POINT, values);
        if (next < 0) return;
        expect(next).toBe(bytes.length);
        expect([...values]).toEqual(cells.map((c) => (c.trim() === '' ? NaN : cellNumber(c, '.'))));
      }),
      { numRuns: 3000, endOnFailure: true },
    );
  });

  it('with signs, and cells with no more than one', () => {
    const reader = new TableReader();
    reader.push(bytesOf(`Time (s);Trim (%);RPM\n0;+1.5;+2000\n0.1;-1.5;2100\n0.2;+;2200\n0.3;-;2300\n`));
    const read = reader.finish();
    if (read.refused !== null) throw new Error(read.refused);
    expect([...columnValues(read.columns[1]!)]).toEqual([1.5, -1.5, NaN, NaN]);
    // A lone minus says that nothing is there; a lone plus is a word among figures.
    expect(read.report).toMatchObject({ rows: 4, emptyCells: 1, textCells: 1, firstTextCell: { line: 4, text: '+' } });
  });
});
