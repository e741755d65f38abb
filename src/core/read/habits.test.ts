import type { Quantity } from '../documents/run';
import { channelSI, columnFacts, guessChannels, isSettled, type GuessedChannel } from './guess';
import { TableReader } from './reader';
import { columnValues, type ReadColumn } from './result';

/** A made-up engine: torque falls off at the top, power is torque times speed. */
const ROWS = Array.from({ length: 60 }, (_, i) => {
  const rpm = 2000 + 75 * i;
  const torque_Nm = 210 - 8e-6 * (rpm - 4200) ** 2;
  return { t: 0.1 * i, rpm, torque_Nm, power_kW: (torque_Nm * rpm * Math.PI) / 30_000 };
});
const HP = 0.74569987158;
const LBFT = 1.3558179483;

type Cell = (row: (typeof ROWS)[number], i: number) => string | number;
const RPM: readonly [string, Cell] = ['RPM', (r) => r.rpm];
const hp: Cell = (r) => (r.power_kW / HP).toFixed(3);
const kW: Cell = (r) => r.power_kW.toFixed(4);
const ps: Cell = (r) => (r.power_kW / 0.73549875).toFixed(3);
const nm: Cell = (r) => r.torque_Nm.toFixed(3);
const lbft: Cell = (r) => (r.torque_Nm / LBFT).toFixed(3);

function text(columns: readonly (readonly [string, Cell])[], delimiter = ',', above = ''): string {
  const body = ROWS.map((r, i) => columns.map(([, cell]) => cell(r, i)).join(delimiter)).join('\n');
  return `${above}${columns.map(([name]) => name).join(delimiter)}\n${body}\n`;
}

interface Read {
  readonly columns: readonly ReadColumn[];
  readonly guesses: readonly GuessedChannel[];
  readonly report: Extract<ReturnType<TableReader['finish']>, { refused: null }>['report'];
}

function readText(csv: string, engine_W?: readonly [number, number]): Read {
  const reader = new TableReader();
  reader.push(new TextEncoder().encode(csv));
  const read = reader.finish();
  if (read.refused !== null) throw new Error(read.refused);
  return {
    columns: read.columns,
    report: read.report,
    guesses: guessChannels(
      read.columns.map((c) => columnFacts(c)),
      { engine_W },
    ),
  };
}

const of = (read: Read, quantity: Quantity): GuessedChannel | undefined => read.guesses.find((g) => g.quantity === quantity);

