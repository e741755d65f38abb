import fc from 'fast-check';
import { cellNumber } from './cell';
import { findLayout, nameAndUnit } from './layout';
import { channelSI, columnFacts, dimensionOf, guessChannels, likelyUnit } from './guess';
import { preambleFacts } from './preamble';
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

describe('preamble', () => {
  it('takes weather, correction and the rest at their word, in either decimal mark', () => {
    const facts = preambleFacts([
      '# Date: 2026-04-18',
      'Measured at: wheels;Gear: 4',
      'Correction: SAE J1349',
      'Barometer: 1003,2 hPa\tAir temperature: 68 F\tHumidity: 55 %',
      'Coolant: 84 °C',
    ]);
    expect(facts).toMatchObject({ carried: 'SAE J1349', takenOn: '2026-04-18', measuredAt: 'wheels', gear: '4' });
    expect(facts.weather.p_Pa).toBeCloseTo(100_320, 6);
    expect(facts.weather.T_K).toBeCloseTo(293.15, 6);
    expect(facts.weather.rh).toBeCloseTo(0.55, 9);
    expect(facts.coolantStart_K).toBeCloseTo(357.15, 9);
  });

  it.each([
    ['29.92', 101_320, '68', 293.15],
    ['14.6 psi', 100_663, '68', 293.15],
    ['1003', 100_300, '20', 293.15],
    ['100.3', 100_300, '20', 293.15],
    ['1,003 bar', 100_300, '20', 293.15],
    // Metres of mountain or millimetres of mercury, and a temperature in nobody knows what: asked, not guessed.
    ['742', null, '20', null],
    ['742 mmHg', 98_925, '20', 293.15],
    // What cannot be is no reading, and does not keep the file out.
    ['3', null, '20', null],
    ['1003', 100_300, '95', null],
    // 50 °C in a cell, or 50 °F written beside hPa: asked.
    ['1003', 100_300, '50', null],
    ['1003', 100_300, '50 F', 283.15],
  ])('a barometer of %s and %s', (baro, p_Pa, temp, T_K) => {
    const { weather } = preambleFacts([`Barometer: ${baro}`, `Air temperature: ${temp}`]);
    if (p_Pa === null) expect(weather.p_Pa).toBeUndefined();
    else expect(weather.p_Pa! / p_Pa).toBeCloseTo(1, 4);
    if (T_K === null) expect(weather.T_K).toBeUndefined();
    else expect(weather.T_K).toBeCloseTo(T_K, 6);
  });

  it('a bare temperature without a barometer beside it could be either; a humidity of one at most is a share', () => {
    expect(preambleFacts(['Ambient: 68', 'RH: 0.45'])).toMatchObject({ weather: { rh: 0.45 } });
    expect(preambleFacts(['Ambient: 68']).weather.T_K).toBeUndefined();
    expect(preambleFacts(['Luftfeuchte: 45', 'Lufttemperatur: 20 °C', 'Luftdruck: 1003 hPa']).weather).toEqual({
      rh: 0.45,
      T_K: 293.15,
      p_Pa: 100_300,
    });
    expect(preambleFacts(['Humidity: 140 %']).weather).toEqual({});
    expect(preambleFacts(['Barometer: 1003', 'Air: 20 °C']).weather).toEqual({ p_Pa: 100_300, T_K: 293.15 });
    expect(preambleFacts(['Air: clean']).weather).toEqual({});
  });

  it('names what stands above a table and says nothing that is known here', () => {
    const { unused, pulley } = preambleFacts(['Operator: Maud', 'Pulley: 84 mm', 'Rig load = 12 kN', 'Operator: Tobin', 'nothing said']);
    expect(pulley).toBe('84 mm');
    expect(unused).toEqual(['Operator', 'Rig load', '“nothing said”']);
    expect(preambleFacts(['Coolant: 185']).coolantStart_K).toBeCloseTo(358.15, 2);
    expect(preambleFacts(['Coolant: 84']).coolantStart_K).toBeCloseTo(357.15, 9);
    expect(preambleFacts(['Coolant: 900']).coolantStart_K).toBeNull();
  });

  it('names with its figure what it knows by name and cannot read, for it is not in the record', () => {
    const lines = ['Barometer: 700', 'Air: 20', 'Humidity: damp', 'Correction: house 1.03', 'Date: 04/05/2026', 'Gear: 4th'];
    const { unread, unused, weather, takenOn, carried, gear } = preambleFacts(lines);
    expect({ weather, takenOn, carried, gear }).toEqual({ weather: {}, takenOn: null, carried: 'unknown', gear: '4th' });
    expect(unread).toEqual(['Barometer: 700', 'Air: 20', 'Humidity: damp', 'Correction: house 1.03', 'Date: 04/05/2026']);
    expect(unused).toEqual([]);
    expect(preambleFacts(['Measured: yes'])).toMatchObject({ unread: ['Measured: yes'], measuredAt: 'unknown' });
  });

  it.each([
    ['2026-04-18 14:12', '2026-04-18'],
    ['2026/4/8', '2026-04-08'],
    ['18.04.2026', '2026-04-18'],
    ['4.5.2026 9:30', '2026-05-04'],
    ['18/04/2026', '2026-04-18'],
    ['04/18/2026', '2026-04-18'],
    ['05/05/2026', '2026-05-05'],
    ['18 Apr 2026', '2026-04-18'],
    ['18-April-2026', '2026-04-18'],
    ['Sat, April 18, 2026', '2026-04-18'],
    ['04/05/2026', null],
    ['31.02.2026', null],
    ['29.02.2026', null],
    ['29.02.2028', '2028-02-29'],
    ['2026-13-05', null],
    ['18.04.26', null],
    ['yesterday', null],
  ])('a date of %s is %s: where day and month could be either way round, none', (text, day) => {
    expect(preambleFacts([`Date: ${text}`]).takenOn).toBe(day);
  });

  it.each([
    ['14:12', '14:12'],
    ['9:30', '09:30'],
    ['2:12 PM', '14:12'],
    ['02:12:40 p.m.', '14:12'],
    ['12:05 am', '00:05'],
    ['12:05 PM', '12:05'],
    ['13:05 PM', null],
    ['25:00', null],
    ['after lunch', null],
  ])('a time of %s is %s', (text, time) => {
    expect(preambleFacts([`Time: ${text}`]).takenAt).toBe(time);
    expect(preambleFacts([`Time: ${text}`]).unread).toEqual(time === null ? [`Time: ${text}`] : []);
    expect(preambleFacts([`Date: 2026-04-18 ${text}`]).takenAt).toBe(time);
  });

  // What spreadsheets and loggers make of the same four lines.
  it.each([
    ['a cell each', ['Barometer;1011;hPa', 'Air temp;24,5;°C', 'Date;18.04.2026', 'Operator;Maud']],
    ['a cell each, marked as comments', ['# Barometer\t1011 hPa', '# Air temp\t24,5 °C', '# Date\t18. April 2026', '# Operator\tMaud']],
    ['with the colon in the first cell', ['Barometer:;1011 hPa', 'Air temp:;24,5;C', 'Date:;2026-04-18', 'Operator:;Maud']],
    ['between commas', ['Barometer,1011,hPa,,', '"Air temp",24.5 °C,,,', 'Date,2026-04-18', 'Operator,Maud']],
    ['between commas, with colons', ['Barometer:,1011 hPa', 'Air temp:,24.5,C', 'Date:,2026-04-18', 'Operator:,Maud']],
    ['commas as decimals too', ['Barometer,1011,hPa', 'Air temp,24,5,°C', 'Date,18.04.2026', 'Operator,Maud']],
    ['in one row', ['Barometer;1011;hPa;Air temp;24,5;°C;Date;18.04.2026;Operator;Maud']],
    ['in one line', ['Barometer: 1011 hPa, Air temp: 24.5 °C, Date: 2026-04-18, Operator: Maud']],
    ['with units behind the names', ['Barometer [hPa]: 1011', 'Air temp (°C) = 24,5', 'Date: 18.04.2026', 'Operator: Maud']],
    ['with nothing between', ['Barometer 1011 hPa', 'Air temp 24,5 °C', 'Date 18.04.2026', 'Operator: Maud']],
    ['in German', ['Luftdruck: 1011 hPa', 'Lufttemperatur: 24,5 °C', 'Datum: 18. April 2026', 'Operator: Maud']],
  ])('finds what stands above a table %s', (_how, lines) => {
    const { weather, takenOn, unused, unread } = preambleFacts(lines);
    expect([weather.p_Pa, weather.T_K, takenOn]).toEqual([expect.closeTo(101_100, 6), expect.closeTo(297.65, 6), '2026-04-18']);
    expect({ unused, unread }).toEqual({ unused: ['Operator'], unread: [] });
  });

  it.each([
    ['Datum: 3. März 2026', '2026-03-03'],
    ['Datum: 12. Dez. 2026', '2026-12-12'],
    ['Date: 7 août 2026', '2026-08-07'],
    ['Fecha: 2 de mayo de 2026', '2026-05-02'],
    ['Datum: 9 oktober 2026', '2026-10-09'],
  ])('knows the month in “%s”', (line, day) => expect(preambleFacts([line]).takenOn).toBe(day));

  it('takes no clock, address, path, title or row of names for a line that says something', () => {
    const lines = ['Pull at 14:12', 'https://example.invalid/a', 'C:\\logs\\a.csv', 'Larkspur estate 58 mm', 'Time;Speed;Power', 'Stock'];
    // They are told as they stand.
    expect(preambleFacts(lines)).toMatchObject({ unused: lines.map((l) => `“${l}”`), unread: [], takenAt: null });
    expect(preambleFacts(['Dyno report,,', 'Notes,"door shut, fan on",', '-----', ',,'])).toMatchObject({
      unused: ['“Dyno report”', '“Notes,"door shut, fan on"”'],
    });
    expect(preambleFacts(['Uhrzeit: 15:05 Uhr', 'Kühlwasser: 84 °C', 'Übersetzung: 3,2'])).toMatchObject({
      takenAt: '15:05',
      coolantStart_K: expect.closeTo(357.15, 6) as number,
      unused: ['Übersetzung'],
    });
  });

  it('a line as long as a file is told by its beginning, at once', () => {
    const lines = [' '.repeat(400_000), ','.repeat(400_000), '('.repeat(400_000), 'a '.repeat(200_000)].map(
      (filling) => `Note: x${filling}y`,
    );
    const { unused } = preambleFacts(lines);
    expect(unused).toHaveLength(4);
    expect(unused.every((u) => u.startsWith('“Note: x') && u.length < 50)).toBe(true);
  });

  it('makes nothing up', () => {
    expect(preambleFacts(['hello', 'Correction: whatever'])).toEqual({
      carried: 'unknown',
      weather: {},
      takenOn: null,
      measuredAt: 'unknown',
      gear: '',
      coolantStart_K: null,
      takenAt: null,
      pulley: '',
      fuel: '',
      tune: '',
      keyOn_Pa: null,
      picture: null,
      unused: ['“hello”'],
      unread: ['Correction: whatever'],
    });
    expect(preambleFacts(['Correction: none'])).toMatchObject({ carried: 'none' });
  });
});
