import { preambleFacts } from './preamble';

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
    ['SAE J1349', 'SAE J1349'],
    ['SAE', 'SAE J1349'],
    ['SAE J607', 'STD'],
    ['STD (SAE J607)', 'STD'],
    ['uncorrected (SAE not applied)', 'none'],
    ['none', 'none'],
    ['DIN 70020', 'DIN 70020'],
    ['EWG 80/1269', 'unknown'],
    ['off', 'none'],
  ])('a correction written as %s is %s', (text, carried) => {
    expect(preambleFacts([`Correction: ${text}`]).carried).toBe(carried);
  });

  it.each(['Barometer (sea level): 1021 hPa', 'Baro, reduced to MSL: 1021 hPa', 'QNH: 1021 hPa', 'Altimeter setting (baro): 30.15 inHg'])(
    '%s is not the air that the engine breathed',
    (line) => {
      const { weather, unused } = preambleFacts([line]);
      expect(weather).toEqual({});
      expect(unused).toHaveLength(1);
    },
  );

  it('a title before something said in the next cell does not swallow it', () => {
    const facts = preambleFacts(['Banc à rouleaux; Correction: SAE J607', 'Osprey saloon\tGear: 4\tFuel: Super 98']);
    expect(facts).toMatchObject({ carried: 'STD', gear: '4', fuel: 'Super 98', unread: [] });
    expect(facts.unused).toEqual(['Banc à rouleaux', 'Osprey saloon']);
  });

  it('the first line of a name that can be made something of counts; one that cannot is told', () => {
    expect(preambleFacts(['Correction factor: 1.023', 'Correction: SAE J1349'])).toMatchObject({
      carried: 'SAE J1349',
      unread: ['Correction factor: 1.023'],
    });
    expect(preambleFacts(['Start time: soon', 'Time: 14:12'])).toMatchObject({ takenAt: '14:12', unread: ['Start time: soon'] });
  });

  it.each([
    ['Ambient pressure: 1003 hPa', { weather: { p_Pa: 100_300 } }],
    ['Umgebungsdruck: 1003 hPa', { weather: { p_Pa: 100_300 } }],
    ['Atmospheric pressure (kPa): 100.3', { weather: { p_Pa: 100_300 } }],
    ['Korrektur: DIN 70020', { carried: 'DIN 70020' }],
    ['Corrección: SAE J1349', { carried: 'SAE J1349' }],
    ['Correzione: DIN 70020', { carried: 'DIN 70020' }],
    ['Norm: ISO 1585', { carried: 'ISO 1585' }],
    ['Presión atmosférica: 1003 hPa', { weather: { p_Pa: 100_300 } }],
    ['Pressione atmosferica: 1003 mbar', { weather: { p_Pa: 100_300 } }],
    ['Luchtdruk: 1003 hPa', { weather: { p_Pa: 100_300 } }],
    ['Lufttryck: 1003 hPa', { weather: { p_Pa: 100_300 } }],
    ['Ciśnienie atmosferyczne: 1003 hPa', { weather: { p_Pa: 100_300 } }],
    ['Umgebungstemperatur: 20 °C', { weather: { T_K: 293.15 } }],
    ['Temperatura ambiente: 20 °C', { weather: { T_K: 293.15 } }],
    ["Temperatura dell'aria: 20 °C", { weather: { T_K: 293.15 } }],
    ['Omgevingstemperatuur: 20 °C', { weather: { T_K: 293.15 } }],
    ['Humedad: 45 %', { weather: { rh: 0.45 } }],
    ['Umidità: 45 %', { weather: { rh: 0.45 } }],
    ['Humidité relative: 45 %', { weather: { rh: 0.45 } }],
    ['Vochtigheid: 45 %', { weather: { rh: 0.45 } }],
    ['Gang: 4', { gear: '4' }],
    ['Marcia: 4', { gear: '4' }],
    ['Kraftstoff: Super 98', { fuel: 'Super 98' }],
    ['Carburant: SP98', { fuel: 'SP98' }],
    ['Température eau: 84 °C', { coolantStart_K: 357.15 }],
    ['Dato: 18.4.2026', { takenOn: '2026-04-18' }],
  ])('“%s” is understood', (line, facts) => {
    const read = preambleFacts([line]);
    expect(read).toMatchObject({ unused: [], unread: [] });
    for (const [key, value] of Object.entries(facts))
      if (typeof value === 'string') expect(read[key as 'gear']).toBe(value);
      else if (typeof value === 'number') expect(read[key as 'coolantStart_K']).toBeCloseTo(value, 6);
      else for (const [k, v] of Object.entries(value as Record<string, number>)) expect(read.weather[k as 'T_K']! / v).toBeCloseTo(1, 9);
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
    ['decimal commas in quotes between commas', ['Barometer,1011,hPa', 'Air temp,"24,5",°C', '"Date",18.04.2026', 'Operator,Maud']],
    ['with units behind names in other ways', ['Barometer_hPa: 1011', 'Air temp, °C;24,5', 'Date: 18.04.2026', 'Operator: Maud']],
    ['in one row', ['Barometer;1011;hPa;Air temp;24,5;°C;Date;18.04.2026;Operator;Maud']],
    ['in one line', ['Barometer: 1011 hPa, Air temp: 24.5 °C, Date: 2026-04-18, Operator: Maud']],
    ['with units behind the names', ['Barometer [hPa]: 1011', 'Air temp (°C) = 24,5', 'Date: 18.04.2026', 'Operator: Maud']],
    ['with nothing between', ['Barometer 1011 hPa', 'Air temp 24,5 °C', 'Date 18.04.2026', 'Operator: Maud']],
    ['set with blanks', ['Barometer   1011 hPa', 'Air temp    24,5 °C', 'Date        18.04.2026', 'Operator    Maud']],
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

  it('tells a figure’s unit that it had to guess, and none that stands there', () => {
    expect(preambleFacts(['Barometer: 29.9', 'Air temp = 75', 'Humidity: 40 %', 'Coolant;85', 'Date: 2026-04-18']).guessed).toEqual([
      'Barometer 29.9 taken as inHg',
      'Air temp 75 taken as °F',
      'Coolant 85 taken as °C',
    ]);
    expect(preambleFacts(['Barometer [hPa]: 1011', 'Air temp;24,5;°C', 'Humidity: 40 %']).guessed).toEqual([]);
    expect(preambleFacts(['Barometer: 700', 'Coolant: 900']).guessed).toEqual([]);
    expect(preambleFacts(['Humidity: 0.4']).guessed).toEqual(['Humidity 0.4 taken as a share of 1']);
  });

  it('does not choose between two figures behind one name', () => {
    expect(preambleFacts(['Air temp;24;26', 'Barometer;1011;1013;hPa', 'Humidity,29,92'])).toMatchObject({
      weather: {},
      unread: ['Barometer: 1011 / 1013 hPa', 'Air temp: 24 / 26', 'Humidity: 29 / 92'],
    });
  });

  it('takes no clock, address, path, title or row of names for a line that says something', () => {
    const lines = ['Pull at 14:12', 'https://example.invalid/a', 'C:\\logs\\a.csv', 'Larkspur estate 58 mm', 'Time;Speed;Power', 'Stock'];
    // They are told as they stand.
    expect(preambleFacts(lines)).toMatchObject({ unused: lines.map((l) => `“${l}”`), unread: [], takenAt: null });
    expect(preambleFacts(['Dyno report,,', 'Notes,"door shut, fan on",', '-----', ',,'])).toMatchObject({
      unused: ['Notes', '“Dyno report”'],
    });
    expect(preambleFacts(['Uhrzeit: 15:05 Uhr', 'Kühlwasser: 84 °C', 'Übersetzung: 3,2'])).toMatchObject({
      takenAt: '15:05',
      coolantStart_K: expect.closeTo(357.15, 6) as number,
      unused: ['Übersetzung'],
    });
  });

  it.each([
    'Correction: SAE J1349;;',
    'Correction: SAE J1349,,',
    'Correction: SAE J1349\t\t\t',
    '"Correction: SAE J1349";;;',
    ';;Correction: SAE J1349;',
  ])('reads %j as a spreadsheet writes it: cells that say nothing fill the row', (line) => {
    expect(preambleFacts([line])).toMatchObject({ carried: 'SAE J1349', unused: [], unread: [] });
    const air = line.replace('Correction: SAE J1349', 'Luftdruck: 1009 hPa');
    expect(preambleFacts([air]).weather?.p_Pa).toBeCloseTo(100_900, 6);
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
      guessed: [],
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