describe('a power without a unit of its own', () => {
  it.each([
    ['HP', 'hp', null],
    ['WHP', 'hp', 'wheels'],
    ['Wheel HP', 'hp', 'wheels'],
    ['bhp', 'hp', 'crank'],
    ['Horsepower', 'hp', null],
    ['HP metric', 'PS', null],
    ['HP@wheel', 'hp', 'wheels'],
    ['kW @ engine', 'kW', 'crank'],
    ['Power (HP metric)', 'PS', null],
    ['Leistung / kW', 'kW', null],
    ['Leistung/kW', 'kW', null],
    ['Power PS', 'PS', null],
    ['Radleistung [PS]', 'PS', 'wheels'],
    ['Power_kW', 'kW', null],
    ['Мощность, л.с.', 'PS', null],
  ])('%s is in %s', (name, unit, at) => {
    const value = unit === 'hp' ? hp : unit === 'PS' ? ps : kW;
    // Without a torque beside it nothing but the name speaks.
    const power = of(readText(text([RPM, [name, value]], ';')), 'power');
    expect(power).toMatchObject({ unit, ask: false });
    expect(power?.power?.at ?? null).toBe(at);
    // Where a name says nothing of the kind of power, nothing is said of it.
    expect(power?.power).toEqual(at === null ? undefined : { at, carried: null });
  });

  it('a name that says its correction alone says nothing of where', () => {
    const power = of(readText(text([RPM, ['SAE Power (hp)', hp]])), 'power');
    expect(power?.power).toEqual({ at: null, carried: 'SAE J1349' });
  });

  it.each(['Power', 'SAE Power', 'Puissance', 'Pwr', 'Leistung'])('%s alone is asked about, and never watts', (name) => {
    const power = of(readText(text([RPM, [name, hp]])), 'power');
    expect(power).toMatchObject({ unit: null, ask: true, doubt: 'unit not said' });
    expect(isSettled(power!)).toBe(false);
  });

  it.each([
    ['hp and lb·ft', hp, lbft, 'hp', 'lbft'],
    ['kW and N·m', kW, nm, 'kW', 'Nm'],
    ['PS and N·m', ps, nm, 'PS', 'Nm'],
    ['hp and N·m', hp, nm, 'hp', 'Nm'],
  ])('%s are told apart by P = T·ω, and it is said that they were', (_say, p, t, power, torque) => {
    const read = readText(text([RPM, ['Power', p], ['WTQ', t]]));
    expect(of(read, 'power')).toMatchObject({ unit: power, doubt: 'unit by power and torque', ask: false });
    expect(of(read, 'torque')).toMatchObject({ unit: torque, doubt: 'unit by power and torque', ask: false });
  });

  it('is told by its torque where that has a unit', () => {
    expect(of(readText(text([RPM, ['SAE Power', hp], ['Torque (lb-ft)', lbft]])), 'power')).toMatchObject({ unit: 'hp' });
    expect(of(readText(text([RPM, ['Power (kW)', kW], ['WTQ', lbft]])), 'torque')).toMatchObject({ unit: 'lbft' });
  });

  it('is asked about where the torque is not its own, by anything like a law', () => {
    const scattered: Cell = (r, i) => (r.torque_Nm * (1 + 0.2 * Math.sin(7 * i))).toFixed(2);
    expect(of(readText(text([RPM, ['Power', hp], ['Torque', scattered]])), 'power')).toMatchObject({ unit: null, ask: true });
  });

  it('under a header that its figures belie is asked about', () => {
    const read = readText(text([RPM, ['Power (kW)', hp], ['Torque (Nm)', nm]]));
    expect(of(read, 'power')).toMatchObject({ unit: null, ask: true, doubt: 'power and torque disagree' });
  });

  it('is decided by the engine only where one unit alone is possible', () => {
    const csv = text([RPM, ['Power', (r) => r.power_kW * 1000]]);
    expect(of(readText(csv), 'power')).toMatchObject({ ask: true });
    expect(of(readText(csv, [40e3, 400e3]), 'power')).toMatchObject({ unit: 'W', doubt: 'unit by what this engine makes' });
    expect(of(readText(text([RPM, ['Power', hp]]), [40e3, 400e3]), 'power')).toMatchObject({ unit: null, ask: true });
  });
});

describe('several powers', () => {
  it('are kept apart by where they were measured and how they were corrected', () => {
    const read = readText(
      text([
        RPM,
        ['Engine power SAE (hp)', (r) => r.power_kW * 1.5],
        ['Wheel power (hp)', hp],
        ['Loss power (hp)', (r) => r.power_kW * 0.1],
      ]),
    );
    expect(read.guesses.map((g) => g.quantity)).toEqual(['rpm', 'further power', 'power', 'other']);
    expect(read.guesses[1]!.power).toEqual({ at: 'crank', carried: 'SAE J1349' });
    expect(read.guesses[2]!.power).toEqual({ at: 'wheels', carried: null });
    expect(read.guesses[3]).toMatchObject({ doubt: 'not a reading' });
  });

  it('of one kind that say different things are asked about: neither is the run’s', () => {
    const read = readText(text([RPM, ['Power (kW)', kW], ['Power 2 (kW)', (r) => r.power_kW * 0.9]]));
    expect(of(read, 'power')).toBeUndefined();
    expect(read.guesses.filter((g) => g.ask)).toHaveLength(2);
  });

  it('that say the same in two units are one', () => {
    const read = readText(text([RPM, ['Power (kW)', kW], ['Power (hp)', hp]]));
    expect(of(read, 'power')).toMatchObject({ unit: 'kW', ask: false });
  });
});

