import type { UnitPack } from '../units/measures';
import { passesFromTable, tableOf, weatherFromTable } from './slip-table';

const HEADER = ['Time', 'Side', 'R/T', '60 ft', '330', '1/8', '1/8 mph', '1000', '1/4', 'mph', 'Coolant (°C)', 'Colour'];
const ROW = ['10:12', 'stock', '0.412', '2.145', '5.982', '9.162', '76.50', '11.930', '14.281', '96.41', '84', 'red'];
const sideOf = (name: string) => (name === 'stock' ? ({ kind: 'stock' } as const) : null);

it('reads a table of slips by what its columns are called', () => {
  const { found, problems, ignored } = passesFromTable(HEADER, [ROW], sideOf);
  expect(problems).toEqual([]);
  expect(ignored).toEqual(['Colour']);
  expect(found[0]).toMatchObject({
    at: '10:12',
    side: { kind: 'stock' },
    slip: { reaction_s: 0.412, t18_s: 2.145, t201_s: 9.162, t402_s: 14.281 },
  });
  expect(found[0]!.slip.v402_mps).toBeCloseTo(96.41 * 0.44704, 6);
  expect(found[0]!.slip.v201_mps).toBeCloseTo(76.5 * 0.44704, 6);
  expect(found[0]!.coolant_K).toBeCloseTo(357.15, 6);
});

it('reads metric names and a decimal comma', () => {
  const { found } = passesFromTable(['18 m', '201 m', '402 m', '402 m km/h'], [['2,145', '9,162', '14,281', '155,2']], sideOf);
  expect(found[0]!.slip).toMatchObject({ t18_s: 2.145, t201_s: 9.162, t402_s: 14.281 });
  expect(found[0]!.slip.v402_mps).toBeCloseTo(155.2 / 3.6, 6);
});

it('a row that cannot be a pass is not taken, and says its line and why', () => {
  const wrong = [...ROW];
  wrong[8] = '8.281';
  const { found, problems } = passesFromTable(HEADER, [ROW, wrong, ['', '', '', 'two', '', '', '', '', '', '', '', '']], sideOf);
  expect(found).toHaveLength(1);
  expect(problems.map((p) => p.line)).toEqual([4, 3]);
  expect(problems[0]).toMatchObject({ column: '60 ft', cell: 'two' });
});

it('says of a figure out of its range what it may be, in the unit of its column', () => {
  const whys = (name: string, cell: string, pack: UnitPack = 'metric') =>
    passesFromTable([...HEADER, name], [[...ROW, cell]], sideOf, { pack }).problems.map((p) => [p.column, p.cell, p.why]);
  expect(whys('Dial-in', '99')).toEqual([['Dial-in', '99', 'It may be at most 60.00 s.']]);
  expect(whys('Launch rpm', '22000')[0]![2]).toMatch(/^It may be at most 15,000 rpm\.$/);
  expect(whys('Tyre (psi)', '99', 'us')[0]![2]).toMatch(/^It may be at most 72\.\d+ psi\.$/);
  const air = weatherFromTable(['time', 'temp (C)', 'pressure (hPa)', 'RH'], [['9:05', '18.2', '104', '55']]).problems;
  expect(air).toEqual([{ line: 2, column: 'pressure (hPa)', cell: '104', why: 'It has to be at least 50.0 kPa.' }]);
});

it('a unit behind a column’s name is its unit, a mark’s feet are not', () => {
  const columns = ['time', 'side', '60 ft', '1/4', '1/4 mph', 'coolant F', 'inlet_C', 'tyre psi', 'launch rpm'];
  const { found, problems, assumed } = passesFromTable(
    columns,
    [['12:10', 'stock', '2.41', '14.3', '96', '180', '30', '28', '2500']],
    sideOf,
  );
  expect(problems).toEqual([]);
  expect(found[0]!.coolant_K).toBeCloseTo(355.37, 2);
  expect(found[0]!.inlet_K).toBeCloseTo(303.15, 2);
  expect(found[0]!.tyre_Pa).toBeCloseTo(28 * 6894.757, -1);
  expect(found[0]!.slip.t18_s).toBe(2.41);
  expect(assumed).toEqual([]);
});

