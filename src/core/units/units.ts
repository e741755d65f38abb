/** Units and their exact factors to SI. Own table: the unit libraries are off on psi and lack cfm, inHg and inH₂O. */
export type Dimension =
  | 'length'
  | 'area'
  | 'volume'
  | 'pressure'
  | 'temperature'
  | 'temperatureDifference'
  | 'massFlow'
  | 'volumeFlow'
  | 'power'
  | 'torque'
  | 'speed'
  | 'mass'
  | 'angle'
  | 'engineSpeed'
  | 'voltage'
  | 'share'
  | 'fuelRate'
  | 'density'
  | 'time'
  | 'plain'
  | 'money';

export interface Unit {
  readonly id: string;
  readonly label: string;
  readonly dimension: Dimension;
  /** SI = value · factor + offset. */
  readonly factor: number;
  readonly offset: number;
  /** Other ways people write it, lower case and without spaces. */
  readonly aliases: readonly string[];
  /** A mass flow told as a volume of air: m³/s of one of it. Its factor is for bench air, and another for the day's. */
  readonly airVolume?: number;
}

const FOOT_m = 0.3048;
const INCH_m = 0.0254;
const POUND_kg = 0.45359237;
const PSI_Pa = 6894.757293168;
/** A cubic foot a minute, m³/s. */
export const CFM_m3ps = FOOT_m ** 3 / 60;
/** An inch of water, in which flow benches are read: at 4 °C. */
export const INCH_OF_WATER_Pa = 249.08891;
/** Density of the air that bench figures are told in, kg/m³. Airflow basis §1. */
const BENCH_AIR_kgpm3 = 101_325 / (287.058 * 293.15);

const u = (dimension: Dimension, id: string, label: string, factor: number, aliases: readonly string[] = [], offset = 0): Unit => ({
  id,
  label,
  dimension,
  factor,
  offset,
  aliases: [id.toLowerCase(), label.toLowerCase().replace(/\s/g, ''), ...aliases],
});