describe('engine speed', () => {
  it.each([
    ['Engine speed (krpm)', (r: { rpm: number }) => (r.rpm / 1000).toFixed(4), 'krpm'],
    ['RPM x1000', (r: { rpm: number }) => (r.rpm / 1000).toFixed(4), 'krpm'],
    ['Engine speed (Hz)', (r: { rpm: number }) => (r.rpm / 60).toFixed(4), 'revs'],
    ['Engine speed (rad/s)', (r: { rpm: number }) => ((r.rpm * Math.PI) / 30).toFixed(4), 'radps'],
    ['Drehzahl [1/min]', (r: { rpm: number }) => r.rpm, 'rpm'],
    ['RPM', (r: { rpm: number }) => r.rpm, 'rpm'],
  ])('%s', (name, cell, unit) => {
    expect(
      of(
        readText(
          text([
            [name, cell],
            ['Power (kW)', kW],
          ]),
        ),
        'rpm',
      ),
    ).toMatchObject({ unit, ask: false });
  });

  it('is not another shaft’s', () => {
    const read = readText(
      text([
        ['Roller rpm', (r) => r.rpm / 5],
        ['RPM', (r) => r.rpm],
        ['Turbo speed (rpm)', (r) => r.rpm * 20],
      ]),
    );
    expect(read.guesses.map((g) => g.quantity)).toEqual(['other', 'rpm', 'other']);
  });

  it('in the hertz range without a unit is asked about', () => {
    expect(
      of(
        readText(
          text([
            ['Engine speed', (r) => r.rpm / 60],
            ['Power (kW)', kW],
          ]),
        ),
        'rpm',
      ),
    ).toMatchObject({ unit: null, ask: true });
  });
});

describe('pressure', () => {
  const ramp =
    (from: number, to: number): Cell =>
    (_r, i) =>
      (from + ((to - from) * i) / 59).toFixed(3);
  it.each([
    ['Boost (psig)', ramp(0.5, 9), 'boost', 'psi'],
    ['MAP (psig)', ramp(0.5, 9), 'boost', 'psi'],
    ['Boost (psia)', ramp(15, 24), 'manifold pressure', 'psi'],
    ['MAP (kPa abs)', ramp(98, 160), 'manifold pressure', 'kPa'],
    ['MAP (psi)', ramp(0.5, 9), 'boost', 'psi'],
    ['MAP (kPa)', ramp(96, 180), 'manifold pressure', 'kPa'],
    ['Boost (kPa)', ramp(3, 60), 'boost', 'kPa'],
    ['Vacuum (inHg)', ramp(18, 1), 'boost', 'inHgVac'],
    ['Manifold vacuum (mmHg)', ramp(450, 20), 'boost', 'mmHgVac'],
    ['MAP (mmHg)', ramp(700, 755), 'manifold pressure', 'mmHg'],
  ])('%s', (name, cell, quantity, unit) => {
    expect(readText(text([RPM, [name, cell]])).guesses[1]).toMatchObject({ quantity, unit, ask: false });
  });

  it('that starts at the air outside and is called boost is asked about', () => {
    expect(readText(text([RPM, ['Boost (kPa)', ramp(98, 150)]])).guesses[1]).toMatchObject({
      quantity: 'other',
      ask: true,
      doubt: 'gauge or absolute',
    });
  });

  it('without a unit is asked about where its size could be two', () => {
    expect(readText(text([RPM, ['Boost', ramp(0.2, 9)]])).guesses[1]).toMatchObject({ unit: null, ask: true });
  });
});

