import fc from 'fast-check';
import { cellNumber } from './cell';
import { findLayout, nameAndUnit } from './layout';
import { channelSI, columnFacts, dimensionOf, guessChannels, likelyUnit } from './guess';
import { TableReader } from './reader';
import { columnValues, type ReadResult } from './result';
import { fileKind } from './text';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Reads a file in pieces of a given size. */
function read(file: Uint8Array, piece = 1 << 20): ReadResult {
  const reader = new TableReader();
  for (let at = 0; at < file.length; at += piece) reader.push(file.subarray(at, at + piece));
  return reader.finish();
}

function taken(result: ReadResult) {
  if (result.refused !== null) throw new Error(`refused: ${result.refused}`);
  return result;
}

describe('dialects', () => {
  const dialect = fc.record({
    delimiter: fc.constantFrom(',', ';', '\t'),
    comma: fc.boolean(),
    preamble: fc.integer({ min: 0, max: 4 }),
    units: fc.constantFrom('row', 'names', 'none'),
    newline: fc.constantFrom('\n', '\r\n', '\r'),
    lastLine: fc.boolean(),
    piece: fc.integer({ min: 1, max: 400 }),
    bom: fc.boolean(),
    encoding: fc.constantFrom('utf-8', 'utf-16le'),
    rows: fc.array(
      fc.tuple(
        fc.integer({ min: 1000, max: 8000 }),
        fc.double({ min: -50, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 120, noNaN: true }),
      ),
      { minLength: 4, maxLength: 40 },
    ),
  });

  it('come out as the figures that went in, however they are cut', () => {
    fc.assert(
      fc.property(dialect, (d) => {
        const comma = d.comma && d.delimiter !== ',';
        const cell = (x: number): string => (comma ? x.toFixed(3).replace('.', ',') : x.toFixed(3));
        const above = ['Bench sheet', 'Operator: somebody', 'a note', 'Gear: 4'].slice(0, d.preamble);
        const names = d.units === 'names' ? ['Engine speed (rpm)', 'Power [kW]', 'MAP (kPa)'] : ['RPM', 'Power', 'Manifold pressure'];
        const lines = [
          ...above,
          names.join(d.delimiter),
          ...(d.units === 'row' ? [['rpm', 'kW', 'kPa'].join(d.delimiter)] : []),
          ...d.rows.map(([a, b, c]) => [String(a), cell(b), cell(c)].join(d.delimiter)),
        ];
        const text = lines.join(d.newline) + (d.lastLine ? d.newline : '');
        const file =
          d.encoding === 'utf-8' ? bytes((d.bom ? '\uFEFF' : '') + text) : new Uint8Array(Buffer.from(`\uFEFF${text}`, 'utf16le'));
        const { columns, report } = taken(read(file, d.piece));
        expect(columns).toHaveLength(3);
        expect(report.rows).toBe(d.rows.length);
        expect(report.skippedTotal).toBe(0);
        d.rows.forEach(([a, b, c], i) => {
          expect(columnValues(columns[0]!)[i]).toBe(a);
          expect(columnValues(columns[1]!)[i]).toBeCloseTo(b, 2);
          expect(columnValues(columns[2]!)[i]).toBeCloseTo(c, 2);
        });
        expect(columns[1]!.name).toBe('Power');
        expect(columns[1]!.unit).toBe(d.units === 'none' ? '' : 'kW');
        expect(report.layout.preamble).toHaveLength(d.preamble);
      }),
      { numRuns: 300 },
    );
  });

  it('count what they leave out and keep it word for word', () => {
    const file = bytes('rpm,power\n1000,10\n1100,eleven\n1200\n\n1300,13\nnote,here\n1400,,\n1500,\n1600,16\n');
    const { columns, report } = taken(read(file));
    expect(report).toMatchObject({
      rows: 6,
      blankLines: 1,
      skippedTotal: 2,
      emptyCells: 2,
      textCells: 1,
      extraCells: { count: 1, firstLine: 8 },
    });
    expect(report.skipped.map((s) => [s.line, s.reason])).toEqual([
      [4, 'wrong number of cells'],
      [7, 'no figures'],
    ]);
    expect(Array.from(columnValues(columns[0]!))).toEqual([1000, 1100, 1300, 1400, 1500, 1600]);
    expect(columnValues(columns[1]!)[1]).toBeNaN();
    expect(columns[1]!.count).toBe(3);
  });

  it('keep only the first lines word for word when many are left out', () => {
    const rows = Array.from({ length: 200 }, (_, i) => (i > 5 && i % 2 === 0 ? `${i}` : `${i},${i}`));
    const { report } = taken(read(bytes(`a,b\n${rows.join('\n')}\n`)));
    expect(report.skipped.length).toBeLessThanOrEqual(50);
    expect(report.skippedTotal).toBe(97);
  });

  it('read a table without names, and one of a single column', () => {
    expect(taken(read(bytes('1,2\n3,4\n5,6\n'))).columns.map((c) => c.name)).toEqual(['column 1', 'column 2']);
    expect(taken(read(bytes('power\n10\n11\n12\n'))).columns.map((c) => c.name)).toEqual(['power']);
  });

  it('read quoted cells with the separator in them', () => {
    const { columns } = taken(read(bytes('"rpm","power, wheels (kW)"\n"1000","10.5"\n"1100","11.5"\n')));
    expect(columns[1]).toMatchObject({ name: 'power, wheels', unit: 'kW' });
    expect(columnValues(columns[1]!)[1]).toBe(11.5);
  });

  it('knows a quote inside a quoted cell by its being doubled, in pieces of any size', () => {
    const notes = ['"the ""big; one"" "', '"""a"" ;""b"" "', '""', '"x"', '"he said ""no;"" "', '"""d"""'];
    const file = bytes(`note;rpm;power (kW)\n${notes.map((note, i) => `${note};${1000 + i};${10 + i}`).join('\n')}\n`);
    for (const piece of [1, 7, 1 << 20]) {
      const { columns } = taken(read(file, piece));
      const of = (name: string) => [...columnValues(columns.find((c) => c.name === name)!)];
      expect([of('rpm'), of('power')]).toEqual([
        [1000, 1001, 1002, 1003, 1004, 1005],
        [10, 11, 12, 13, 14, 15],
      ]);
    }
  });
});