it.each([
  ['temp F', 'pressure in Hg', '64.4', '29.65'],
  ['Air temp degF', 'Baro inHg', '64.4', '29.65'],
  ['T (°C)', 'QFE hPa', '18', '1004'],
  ['temp C', 'Baro mb', '18', '1004'],
  ['temp, deg C', 'press_mbar', '18', '1004'],
  ['temp/F', 'baro/hPa', '64.4', '1004'],
  ['Temp-F', 'Baro:hPa', '64.4', '1004'],
  ['temp (outside) °F', 'pressure (QFE) [hPa]', '64.4', '1004'],
])('the day’s air under “%s” and “%s”', (temp, press, T, p) => {
  const { found, problems, assumed } = weatherFromTable(['time', temp, press, 'RH %'], [['9:05', T, p, '55']]);
  expect([problems, assumed]).toEqual([[], []]);
  expect(found[0]!.T_K).toBeCloseTo(291.15, 2);
  expect(found[0]!.p_Pa / 100).toBeCloseTo(1004, 0);
  expect(found[0]!.rh).toBeCloseTo(0.55, 9);
});

it('names brackets of a header that hold no unit', () => {
  const { problems } = weatherFromTable(
    ['time', 'temp (outside)', 'pressure (hPa)', 'RH'],
    [
      ['9:05', '18', '1004', '55 %'],
      ['9:10', 'warm', '1004', '55 %'],
    ],
  );
  expect(problems.slice(0, 2).map((p) => p.why)).toEqual([
    '“outside” in the header is not a unit that fits here.',
    'This is not a figure with a unit that fits here.',
  ]);
});

it('says in which unit it read figures that name none', () => {
  const rows = [['12:10', 'stock', '2.41', '14.3', '180', '28 psi', '97']];
  const columns = ['time', 'side', '60 ft', '1/4', 'coolant', 'tyre', '1/4 trap'];
  expect(passesFromTable(columns, rows, sideOf, { pack: 'us' }).assumed).toEqual([
    { column: 'coolant', unit: '°F' },
    { column: '1/4 trap', unit: 'mph' },
  ]);
  expect(weatherFromTable(['time', 'temp', 'pressure (hPa)', 'RH'], [['9:05', '18.2', '1004', '55 %']]).assumed).toEqual([
    { column: 'temp', unit: '°C' },
  ]);
});

it('humidities that are all one at most are shares, one among them in per cent is not', () => {
  const rh = (...cells: string[]) =>
    weatherFromTable(
      ['time', 'temp C', 'pressure (hPa)', 'RH'],
      cells.map((c, i) => [`${9 + i}:00`, '18', '1004', c]),
    );
  expect(rh('0.4', '0.55', '1').found.map((r) => r.rh)).toEqual([0.4, 0.55, 1]);
  expect(rh('0.4', '0.55', '1').assumed).toEqual([{ column: 'RH', unit: 'shares of one' }]);
  expect(rh('40', '55', '1').found.map((r) => Number(r.rh.toFixed(9)))).toEqual([0.4, 0.55, 0.01]);
  expect(rh('40', '55').assumed).toEqual([{ column: 'RH', unit: '%' }]);
  expect(rh('0.4 %').found.map((r) => Number(r.rh.toFixed(9)))).toEqual([0.004]);
});

it('tells all that is wrong with a row', () => {
  const columns = ['time', 'side', '60 ft', '1/4', 'tyre psi', 'launch rpm'];
  const { problems } = passesFromTable(columns, [['12:10', 'stock', '2.41', '14.3', '99', '25']], sideOf);
  expect(problems.map((p) => p.column)).toEqual(['tyre psi', 'launch rpm']);
});

it('reads a day’s air, humidity as a share or in per cent, and says what a reading lacks', () => {
  const { found, problems } = weatherFromTable(
    ['time', 'temp (C)', 'pressure (hPa)', 'RH'],
    [
      ['9:05', '18.2', '1004', '55'],
      ['14:20', '71.5 F', '29.62 inHg', '0.4'],
      ['15:00', '20', '', ''],
      ['25:99', '20', '1000', '50'],
    ],
  );
  expect(found).toHaveLength(2);
  expect(found[0]).toMatchObject({ at: '09:05', p_Pa: 100_400, from: 'file', rhGuessed: false });
  expect(found[0]!.rh).toBeCloseTo(0.55, 9);
  expect(found[1]!.T_K).toBeCloseTo(295.09, 1);
  expect(problems.some((p) => p.line === 4 && /temperature and a pressure/.test(p.why))).toBe(true);
  expect(problems.some((p) => p.line === 5 && /time of day/.test(p.why))).toBe(true);
});

