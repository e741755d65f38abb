import fc from 'fast-check';
import { WARTS, wartFile } from '../stand-ins/warts';
import { wartTable } from '../../../test/wart-table';
import { TableReader } from './reader';
import { columnValues, type ReadResult } from './result';

function read(bytes: Uint8Array, chunk = bytes.length): ReadResult {
  const reader = new TableReader();
  for (let at = 0; at < bytes.length; at += chunk) reader.push(bytes.slice(at, at + chunk));
  return reader.finish();
}

const table = wartTable();

describe('the corpus of awkward files', () => {
  it('has more than forty kinds, each once', () => {
    expect(WARTS.length).toBeGreaterThanOrEqual(40);
    expect(new Set(WARTS.map((w) => w.id)).size).toBe(WARTS.length);
  });

  it.each(WARTS.map((w) => [w.id, w.say]))('%s: %s', (id) => {
    const { bytes, truth } = wartFile(id, table);
    for (const chunk of [bytes.length || 1, 4096, 997]) {
      const got = read(bytes, chunk);
      if ('refused' in truth) {
        expect(got.refused).toBe(truth.refused);
        continue;
      }
      if (got.refused !== null) throw new Error(`refused: ${JSON.stringify(got)}`);
      expect(got.columns.map((c) => c.name)).toEqual(truth.names);
      expect(got.columns.map((c) => c.unit)).toEqual(truth.units);
      expect(got.report.rows).toBe(truth.rows.length);
      got.columns.forEach((column, k) => {
        const values = Array.from(columnValues(column), (v) => (Number.isNaN(v) ? null : v));
        expect(values).toEqual(truth.rows.map((r) => r[k]!));
        expect(column.count).toBe(truth.rows.filter((r) => r[k] !== null).length);
      });
    }
  });

  it('says what it left out, with the line', () => {
    const got = read(wartFile('short-row', table).bytes);
    expect(got.refused === null && got.report.skipped).toEqual([
      { line: 47, reason: 'wrong number of cells', text: expect.stringContaining(',') as string },
    ]);
    const again = read(wartFile('header-again', table).bytes);
    expect(again.refused === null && again.report).toMatchObject({ sections: [45], skippedTotal: 1 });
    const word = read(wartFile('word', table).bytes);
    expect(word.refused === null && word.report).toMatchObject({
      textCells: 1,
      firstTextCell: { line: 47, column: 'Engine speed', text: 'OVERRUN' },
    });
    const back = read(wartFile('time-back', table).bytes);
    expect(back.refused === null && back.report.timeBack).toEqual({ count: 1, firstLine: 47 });
    const twice = read(wartFile('time-twice', table).bytes);
    expect(twice.refused === null && twice.report.timeRepeated).toEqual({ count: 90, firstLine: 3 });
    const tail = read(wartFile('zero-tail', table).bytes);
    expect(tail.refused === null && tail.report.zeroBytes).toBe(5000);
    const endless = read(wartFile('endless-line', table).bytes, 65_536);
    expect(endless.refused === null && endless.report.skipped[0]).toMatchObject({ reason: 'a line without an end' });
  });
});

describe('any bytes', () => {
  it('are read or refused, never thrown at, and never keep the reader', () => {
    const piece = fc.oneof(
      fc.uint8Array({ maxLength: 400 }),
      fc
        .constantFrom('1,2\n', '\r', '"', '\0', ';', '\t', '1e400,', '\uFEFF', '\n\n', '-', 'rpm,kW\n', '"a\n', '::')
        .map((t) => new TextEncoder().encode(t)),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), fc.integer({ min: 1, max: 300 }), (pieces, chunk) => {
        const bytes = Uint8Array.from(pieces.flatMap((p) => [...p]));
        const got = read(bytes, chunk);
        if (got.refused !== null) return;
        const rows = got.report.rows;
        expect(got.columns.every((c) => columnValues(c).length === rows)).toBe(true);
        expect(got.report.skipped.length).toBeLessThanOrEqual(50);
      }),
      { numRuns: 400 },
    );
  });

  it('in any chunks give the same', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...WARTS.filter((w) => w.id !== 'endless-line').map((w) => w.id)),
        fc.integer({ min: 1, max: 5000 }),
        (id, chunk) => {
          const { bytes } = wartFile(id, table);
          expect(read(bytes, chunk)).toEqual(read(bytes));
        },
      ),
      { numRuns: 60 },
    );
  });
});
