import { columnFacts, guessChannels, type GuessedChannel } from './guess';
import { findLayout, nameAndUnit } from './layout';
import { TableReader } from './reader';

/** The upper end of what a channel of a car reads, in the unit its header tells. */
const ROWS = 40;
const ramp = (from: number, to: number): Float64Array =>
  Float64Array.from({ length: ROWS }, (_, i) => from + ((to - from) * i) / (ROWS - 1));

/** What becomes of a column under a header, between a clock and a column of no meaning. */
function guess(header: string, values: Float64Array): GuessedChannel {
  const text = ['Clock', header, 'Zz'].join(';') + '\n' + [...values].map((v, i) => `${i};${v.toFixed(3)};${i % 7}`).join('\n');
  const { names, units } = findLayout(text)!.layout;
  return guessChannels([columnFacts({ name: names[1]!, unit: units[1]!, blocks: [values] })])[0]!;
}

const KINDS = {
  rpm: ramp(2000, 6500),
  radps: ramp(210, 680),
  kW: ramp(60, 150),
  PS: ramp(80, 200),
  Nm: ramp(180, 240),
  daNm: ramp(18, 24),
  lbft: ramp(160, 220),
  mbar: ramp(950, 1800),
  kPa: ramp(95, 180),
  bar: ramp(-0.2, 1.1),
  C: ramp(30, 92),
  pct: ramp(10, 100),
  kmh: ramp(60, 200),
  mps: ramp(16, 60),
  kgh: ramp(100, 500),
  gs: ramp(30, 150),
  lbmin: ramp(10, 40),
  s: ramp(0, 9),
} as const;

describe('a unit with a slash in it stays whole behind a blank', () => {
  it.each([
    ['Speed km/h', 'speed', 'kmh', KINDS.kmh],
    ['Vehicle speed m/s', 'speed', 'mps', KINDS.mps],
    ['Speed_km/h', 'speed', 'kmh', KINDS.kmh],
    ['Torque lb/ft', 'torque', 'lbft', KINDS.lbft],
    ['MAF g/s', 'air mass flow', 'gs', KINDS.gs],
    ['MAF kg/h', 'air mass flow', 'kgh', KINDS.kgh],
    ['Air flow lb/min', 'air mass flow', 'lbmin', KINDS.lbmin],
    ['Engine speed 1/min', 'rpm', 'rpm', KINDS.rpm],
    ['Engine speed rad/s', 'rpm', 'radps', KINDS.radps],
    ['Power/kW', 'power', 'kW', KINDS.kW],
  ])('%s', (header, quantity, unit, values) => {
    expect(guess(header, values)).toMatchObject({ quantity, unit, ask: false });
  });

  it('and so does one that a mark sets off', () => {
    expect(nameAndUnit('Speed:km/h')).toEqual({ name: 'Speed', unit: 'km/h' });
    expect(nameAndUnit('Wheel torque/Nm')).toEqual({ name: 'Wheel torque', unit: 'Nm' });
  });
});