describe('a speed without a distance', () => {
  it('belongs to the mark beside it, and not to the quarter mile', () => {
    const { found, ignored } = passesFromTable(
      ['R/T', '60', '330', '1/8', 'MPH', '1000', '1/4', 'MPH'],
      [['-0.012', '1.985', '5.602', '8.611', '82.35', '11.221', '13.422', '103.31']],
      sideOf,
    );
    expect(ignored).toEqual([]);
    expect(found[0]!.slip.reaction_s).toBeCloseTo(-0.012, 9);
    expect(found[0]!.slip.v201_mps).toBeCloseTo(82.35 * 0.44704, 6);
    expect(found[0]!.slip.v402_mps).toBeCloseTo(103.31 * 0.44704, 6);
  });

  it('beside a mark that is not kept is not taken for another’s', () => {
    const { found, ignored } = passesFromTable(['1/4', '1000 ft', 'MPH'], [['13.422', '11.221', '98.2']], sideOf);
    expect(found[0]!.slip).toMatchObject({ t402_s: 13.422, v402_mps: null });
    expect(ignored).toEqual(['MPH']);
  });
});

describe('two cars in one table', () => {
  const table = tableOf(
    'Car,Dial,Lane,R/T,60 ft,1/8,MPH,1/4,MPH\n114,13.50,L,.512,1.985,8.611,82.35,13.422,103.31\n207,12.90,R,.402,1.802,8.102,88.1,12.811,108.9\n114,13.45,R,-.021,1.992,8.620,82.2,13.44,103.1\n',
  );

  it('are named, and neither is taken before one is said to be the own', () => {
    const { found, cars } = passesFromTable(table.header, table.rows, sideOf);
    expect(found).toEqual([]);
    expect(cars).toEqual(['114', '207']);
  });

  it('give only the own one’s passes', () => {
    const { found } = passesFromTable(table.header, table.rows, sideOf, { car: '114' });
    expect(found).toHaveLength(2);
    expect(found[0]).toMatchObject({ lane: 'left', dial_s: 13.5, slip: { t402_s: 13.422 } });
    expect(found[1]).toMatchObject({ lane: 'right', slip: { reaction_s: -0.021 } });
  });
});

it('a reading without a humidity has the usual one, marked as a guess; a column that is not there is not named by what it is kept as', () => {
  const { found, problems } = weatherFromTable(
    ['time', 'temp (C)', 'pressure (hPa)', 'RH (%)'],
    [
      ['9:05', '18.2', '1004', ''],
      ['9:20', '18.4', '1004', '0'],
    ],
  );
  expect(problems).toEqual([]);
  expect(found.map((r) => [r.rh, r.rhGuessed])).toEqual([
    [0.5, true],
    [0, false],
  ]);
  expect(weatherFromTable(['time', 'temp (C)'], [['9:05', '18.2']]).problems[0]).toMatchObject({ column: '', cell: '' });
});

it('a slip as it is printed, a lane a column, is turned', () => {
  const { header, rows } = tableOf(
    "           LEFT      RIGHT\nR/T        .512      .402\n60'        1.985     1.802\n330        5.602     5.211\n1/8        8.611     8.102\nMPH        82.35     88.10\n1000       11.221    10.611\n1/4        13.422    12.811\nMPH        103.31    108.90\n",
  );
  const { found } = passesFromTable(header, rows, sideOf);
  expect(found.map((p) => [p.lane, p.slip.t402_s])).toEqual([
    ['left', 13.422],
    ['right', 12.811],
  ]);
  expect(found[0]!.slip.v201_mps).toBeCloseTo(82.35 * 0.44704, 6);
});

it('quotes the cell as it stands, never a figure in other units', () => {
  const { problems } = passesFromTable(['60 ft', '1/8', '1/8 mph', '1/4', 'mph'], [['2.145', '9.162', '76.5', '14.281', '188.8']], sideOf);
  expect(problems).toEqual([expect.objectContaining({ column: 'mph', cell: '188.8' })]);
});

it('reads weather in the shop’s own units where none are named', () => {
  const rows = [['14:05', '72', '29.41', '40']];
  const { found, problems } = weatherFromTable(['Time', 'Temp', 'Barometer', 'Humidity'], rows, 'us');
  expect(problems).toEqual([]);
  expect(found[0]!.T_K).toBeCloseTo(295.37, 1);
  expect(found[0]!.p_Pa).toBeCloseTo(29.41 * 3386.389, 0);
  // The same table in a metric shop is refused with its cell, not stored as something else.
  expect(weatherFromTable(['Time', 'Temp', 'Barometer', 'Humidity'], rows, 'metric').problems[0]).toMatchObject({
    cell: expect.any(String),
  });
});

it('a run of blanks as long as a file is one gap between two cells', () => {
  const gap = ' '.repeat(200_000);
  const { header, rows } = tableOf(`time  ET  note\n10:00  14.2  a${gap}b\n10:20  14.1  c${gap}\n`);
  expect(header).toEqual(['time', 'ET', 'note']);
  expect(rows).toEqual([
    ['10:00', '14.2', 'a', 'b'],
    ['10:20', '14.1', 'c'],
  ]);
});