describe('refusals', () => {
  it.each([
    ['nothing at all', new Uint8Array(0), 'empty_file'],
    ['only blanks', bytes('  \n \n'), 'empty_file'],
    ['prose', bytes('Dear shop,\nthe car runs well.\nRegards\n'), 'no_numeric_column'],
    ['a picture', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3]), 'not_text'],
    ['an archive', new Uint8Array([0x50, 0x4b, 3, 4, 0, 0, 0]), 'not_text'],
    ['loose bytes', Uint8Array.from({ length: 500 }, (_, i) => (i * 7) % 5), 'not_text'],
  ])('%s', (_name, file, code) => {
    expect(read(file).refused).toBe(code);
  });

  it('never throws, whatever the bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 3000 }), fc.integer({ min: 1, max: 200 }), (file, piece) => {
        const result = read(file, piece);
        if (result.refused === null) expect(result.columns.length).toBeGreaterThan(0);
      }),
      { numRuns: 200 },
    );
  });

  it('knows what the bytes are', () => {
    expect(fileKind(new Uint8Array([0xff, 0xd8, 0xff]))).toMatchObject({ looksLike: 'a JPEG picture' });
    expect(fileKind(new Uint8Array([0x4d, 0xfc, 0x6c, 0x6c, 0x65, 0x72, 0x20]))).toMatchObject({ encoding: 'windows-1252' });
    expect(fileKind(bytes('Prüfstand'))).toMatchObject({ encoding: 'utf-8' });
  });
});

describe('layout', () => {
  it('reads numbers by the decimal mark only', () => {
    expect(cellNumber('12,5', ',')).toBe(12.5);
    expect(cellNumber('12,5', '.')).toBeNaN();
    expect(cellNumber(' -1.5e3 ', '.')).toBe(-1500);
    expect(cellNumber('0x10', '.')).toBeNaN();
    expect(cellNumber('', '.')).toBeNaN();
  });

  it('takes names and units apart', () => {
    expect(nameAndUnit('Power (kW)')).toEqual({ name: 'Power', unit: 'kW' });
    expect(nameAndUnit('Boost [psi]')).toEqual({ name: 'Boost', unit: 'psi' });
    expect(nameAndUnit('torque_Nm')).toEqual({ name: 'torque', unit: 'Nm' });
    expect(nameAndUnit('rpm')).toEqual({ name: 'rpm', unit: 'rpm' });
    expect(nameAndUnit('Lambda 1')).toEqual({ name: 'Lambda 1', unit: '' });
    expect(nameAndUnit('Torque ft lb')).toEqual({ name: 'Torque', unit: 'ft lb' });
    expect(nameAndUnit('Boost-psi')).toEqual({ name: 'Boost', unit: 'psi' });
    expect(nameAndUnit('Throttle%')).toEqual({ name: 'Throttle', unit: '%' });
    // A name that holds a mark is no name and a unit.
    expect(nameAndUnit('A/F ratio')).toEqual({ name: 'A/F ratio', unit: '' });
    expect(nameAndUnit('Pull-in')).toEqual({ name: 'Pull-in', unit: '' });
  });

  it('is not led astray by a preamble line that looks like figures', () => {
    const layout = findLayout('1,2\nsome words,more\nrpm,kW\n1000,10\n1100,11\n1200,12\n');
    expect(layout?.layout).toMatchObject({ dataLine: 4, headerLine: 3 });
  });
});