describe('what shops elsewhere call their channels', () => {
  it.each([
    ['Vitesse moteur (tr/min)', 'rpm', 'rpm', KINDS.rpm],
    ['Régime tr/mn', 'rpm', 'rpm', KINDS.rpm],
    ['Couple (m.daN)', 'torque', 'daNm', KINDS.daNm],
    ['Pression admission (mbar)', 'manifold pressure', 'mbar', KINDS.mbar],
    ['Température eau (°C)', 'coolant', 'C', KINDS.C],
    ["Température d'admission (°C)", 'inlet air', 'C', KINDS.C],
    ['Temp. air admission (°C)', 'inlet air', 'C', KINDS.C],
    ['Kühlwasser [°C]', 'coolant', 'C', KINDS.C],
    ['Uhrzeit [s]', 'time', 's', KINDS.s],
    ['Mariposa (%)', 'throttle', 'pct', KINDS.pct],
    ['Temp. refrigerante (°C)', 'coolant', 'C', KINDS.C],
    ['Temp. aire admisión (°C)', 'inlet air', 'C', KINDS.C],
    ['Presión admisión (kPa)', 'manifold pressure', 'kPa', KINDS.kPa],
    ['Presión turbo (bar)', 'boost', 'bar', KINDS.bar],
    ['Giri/min', 'rpm', 'rpm', KINDS.rpm],
    ['Temp. acqua (°C)', 'coolant', 'C', KINDS.C],
    ['Temp. aria aspirata (°C)', 'inlet air', 'C', KINDS.C],
    ['Pressione collettore (mbar)', 'manifold pressure', 'mbar', KINDS.mbar],
    ['Toerental (tpm)', 'rpm', 'rpm', KINDS.rpm],
    ['Toerental (omw/min)', 'rpm', 'rpm', KINDS.rpm],
    ['Vermogen (pk)', 'power', 'PS', KINDS.PS],
    ['Koppel (Nm)', 'torque', 'Nm', KINDS.Nm],
    ['Gasklep (%)', 'throttle', 'pct', KINDS.pct],
    ['Koelvloeistof (°C)', 'coolant', 'C', KINDS.C],
    ['Inlaatlucht (°C)', 'inlet air', 'C', KINDS.C],
    ['Snelheid (km/h)', 'speed', 'kmh', KINDS.kmh],
    ['Tijd (s)', 'time', 's', KINDS.s],
    ['Varvtal (v/min)', 'rpm', 'rpm', KINDS.rpm],
    ['Turtal (o/min)', 'rpm', 'rpm', KINDS.rpm],
    ['Effekt (hk)', 'power', 'PS', KINDS.PS],
    ['Vridmoment (Nm)', 'torque', 'Nm', KINDS.Nm],
    ['Gasspjäll (%)', 'throttle', 'pct', KINDS.pct],
    ['Kylvatten (°C)', 'coolant', 'C', KINDS.C],
    ['Insugsluft (°C)', 'inlet air', 'C', KINDS.C],
    ['Hastighet (km/h)', 'speed', 'kmh', KINDS.kmh],
    ['Obroty [obr/min]', 'rpm', 'rpm', KINDS.rpm],
    ['Prędkość obrotowa [1/min]', 'rpm', 'rpm', KINDS.rpm],
    ['Moc [KM]', 'power', 'PS', KINDS.PS],
    ['Przepustnica [%]', 'throttle', 'pct', KINDS.pct],
    ['Prędkość [km/h]', 'speed', 'kmh', KINDS.kmh],
    ['Otáčky [ot/min]', 'rpm', 'rpm', KINDS.rpm],
    ['Výkon [kW]', 'power', 'kW', KINDS.kW],
    ['Čas [s]', 'time', 's', KINDS.s],
    ['Rotação (rpm)', 'rpm', 'rpm', KINDS.rpm],
    ['Potência (cv)', 'power', 'PS', KINDS.PS],
    ['Borboleta (%)', 'throttle', 'pct', KINDS.pct],
    ['Скорость, км/ч', 'speed', 'kmh', KINDS.kmh],
    ['Температура ОЖ, °C', 'coolant', 'C', KINDS.C],
    ['スロットル(%)', 'throttle', 'pct', KINDS.pct],
    ['水温(℃)', 'coolant', 'C', KINDS.C],
    ['吸気温(℃)', 'inlet air', 'C', KINDS.C],
    ['车速(km/h)', 'speed', 'kmh', KINDS.kmh],
    ['Eng Spd', 'rpm', 'rpm', KINDS.rpm],
    ['Kurbelwellendrehzahl [1/min]', 'rpm', 'rpm', KINDS.rpm],
    ['Crankshaft speed (rpm)', 'rpm', 'rpm', KINDS.rpm],
    ['Zeit ab Start [s]', 'time', 's', KINDS.s],
    ['Marcha', 'gear', 'one', ramp(3, 3)],
    ['Tach', 'rpm', 'rpm', KINDS.rpm],
    ['Crank speed', 'rpm', 'rpm', KINDS.rpm],
    ['omega (rad/s)', 'rpm', 'radps', KINDS.radps],
    ['Man Press (kPa)', 'manifold pressure', 'kPa', KINDS.kPa],
    ['Airbox temp (C)', 'inlet air', 'C', KINDS.C],
    ['Intake manifold temp (C)', 'inlet air', 'C', KINDS.C],
  ])('%s', (header, quantity, unit, values) => {
    expect(guess(header, values)).toMatchObject({ quantity, unit, ask: false });
  });
});

it.each([
  ['Puissance roue (kW)', 'wheels'],
  ['Potenza ruota (kW)', 'wheels'],
  ['Vermogen wiel (kW)', 'wheels'],
  ['Moc na kołach [kW]', 'wheels'],
  ['Puissance moteur (kW)', 'crank'],
])('%s says where it was measured', (header, at) => {
  expect(guess(header, KINDS.kW)).toMatchObject({ quantity: 'power', power: { at } });
});