describe('time', () => {
  const at =
    (scale: number, from = 0): Cell =>
    (r) =>
      Math.round((from + r.t) * scale * 1e6) / 1e6;
  it.each([
    ['Time', at(1), 's'],
    ['Time', at(1000), 'ms'],
    ['Timestamp', at(1000, 1_772_634_130), 'ms'],
    ['Timestamp', at(1, 1_772_634_130), 's'],
    ['Time (ms)', at(1000), 'ms'],
  ])('%s', (name, cell, unit) => {
    expect(of(readText(text([[name, cell], RPM])), 'time')).toMatchObject({ unit });
  });

  it.each([
    ['a spreadsheet’s days', (r: (typeof ROWS)[number]) => (46_000.5 + r.t / 86_400).toFixed(10)],
    ['an American stamp', (r: (typeof ROWS)[number]) => `12/02/2026 02:15:${(10 + r.t).toFixed(2)} PM`],
    ['a stamp of half a day', (r: (typeof ROWS)[number]) => `2026-12-02 11:59:${(50 + r.t).toFixed(2)} AM`],
  ])('is told by %s', (_, cell) => {
    const read = readText(text([['Timestamp', cell], RPM]));
    const time = of(read, 'time')!;
    const s = channelSI(columnValues(read.columns[time.column]!), time);
    expect(s[40]! - s[0]!).toBeCloseTo(4, 3);
  });

  it.each([
    ['the share of a day that a spreadsheet makes of 14:00', (r: (typeof ROWS)[number]) => (0.58333 + r.t / 86_400).toFixed(9), 'day'],
    ['hours since the start', (r: (typeof ROWS)[number]) => (r.t / 3600).toFixed(9), null],
    ['seconds since the start', (r: (typeof ROWS)[number]) => r.t.toFixed(3), 's'],
  ])('without a unit, as %s, is taken as what it can be or asked about', (_, cell, unit) => {
    expect(of(readText(text([['Time', cell], RPM])), 'time')).toMatchObject({ unit, ask: unit === null });
  });

  it('of an afternoon is later than that of a morning', () => {
    const stamps = text([['Timestamp', (r, i) => `12/02/2026 ${i < 30 ? '12:59' : '01:00'}:${String(i).padStart(2, '0')} PM`], RPM]);
    const read = readText(stamps);
    expect(read.report.timeBack).toMatchObject({ count: 0 });
  });

  it('comes from a running number where the lines above give the rate', () => {
    const read = readText(text([['Sample', (_r, i) => i], RPM, ['Power (kW)', kW]], ',', 'Sample rate: 20 Hz\n\n'));
    const time = of(read, 'time')!;
    expect(read.columns[time.column]).toMatchObject({ name: 'Time', unit: 's', made: expect.stringContaining('20 samples a second') });
    expect(columnValues(read.columns[time.column]!)[20]).toBeCloseTo(1, 9);
  });

  it('of a second clock is brought to the first, and says so', () => {
    const csv = text([['Time (s)', (r) => r.t], RPM, ['Time (s)', (r) => r.t / 2], ['AFR', (r) => (12 + r.t).toFixed(4)]]);
    const read = readText(csv);
    const afr = of(read, 'afr')!;
    expect(read.columns[afr.column]!.made).toMatch(/clock of its own/);
    // Read at half the table's time: at 1 s it is what stood at 2 s of the rows.
    expect(columnValues(read.columns[afr.column]!)[10]).toBeCloseTo(14, 6);
    expect(read.guesses.filter((g) => g.doubt === 'a clock of its own')).toHaveLength(1);
  });

  it('of three clocks each brings what stands behind it, up to the next', () => {
    const csv = text([
      ['Time (s)', (r) => r.t],
      RPM,
      ['Time (s)', (r) => r.t / 2],
      ['AFR', (r) => (12 + r.t).toFixed(4)],
      ['Time (s)', (r) => r.t / 4],
      ['MAP (kPa)', (r) => (90 + r.t).toFixed(4)],
    ]);
    const made = readText(csv).columns.filter((c) => c.made !== undefined);
    expect(made.map((c) => [c.name, columnValues(c)[4]])).toEqual([
      ['AFR', expect.closeTo(12.8, 6)],
      ['MAP', expect.closeTo(91.6, 6)],
    ]);
  });

  it.each([
    ['the same clock written twice', ['Time (s)', (r) => r.t] as const],
    ['a clock in another unit', ['Time (ms)', (r) => (500 * r.t).toFixed(0)] as const],
    ['how long an injection takes', ['Temps injection (s)', (r, i) => (0.003 + 0.001 * (i % 5)).toFixed(4)] as const],
    ['a time that comes and goes', ['Time (s)', (_r, i) => [4, 2, 7, 1][i % 4]!] as const],
  ] as [string, readonly [string, Cell]][])('%s moves nothing', (_, column) => {
    const read = readText(text([['Time (s)', (r) => r.t], RPM, column, ['AFR', (r) => (12 + r.t).toFixed(4)]]));
    expect(read.columns.map((c) => [c.made, c.ownClock])).toEqual(read.columns.map(() => [undefined, undefined]));
    expect(columnValues(read.columns[of(read, 'afr')!.column]!)[10]).toBeCloseTo(13, 6);
  });
});