export const UNITS: readonly Unit[] = [
  u('length', 'mm', 'mm', 1e-3, ['millimetre', 'millimetres', 'millimeter', 'millimeters']),
  u('length', 'cm', 'cm', 1e-2),
  u('length', 'm', 'm', 1, ['metre', 'metres', 'meter', 'meters']),
  u('length', 'km', 'km', 1000),
  u('length', 'in', 'in', INCH_m, ['"', '″', 'inch', 'inches']),
  u('length', 'ft', 'ft', FOOT_m, ["'", '′', 'feet', 'foot']),
  u('length', 'mi', 'mi', 1609.344, ['mile', 'miles']),
  u('area', 'mm2', 'mm²', 1e-6),
  u('area', 'cm2', 'cm²', 1e-4),
  u('area', 'in2', 'in²', INCH_m ** 2, ['sqin']),
  u('volume', 'l', 'L', 1e-3, ['litre', 'litres', 'liter', 'liters', 'ltr']),
  u('volume', 'cc', 'cm³', 1e-6, ['cm3', 'ccm']),
  u('volume', 'ci', 'in³', INCH_m ** 3, ['in3', 'cid', 'cuin', 'cu.in.']),
  u('pressure', 'Pa', 'Pa', 1),
  u('pressure', 'kPa', 'kPa', 1e3, ['кпа']),
  u('pressure', 'MPa', 'MPa', 1e6, ['мпа']),
  u('pressure', 'mbar', 'mbar', 100, ['hpa', 'mb', 'millibar', 'мбар']),
  u('pressure', 'bar', 'bar', 1e5, ['бар']),
  u('pressure', 'psi', 'psi', PSI_Pa, ['lbf/in2', 'lb/in2', 'lbs/in2']),
  u('pressure', 'atm', 'atm', 101_325),
  u('pressure', 'kgfcm2', 'kgf/cm²', 98_066.5, ['kgf/cm2', 'kg/cm2', 'kg/cm²', 'кгс/см2']),
  u('pressure', 'inHg', 'inHg', 3386.389, ['in.hg', '"hg', 'inhg', 'in-hg', 'inch.hg', 'inchhg']),
  u('pressure', 'mmHg', 'mmHg', 133.322387415, ['mm.hg', 'mm-hg']),
  u('pressure', 'torr', 'Torr', 101_325 / 760),
  u('pressure', 'inH2O', 'inH₂O', INCH_OF_WATER_Pa, ['inh2o', 'in.h2o', '"h2o', 'inwc']),
  u('pressure', 'inHgVac', 'inHg of vacuum', -3386.389, ['inhgvac', 'inhgvacuum']),
  u('pressure', 'kPaVac', 'kPa of vacuum', -1e3, ['kpavac', 'kpavacuum']),
  u('pressure', 'mbarVac', 'mbar of vacuum', -100, ['mbarvac', 'hpavac']),
  u('pressure', 'mmHgVac', 'mmHg of vacuum', -133.322387415, ['mmhgvac']),
  u('pressure', 'psiVac', 'psi of vacuum', -PSI_Pa, ['psivac', 'psivacuum']),
  u('temperature', 'C', '°C', 1, ['c', 'degc', 'celsius', '℃', 'ºc', 'deg.c', 'gradc'], 273.15),
  u('temperature', 'F', '°F', 5 / 9, ['f', 'degf', 'fahrenheit', '℉', 'ºf', 'deg.f'], 273.15 - (32 * 5) / 9),
  u('temperature', 'K', 'K', 1, ['kelvin']),
  u('temperatureDifference', 'dK', '°C', 1, ['k', 'c', 'kelvin']),
  u('temperatureDifference', 'dF', '°F', 5 / 9, ['f', '°f', 'degf']),
  u('massFlow', 'kgh', 'kg/h', 1 / 3600, ['kg/hr', 'kgperhour']),
  u('massFlow', 'gs', 'g/s', 1e-3, ['g/sec']),
  u('massFlow', 'kgs', 'kg/s', 1),
  u('massFlow', 'lbh', 'lb/h', POUND_kg / 3600, ['lb/hr', 'lbs/hr', 'pph']),
  u('massFlow', 'lbmin', 'lb/min', POUND_kg / 60, ['lbs/min', 'lb/m']),
  { ...u('massFlow', 'cfmAir', 'cfm', BENCH_AIR_kgpm3 * CFM_m3ps, ['ft3/min', 'ft³/min']), airVolume: CFM_m3ps },
  { ...u('massFlow', 'm3hAir', 'm³/h', BENCH_AIR_kgpm3 / 3600, ['m3/h', 'm3/hr']), airVolume: 1 / 3600 },
  u('volumeFlow', 'm3h', 'm³/h', 1 / 3600, ['m3/h', 'm3/hr']),
  u('volumeFlow', 'm3s', 'm³/s', 1, ['m3/s']),
  u('volumeFlow', 'lmin', 'L/min', 1e-3 / 60, ['l/min']),
  u('volumeFlow', 'ccmin', 'cm³/min', 1e-6 / 60, ['cc/min', 'cm3/min', 'ml/min']),
  u('volumeFlow', 'cfm', 'cfm', CFM_m3ps, ['ft3/min', 'ft³/min', 'cuft/min']),
  u('power', 'kW', 'kW', 1e3, ['kilowatt', 'kilowatts', 'квт']),
  u('power', 'W', 'W', 1, ['watt', 'watts', 'вт']),
  u('power', 'hp', 'hp', 745.69987158, ['bhp', 'whp', 'rwhp', 'fwhp', 'awhp', 'chp', 'horsepower', 'hp(i)', 'hp(us)', 'mechanicalhp']),
  u('power', 'PS', 'PS', 735.49875, [
    'cv',
    'ch',
    'pk',
    'metrichp',
    'hpmetric',
    'hp(metric)',
    'hp(m)',
    'metrichorsepower',
    'hk',
    'km',
    'лс',
    'л.с.',
    'л.с',
  ]),
  u('torque', 'Nm', 'N·m', 1, ['nm', 'n-m', 'n.m', 'n*m', 'н·м', 'нм', 'newtonmetre', 'newtonmetres']),
  u('torque', 'lbft', 'lb·ft', 1.3558179483, [
    ...['lb-ft', 'ft-lb', 'ftlb', 'ft·lb', 'lbft', 'lb.ft', 'ft-lbs', 'ft.lbs', 'ft.lb', 'lbs-ft', 'lbs.ft', 'lbsft', 'ftlbs'],
    ...[
      'lbf·ft',
      'lbf-ft',
      'lbfft',
      'lbf.ft',
      'ft-lbf',
      'ftlbf',
      'ft·lbf',
      'lb*ft',
      'lb/ft',
      'lbs/ft',
      'ft/lb',
      'ft/lbs',
      'ft*lb',
      'pound-feet',
    ],
  ]),
  u('torque', 'kgfm', 'kgf·m', 9.80665, [
    ...['kgfm', 'kgf-m', 'kgf.m', 'kgf*m', 'kg·m', 'kgm', 'kg-m', 'kg.m', 'kg*m', 'mkg', 'm·kg', 'mkgf', 'm·kgf', 'кгс·м', 'кгсм'],
  ]),
  u('torque', 'daNm', 'daN·m', 10, ['danm', 'dan.m', 'dan-m', 'dan*m', 'm.dan', 'm·dan', 'mdan']),
  u('torque', 'inlb', 'in·lb', 1.3558179483 / 12, [
    ...[
      'in-lb',
      'in-lbs',
      'inlb',
      'inlbs',
      'in.lb',
      'lb-in',
      'lbin',
      'lb·in',
      'lb.in',
      'lbf·in',
      'lbf-in',
      'lbfin',
      'in·lbf',
      'in-lbf',
      'inlbf',
    ],
  ]),
  u('speed', 'mps', 'm/s', 1, ['m/sec']),
  u('speed', 'kmh', 'km/h', 1 / 3.6, ['kph', 'km/hr', 'км/ч']),
  u('speed', 'mph', 'mph', 0.44704),
  u('speed', 'fts', 'ft/s', FOOT_m, ['fps']),
  u('speed', 'kn', 'kn', 1852 / 3600, ['kt', 'kts', 'knot', 'knots']),
  u('mass', 'kg', 'kg', 1),
  u('mass', 'lb', 'lb', POUND_kg, ['lbs']),
  u('mass', 'g', 'g', 1e-3, ['g/cyl', 'g/str', 'g/stroke']),
  u('mass', 'mg', 'mg', 1e-6, ['mg/cyl', 'mg/str', 'mg/stroke', 'mg/stk']),
  u('angle', 'deg', '°', Math.PI / 180, ['degrees', 'degree']),
  u('angle', 'rad', 'rad', 1),
  u('engineSpeed', 'rpm', 'rpm', 1, [
    ...['1/min', 'u/min', 'r/min', 'rev/min', 'r.p.m.', 'upm', 'min-1', 'min^-1', 'min⁻¹', '/min', 'об/мин'],
    ...['tr/min', 'tr/mn', 'giri/min', 'rot/min', 'tpm', 'omw/min', 'v/min', 'varv/min', 'o/min', 'obr/min', 'ot/min'],
  ]),
  u('engineSpeed', 'krpm', 'krpm', 1000, [
    ...[
      'rpmx1000',
      'rpm×1000',
      'x1000rpm',
      '×1000rpm',
      'rpm*1000',
      '1000rpm',
      '1000*rpm',
      'rpm/1000',
      '1000/min',
      '10^3rpm',
      'x1000',
      '×1000',
    ],
  ]),
  u('engineSpeed', 'revs', 'rev/s', 60, ['hz', 'rps', '1/s', 's-1', 'об/с']),
  u('engineSpeed', 'radps', 'rad/s', 30 / Math.PI, ['rad/sec', 'rads-1', 'рад/с']),
  u('voltage', 'V', 'V', 1, ['volt', 'volts']),
  u('voltage', 'mV', 'mV', 1e-3),
  u('share', 'pct', '%', 0.01, ['percent']),
  u('share', 'one share', 'of 1', 1),
  u('fuelRate', 'gkWh', 'g/kWh', 1e-3 / 3.6e6),
  u('fuelRate', 'lbhph', 'lb/hp·h', POUND_kg / (745.69987158 * 3600), ['lb/hph', 'lb/hp-h', 'lb/hp/h']),
  u('density', 'kgm3', 'kg/m³', 1, ['kg/m3']),
  u('density', 'lbft3', 'lb/ft³', POUND_kg / FOOT_m ** 3, ['lb/ft3', 'lb/cuft']),
  u('time', 's', 's', 1, ['sec', 'secs', 'second', 'seconds', 'с', 'сек', 'sek']),
  u('time', 'ms', 'ms', 1e-3, ['msec', 'millis', 'milliseconds', 'мс']),
  u('time', 'us', 'µs', 1e-6, ['μs', 'usec', 'microseconds']),
  u('time', 'min', 'min', 60),
  u('time', 'h', 'h', 3600, ['hours', 'hour']),
  u('time', 'day', 'd', 86_400, ['days']),
  u('plain', 'one', '', 1),
  u('money', 'eur', '€', 1, ['eur', 'euro']),
];