describe('what only sounds like one is left to be named', () => {
  it.each([
    ['Raddrehzahl [1/min]', ramp(300, 900)],
    ['Vitesse roue (tr/min)', ramp(300, 900)],
    ['Régime turbo (tr/min)', ramp(30_000, 120_000)],
    ['Velocità ruota (giri/min)', ramp(300, 900)],
    ['Turbine speed (rpm)', ramp(30_000, 120_000)],
    ['Turbinendrehzahl [1/min]', ramp(1000, 6000)],
    ['Walzendrehzahl [1/min]', ramp(300, 2000)],
    ['Fan motor speed (rpm)', ramp(300, 2000)],
    ['Baro sea level (hPa)', ramp(1020, 1021)],
    ['Lambda (x1000)', ramp(850, 900)],
    ['Counter (x1000)', ramp(2, 6.5)],
    ['Yaw rate (rad/s)', ramp(0, 2)],
    ['Temps injection (ms)', ramp(3, 12)],
    ['Tempo di iniezione (ms)', ramp(3, 12)],
    ['Time to 100 (s)', ramp(7, 7.2)],
    ['Zeit bis Redline [s]', ramp(2, 3)],
    ['Consigne régime (tr/min)', KINDS.rpm],
    ['Régime cible (tr/min)', KINDS.rpm],
    ['Régime ralenti', ramp(800, 900)],
    ['Drehzahl Welle [1/min]', KINDS.rpm],
    ['Abtriebsdrehzahl [1/min]', KINDS.rpm],
    ['Obroty kół [obr/min]', ramp(300, 900)],
    ['Verliesvermogen (kW)', ramp(5, 30)],
    ['Förlusteffekt (kW)', ramp(5, 30)],
    ['Moc strat [kW]', ramp(5, 30)],
    ['Gear ratio', ramp(1.2, 1.2)],
    ['Lambda sensor voltage', ramp(0.1, 0.9)],
    ['MAP sensor volts', ramp(1, 1.02)],
    ['Temp. ambiente (°C)', KINDS.C],
    ['Température air (°C)', KINDS.C],
    ['Air temp (C)', KINDS.C],
    ['Pression huile (bar)', ramp(2, 5)],
    ['Moment of inertia (kgm2)', ramp(0.2, 0.2)],
    ['Distance moteur', ramp(0, 5)],
    ['Throttle body temp (°C)', KINDS.C],
    ['Presión combustible (bar)', ramp(3, 4)],
    ['Pressione olio (bar)', ramp(2, 5)],
    ['Temp. aceite caja (°C)', KINDS.C],
  ])('%s', (header, values) => {
    const found = guess(header, values);
    expect(found.ask || ['other', 'distance', 'oil'].includes(found.quantity) ? 'left' : found.quantity).toBe('left');
  });
});

describe('rows that sum a table up', () => {
  const BODY = Array.from({ length: 30 }, (_, i) => `${(i / 10).toFixed(1)},${2000 + 100 * i},${(40 + 2 * i).toFixed(1)}`);
  const read = (lines: readonly string[]) => {
    const reader = new TableReader();
    reader.push(new TextEncoder().encode(lines.join('\n') + '\n'));
    const result = reader.finish();
    if (result.refused !== null) throw new Error(result.refused);
    return result.report;
  };

  it.each([
    ['below it', [...BODY, 'Max,4900,98.0', 'Average:,3450,69.0']],
    ['above it', ['Min,2000,40.0', 'Max,4900,98.0', ...BODY]],
    ['in another tongue', [...BODY, 'Maximum,4900,98', 'Mittelwert,3450,69']],
    ['with a word more', [...BODY, 'Peak power,4900,98', 'Std dev,870,17.3']],
  ])('%s are none of its rows, and are told', (_, lines) => {
    const report = read(['Time (s),RPM,Power (kW)', ...lines]);
    expect(report.rows).toBe(30);
    expect(report.skipped.map((s) => s.reason)).toEqual(['sums the table up', 'sums the table up']);
  });

  it('a column of words may say max and min all along', () => {
    const words = BODY.map((l, i) => `${l},${['max', 'min', 'hold'][i % 3]!}`);
    expect(read(['Time (s),RPM,Power (kW),Phase', ...words])).toMatchObject({ rows: 30, skippedTotal: 0 });
  });

  it('a sensor at its stop says it in the middle of a row, which stays', () => {
    expect(read(['Time (s),RPM,AFR', ...BODY, '3.0,4900,MAX', '3.1,5000,MIN'])).toMatchObject({ rows: 32, skippedTotal: 0, textCells: 2 });
  });

  it('a word that is none of these leaves its row where it is', () => {
    expect(read(['Time (s),RPM,Power (kW)', ...BODY, 'fault,4900,98.0'])).toMatchObject({ rows: 31, skippedTotal: 0, textCells: 1 });
  });
});

it('a table drawn with bars and a rule of dashes under its names has the names without them', () => {
  const body = Array.from({ length: 20 }, (_, i) => `| ${i / 10} | ${2000 + 100 * i} | ${40 + i} |`);
  const { layout } = findLayout(['| Time (s) | RPM | Power (kW) |', '|:---|---:|:--:|', ...body].join('\n'))!;
  expect([layout.names, layout.units]).toEqual([
    ['column 1', 'Time', 'RPM', 'Power'],
    ['', 's', 'RPM', 'kW'],
  ]);
});