describe('nothing is lost without a word', () => {
  it('a summary above does not lend its names', () => {
    const read = readText(text([RPM, ['Power (kW)', kW]], ',', 'Peak rpm,Peak power\n6400,150\n\n'));
    expect(read.columns.map((c) => c.name)).toEqual(['RPM', 'Power']);
    expect(read.report.layout.preamble).toEqual(['Peak rpm,Peak power', '6400,150']);
    expect(read.report.rows).toBe(60);
  });

  it.each([1, 2, 5, 30, 58])('a marker or a remark after row %d loses nothing but itself', (at) => {
    const lines = text([RPM, ['Power (kW)', kW]]).split('\n');
    for (const remark of ['marker here', 'lap 2, start', 'Gear change,']) {
      const read = readText([...lines.slice(0, at + 1), remark, ...lines.slice(at + 1)].join('\n'));
      expect(read.columns.map((c) => c.name)).toEqual(['RPM', 'Power']);
      expect(read.report).toMatchObject({ rows: 60, skippedTotal: 1, skipped: [{ line: at + 2 }] });
    }
  });

  it('another table below is left out and listed', () => {
    const read = readText(`${text([RPM, ['Power (kW)', kW]])}\nTime (s),IAT (°C)\n0,25\n1,26\n2,27\n`);
    expect(read.report.rows).toBe(60);
    expect(read.report.skipped.map((s) => s.reason)).toEqual([
      'the names of another table',
      ...Array<string>(3).fill('a row of another table'),
    ]);
  });

  it('words behind the last column are told, and rows with a figure there are not taken', () => {
    const rows = ROWS.map((r, i) => `${r.rpm},${r.power_kW.toFixed(2)}${i < 30 ? ',ok' : ''}`);
    rows[50] += ',9';
    const read = readText(`RPM,Power (kW)\n${rows.join('\n')}\n`);
    expect(read.report).toMatchObject({ rows: 59, skippedTotal: 1, extraCells: { count: 30, firstLine: 2 } });
  });

  it('a column without a figure says so', () => {
    const read = readText(text([RPM, ['Power (kW)', kW], ['Torque (Nm)', () => 'n/a']]));
    expect(read.guesses[2]).toMatchObject({ quantity: 'other', doubt: 'no figures', confidence: 0 });
  });
});

describe('figures as people set them', () => {
  it.each([
    [
      'thousands by a comma',
      text(
        [
          ['RPM', (r) => r.rpm.toLocaleString('en-US')],
          ['Power (W)', (r) => Math.round(r.power_kW * 1000).toLocaleString('en-US')],
        ],
        ';',
      ),
    ],
    [
      'thousands by a point',
      text(
        [
          ['RPM', (r) => r.rpm.toLocaleString('de-DE')],
          ['Power (W)', (r) => Math.round(r.power_kW * 1000).toLocaleString('de-DE')],
        ],
        ';',
      ),
    ],
    [
      'thousands by an apostrophe',
      text(
        [
          ['RPM', (r) => r.rpm.toLocaleString('de-CH')],
          ['Power (W)', (r) => Math.round(r.power_kW * 1000)],
        ],
        ';',
      ),
    ],
    [
      'units in the cells',
      text(
        [
          ['RPM', (r) => `${r.rpm} rpm`],
          ['Power', (r) => `${(r.power_kW * 1000).toFixed(0)} W`],
        ],
        ';',
      ),
    ],
  ])('%s', (_say, csv) => {
    const read = readText(csv);
    expect(columnValues(read.columns[0]!)[10]).toBe(2750);
    expect(of(read, 'power')).toMatchObject({ unit: 'W' });
    expect(columnValues(read.columns[1]!)[10]! / 1000).toBeCloseTo(ROWS[10]!.power_kW, 2);
  });
});