describe('guessing channels', () => {
  const column = (name: string, unit = '', high = 100) =>
    columnFacts({ name, unit, blocks: [Float64Array.from({ length: 40 }, (_, i) => (high * (i + 1)) / 40)] });

  it('goes by name and unit, and gives each quantity to one column', () => {
    const got = guessChannels([
      column('Time', 's'),
      column('Engine speed', 'rpm', 6800),
      column('Power', 'kW'),
      column('Power 2', 'kW'),
      column('TPS'),
      column('IAT', '', 90),
      column('Widget'),
    ]);
    expect(got.map((g) => g.quantity)).toEqual(['time', 'rpm', 'power', 'further power', 'throttle', 'inlet air', 'other']);
    expect(got[2]).toMatchObject({ unit: 'kW', confidence: 1 });
    expect(got[5]).toMatchObject({ unit: null, ask: true, doubt: 'unit not said' });
  });

  it('lets the unit overrule the name', () => {
    expect(guessChannels([column('Speed', 'rpm', 6000)])[0]!.quantity).toBe('rpm');
    expect(guessChannels([column('Output', 'hp', 200)])[0]!).toMatchObject({ quantity: 'power', unit: 'hp' });
  });

  it('guesses a pressure’s unit from its size', () => {
    expect(likelyUnit('manifold pressure', 1010)).toBe('mbar');
    expect(likelyUnit('manifold pressure', 99)).toBe('kPa');
    expect(likelyUnit('manifold pressure', 14.6)).toBe('psi');
    expect(likelyUnit('manifold pressure', 1.01)).toBe('bar');
    expect(dimensionOf('torque')).toBe('torque');
    expect(dimensionOf('other')).toBeNull();
  });

  it('brings channels to SI but leaves a throttle in percent', () => {
    expect(channelSI(Float64Array.of(100), { column: 0, quantity: 'power', unit: 'hp' })[0]).toBeCloseTo(74_569.987, 2);
    expect(channelSI(Float64Array.of(98), { column: 0, quantity: 'throttle', unit: 'pct' })[0]).toBe(98);
    expect(channelSI(Float64Array.of(20), { column: 0, quantity: 'inlet air', unit: 'C' })[0]).toBeCloseTo(293.15, 9);
  });
});

describe('a text set with blanks that is longer than its head', () => {
  const lines = ['RPM    Power   Torque', ...Array.from({ length: 4000 }, (_, i) => `${2000 + i}    ${40 + i / 10}   ${100 + (i % 7)}`)];

  it.each(['\n', '\r\n', '\r'])('is the same in pieces of any size: lines end with %j', (newline) => {
    const file = bytes(lines.join(newline) + newline);
    const whole = taken(read(file));
    expect([whole.report.rows, whole.report.blankLines, whole.report.skippedTotal]).toEqual([4000, 0, 0]);
    for (const piece of [1, 7, 1000, 65_537]) {
      const { columns, report } = taken(read(file, piece));
      expect(report).toEqual(whole.report);
      expect(columns.map(columnValues)).toEqual(whole.columns.map(columnValues));
    }
  });

  it.each(['1', 'a ', '   '])('drops a line without an end as it comes, and goes on behind it: %j', (filling) => {
    const reader = new TableReader();
    reader.push(bytes(lines.join('\n') + '\n'));
    const piece = bytes(filling.repeat(65_536 / filling.length));
    for (let i = 0; i < 320; i += 1) reader.push(piece);
    reader.push(bytes('\n6100    450   103\n'));
    const { report } = taken(reader.finish());
    expect([report.rows, report.skipped.map((s) => s.reason)]).toEqual([4001, ['a line without an end']]);
  });
});

describe('what is longer than any name or figure', () => {
  const rows = Array.from({ length: 60 }, (_, i) => `${2000 + i * 50};${40 + i}`).join('\n');
  // Each of these was looked through from each of its places: a file of a megabyte would have taken an hour.
  it.each([
    ['[', '[' + 'a'.repeat(100_000)],
    ['( )', '('.repeat(50_000) + ')'.repeat(50_000)],
    ['blanks', `a${' '.repeat(100_000)}`],
    ['words', 'a '.repeat(50_000)],
    ['figures', '1'.repeat(100_000)],
    ['clocks', '1:'.repeat(50_000)],
    ['lines', '_'.repeat(100_000)],
    ['dots', '.'.repeat(100_000)],
    ['dashes', '-'.repeat(100_000)],
    ['units', ' / psi'.repeat(20_000)],
  ])('is read at once, and costs nothing of the table, wherever it stands: %s', (_what, filling) => {
    for (const file of [
      `Note: x${filling}x\nRPM;Power (kW)\n${rows}\n`,
      `RPM;Power (kW) x${filling}x\n${rows}\n`,
      `RPM;Power\nrpm;kW${filling}x\n${rows}\n`,
      `RPM;Power (kW)\n${rows}\n5200;x${filling}x\n5250;100\n`,
    ]) {
      const { columns, report } = taken(read(bytes(file)));
      expect([columns.length, report.rows >= 60]).toEqual([2, true]);
      expect(columns[1]!.name.length).toBeLessThanOrEqual(200);
    }
  });
});