describe('what only begins like a mark is none', () => {
  const slip = (header: string[], row: string[]) => passesFromTable(header, [row], sideOf, { pack: 'us' });

  it.each([
    ['60 mph', '4.1'],
    ['60-130 mph', '8.5'],
    ['100-200 km/h (s)', '9.1'],
    ['100 km/h', '4.8'],
    ['60 to 130', '8.5'],
    ['60 ft mph', '22'],
    ['330 speed', '61'],
  ])('%s', (name, cell) => {
    const read = slip([name, '60 ft', '330', '1/4', '1/4 mph', '1/4 mph avg'], [cell, '1.95', '5.4', '12.9', '107', '101']);
    expect(read.problems).toEqual([]);
    expect(read.ignored).toEqual([name, '1/4 mph avg']);
    expect(read.found[0]!.slip).toMatchObject({ t18_s: 1.95, t100_s: 5.4, t402_s: 12.9, v402_mps: expect.closeTo(107 * 0.44704, 6) });
  });

  it('a mark keeps the words that are its own', () => {
    expect(slip(['60-ft', '1/8 mile (0-201 m)', '1/4 ET'], ['1.95', '8.4', '12.9']).found[0]!.slip).toMatchObject({
      t18_s: 1.95,
      t201_s: 8.4,
      t402_s: 12.9,
    });
  });

  it('slips are read in other tongues too', () => {
    const read = slip(
      ['Uhrzeit', 'Reaktion', 'R.T.', '18 m', '201 m', 'Geschwindigkeit', '402 m', 'Geschwindigkeit'],
      [...['14:05', '0,312', '0,312', '1,98', '8,44', '132,1 km/h', '13,1', '167,9 km/h']],
    );
    expect(read.ignored).toEqual(['R.T.']);
    expect(read.found[0]).toMatchObject({
      at: '14:05',
      slip: { reaction_s: 0.312, t201_s: 8.44, v201_mps: expect.closeTo(132.1 / 3.6, 6) },
    });
    expect(slip(['R.T.', 'ET', 'Snelheid km/h'], ['0.312', '13.1', '167.9']).found[0]!.slip).toMatchObject({
      reaction_s: 0.312,
      v402_mps: expect.closeTo(167.9 / 3.6, 6),
    });
  });
});

describe('the air of a day', () => {
  const air = (header: string[], row: string[]) => weatherFromTable(header, [row], 'us');

  it.each([
    ['German', ['Uhrzeit', 'Luftdruck hPa', 'Lufttemperatur °C', 'Luftfeuchte %']],
    ['Spanish', ['Hora', 'Presión (hPa)', 'Temperatura (°C)', 'Humedad (%)']],
    ['Dutch', ['Tijd', 'Luchtdruk hPa', 'Luchttemperatuur °C', 'Luchtvochtigheid %']],
    ['French', ['Heure', 'Pression (hPa)', 'Température (°C)', 'Humidité (%)']],
    ['English', ['Time', 'Air pressure (hPa)', 'Air temp (°C)', 'RH %']],
  ])('is read in %s', (_, header) => {
    expect(air(header, ['10:05', '1008,2', '25,5', '45'])).toMatchObject({
      problems: [],
      ignored: [],
      found: [{ at: '10:05', p_Pa: expect.closeTo(100_820, 6), T_K: expect.closeTo(298.65, 6), rh: expect.closeTo(0.45, 9) }],
    });
  });

  it.each(['Altimeter setting (inHg)', 'QNH hPa', 'Pressure at sea level (hPa)', 'Baro (MSL) hPa'])(
    'a pressure brought down to the sea, %s, is not that of the strip',
    (name) => {
      const read = air(['Time', 'Temp F', name, 'RH %'], ['10:05', '78', name.includes('inHg') ? '30.02' : '1016', '45']);
      expect(read.found).toEqual([]);
      expect(read.ignored).toEqual([name]);
    },
  );

  it('the air’s temperature is not the track’s, the water’s or the dew point’s', () => {
    const read = air(
      ['Time', 'Temp track (F)', 'Water temp F', 'Temp dew point F', 'Temp F', 'Altimeter inHg', 'Station pressure inHg', 'RH %'],
      ['10:05', '110', '180', '55', '78', '30.02', '28.4', '45'],
    );
    expect(read.found).toMatchObject([{ T_K: expect.closeTo((78 - 32) / 1.8 + 273.15, 6), p_Pa: expect.closeTo(28.4 * 3386.389, 3) }]);
  });
});