const BY_ID = new Map(UNITS.map((unit) => [unit.id, unit]));

export function unitById(id: string): Unit {
  const unit = BY_ID.get(id);
  if (!unit) throw new RangeError(`no unit ${id}`);
  return unit;
}

/** The units of a dimension in themselves: without those that need the state of the air to be one. */
export const ownUnits = (dimension: Dimension | null): readonly Unit[] => UNITS.filter((u) => u.dimension === dimension && !u.airVolume);

/** The volume of air that a word means where a mass flow is asked for: its factor is that of bench air until a day is known. */
export function airVolumeByWord(word: string): Unit | null {
  const key = word.trim().toLowerCase().replace(/\s/g, '');
  return UNITS.find((unit) => unit.airVolume !== undefined && unit.aliases.includes(key)) ?? null;
}

/** Vacuum counts downwards from the air outside: only a column of a file is in it, nobody types it into a field. */
export const isVacuum = (unit: Unit): boolean => unit.factor < 0;

/** The unit a person means by a word, among those of one dimension; null when nobody writes it so. */
export function unitByWord(word: string, dimension?: Dimension): Unit | null {
  const key = word.trim().toLowerCase().replace(/\s/g, '');
  return (
    UNITS.find((unit) => (dimension === undefined || unit.dimension === dimension) && !unit.airVolume && unit.aliases.includes(key)) ?? null
  );
}

export const toSI = (value: number, unit: Unit): number => value * unit.factor + unit.offset;
export const fromSI = (si: number, unit: Unit): number => (si - unit.offset) / unit.factor;
