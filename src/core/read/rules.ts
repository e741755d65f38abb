import type { Quantity } from '../documents/run';
import type { Dimension } from '../units/units';

/** A column's figures by their size, in the file's unit: few lie below `low` or above `high`. */
export interface Span {
  readonly low: number;
  readonly high: number;
  /** Mean step from row to row. */
  readonly step: number;
  /** Every figure looked at is a whole number. */
  readonly whole: boolean;
}

export interface Rule {
  readonly quantity: Quantity;
  readonly name: RegExp;
  readonly dimension: Dimension | null;
  /** Unit when the file names none, by the size of its figures; null: the size does not tell, it must be asked. */
  readonly unitFor: (span: Span) => string | null;
  /** SI range (share: percent) that the upper figures of such a channel lie in. */
  readonly high?: readonly [number, number];
}

/** Where a temperature can be told by its size: below `cool` it is °C, from `hot` on °F, between them it could be either. */
const temperature =
  (cool: number, hot: number) =>
  ({ low, high }: Span): string | null =>
    low > 200 && high < 480 ? 'K' : high < cool ? 'C' : high >= hot ? 'F' : null;
const ABSOLUTE_ZERO = 233;

const pressure = ({ low, high }: Span): string | null => {
  if (high > 20_000) return 'Pa';
  if (high > 500 && high < 6000) return 'mbar';
  if (high > 80 && high < 450 && low > 12) return 'kPa';
  // About the air outside, wide open: nothing else is of that size.
  if (high > 12 && high < 15.2 && low > 3) return 'psi';
  return high > 0.8 && high < 1.06 && low > 0.2 ? 'bar' : null;
};

const boost = ({ high }: Span): string | null => (high > 400 && high < 4000 ? 'mbar' : high > 60 && high < 300 ? 'kPa' : null);

/** Days since 1900, as spreadsheets count them, of this century; rows come at least this often, days. */
const SPREADSHEET_DAYS = [36_500, 73_000] as const;
const A_ROW_days = 1e-3;
/** A step that would be of more than 20 kHz in seconds. */
const TOO_OFTEN = 5e-5;
/** Before it nobody tests: shares of a day from here on are a time of day. */
const EARLY_days = 0.05;

/** Epoch stamps and a spreadsheet's days by their size; else a step under two is of seconds, whole steps above it are of milliseconds. */
const clock = ({ low, high, step, whole }: Span): string | null => {
  if (low > 1e14) return 'us';
  if (low > 1e11) return 'ms';
  if (low > 1e8) return 's';
  if (low > SPREADSHEET_DAYS[0] && high < SPREADSHEET_DAYS[1] && step > 0 && step < A_ROW_days && !whole) return 'day';
  // Nothing samples so often: shares of a day, as a spreadsheet has a time of day, or hours or minutes since the start.
  if (step > 0 && step < TOO_OFTEN && high < 1) return low > EARLY_days ? 'day' : null;
  if (!whole || step < 2) return 's';
  return high > 2e6 && step > 2000 ? 'us' : 'ms';
};

/** One pattern of several, whatever the case. */
const oneOf = (...patterns: readonly RegExp[]): RegExp => new RegExp(patterns.map((p) => p.source).join('|'), 'i');
/** Only where the name has none of these words in it. */
export const without = (words: RegExp, pattern: RegExp): RegExp => new RegExp(`^(?!.*(?:${words.source})).*(?:${pattern.source})`, 'i');

/** Other things that turn, in a name: their speed is not the engine's. */
export const OTHER_SHAFT = oneOf(
  /roller|wheel|turbo|turbin|drum|\bfan\b|pump|(?<!crank)shaft|blower|compressor|pulley|idle|alternator|input|output/,
  /rolle|walze|trommel|getriebe|\brad(?!\s*\/)|\brad(?=dreh|geschw)|roue|rouleau|rueda|rodillo|ruota|rullo|hjul|\bwiel|k[oó]ł|колес/,
  /abtrieb|(?<!kurbel)welle\b|ralenti|leerlauf|\bminimo|stationair/,
);
const ENGINE_SPEED = oneOf(
  /\brpm|rpm\b|(engine|\beng|\bcrank(shaft)?|\bmotor) ?(speed|spd)|^speed.*1\/min|\brevs?\b|\btach(o|ometer)?\b|^n$|\bn_?mot|^omega$|^ω$/,
  /drehzahl|r[ée]gim(e|en)|vitesse (du )?moteur|^tr\/mi?n$|\bgiri\b|revoluciones|rotaç(ão|ões)|toerental|varvtal|turtal|obroty|obrotowa|otáčky/,
  /обороты|частота вращ|回転|转速/,
);
/** A pressure brought down to the sea. */
export const AT_SEA = /sea ?level|\bmsl\b|qnh|qff|altimeter|reduced|reduziert/;
/** A stretch of time that something takes. */
const NO_CLOCK = /\binj|\biny|iniez|einspr|wtrysk|впрыск|\bto\b|\bbis\b|\btot\b|dwell|ouvert|apert|\bopen/;
/** A place of the air or the water that is told by something else than its temperature. */
const NO_TEMPERATURE = /press|druck|flow|humid|feucht|level|pump/;

/** What columns are called, in the languages that shops' files come in. The first rule that fits has it. */
export const RULES: readonly Rule[] = [
  {
    quantity: 'time',
    name: without(
      NO_CLOCK,
      oneOf(
        /^(time|ts|t|elapsed.*|timestamp.*|seconds|secs|sec|s|ms|time ?stamp.*|log ?time|run ?time|время.*)\b|^время/,
        /^(zeit.*|uhrzeit|temps|tiempo|tempo|tijd|tid|czas|čas)\b|^(時間|时间)/,
      ),
    ),
    dimension: 'time',
    unitFor: clock,
  },
  {
    quantity: 'rpm',
    name: without(OTHER_SHAFT, ENGINE_SPEED),
    dimension: 'engineSpeed',
    unitFor: ({ high }) => (high >= 400 && high <= 20_000 ? 'rpm' : high > 0.4 && high <= 20 ? 'krpm' : null),
    high: [400, 20_000],
  },
  {
    quantity: 'torque',
    name: oneOf(
      /torque|drehmoment|\b[rfac]?w?tq\b|\bnm\b|\bn·m\b|lb-?\.?ft|ft-?\.?lb|(?<!thermo)couple|coppia|\bpar motor/,
      /koppel|vridmoment|moment obrotowy|točivý|binário|момент|トルク|扭矩/,
    ),
    dimension: 'torque',
    unitFor: () => null,
    high: [5, 5000],
  },
  {
    quantity: 'power',
    name: oneOf(
      /power(?!\s*steer)|\b\w?\w?hp\b|\bkw\b|leistung|\bpwr\b|puissance|potencia|potenza|horsepower|\bps\b/,
      /vermogen|effekt|^moc\b|výkon|potência|мощност|出力|馬力|功率/,
    ),
    dimension: 'power',
    unitFor: () => null,
    high: [1000, 3e6],
  },
  {
    quantity: 'pedal',
    name: /(pedal|\bapp\b|accelerator|fahrpedal)/i,
    dimension: 'share',
    unitFor: ({ high }) => (high <= 1.2 ? 'one share' : 'pct'),
  },
  {
    quantity: 'throttle',
    name: oneOf(
      /throttle|\btps\b|\btp\b|drossel|papillon|farfalla|mariposa|borboleta/,
      /gasklep|gasspj|przepustnic|дроссель|スロットル|节气门/,
    ),
    dimension: 'share',
    unitFor: ({ high }) => (high <= 1.2 ? 'one share' : 'pct'),
  },
  {
    quantity: 'barometer',
    name: without(AT_SEA, /\bbaro|ambient ?press|atmos|luftdruck|umgebungsdruck/),
    dimension: 'pressure',
    unitFor: (s) => (s.high > 25 && s.high < 32 ? 'inHg' : pressure(s)),
    high: [50_000, 120_000],
  },
  {
    quantity: 'boost',
    name: oneOf(
      /boost|charge ?press|ladedruck|\bvac(uum)?\b|unterdruck|überdruck|pression (de )?suralim|presi[oó]n (de |del )?turbo/,
      /pressione (del )?turbo|sovraliment|turbodruk|laddtryck|наддув|過給圧/,
    ),
    dimension: 'pressure',
    unitFor: boost,
    high: [-1e5, 5e5],
  },
  {
    quantity: 'manifold pressure',
    name: oneOf(
      /\bmap\b|manifold ?(abs|pres)|\bman(if)?\.? ?pres|intake ?(manifold ?)?press|inlet ?press|plenum|saugrohrdruck/,
      /pression (d['’]|de |du )?(admission|collecteur)|presi[oó]n (de |del )?(admisi|colector)|pressione (di |del )?(collettore|aspirazione)/,
      /pressão (d[oe] )?(coletor|admiss)|inlaatdruk|insugstryck|吸気圧/,
    ),
    dimension: 'pressure',
    unitFor: pressure,
    high: [30_000, 6e5],
  },
  {
    quantity: 'inlet air',
    name: without(
      NO_TEMPERATURE,
      oneOf(
        /\biat\b|inlet ?(air|temp)|(intake|intake manifold|manifold air|charge|airbox) ?(air )?temp|\bact\b|ansaugluft|ladelufttemp/,
        /(?=.*temp).*(admission|admisi[oó]n|admissão|aspirat|aspirazione)|inlaatlucht|insugsluft|температура впуск|吸気温|进气温/,
      ),
    ),
    dimension: 'temperature',
    unitFor: temperature(55, 140),
    high: [ABSOLUTE_ZERO, 480],
  },
  {
    quantity: 'coolant',
    name: without(
      NO_TEMPERATURE,
      oneOf(
        /coolant|\bect\b|\bclt\b|water ?temp|kühl(mittel|wasser)|wassertemp|refrigerante|koel(vloeistof|water)|kylvat/,
        /temp\S* (de |d['’]|dell['’]|del )?(l['’])?(eau|[aá]gua|acqua)|температура ож|охлажда|水温/,
      ),
    ),
    dimension: 'temperature',
    unitFor: temperature(126, 150),
    high: [ABSOLUTE_ZERO, 420],
  },
  {
    quantity: 'oil',
    name: oneOf(/oil ?temp|öltemp|temp\S* (d['’]|de |dell['’]|del )?(huile|aceite|olio|óleo)(?! \S)|температура масла|油温/),
    dimension: 'temperature',
    unitFor: temperature(140, 170),
    high: [ABSOLUTE_ZERO, 460],
  },
  {
    quantity: 'cylinder air',
    name: /(cyl(inder)? ?air|air ?(per|\/) ?(cyl|stroke)|air ?charge|mg ?\/ ?str)/i,
    dimension: 'mass',
    unitFor: ({ high }) => (high > 20 ? 'mg' : 'g'),
    high: [5e-5, 3e-3],
  },
  {
    quantity: 'air mass flow',
    name: /(\bmaf\b|air ?mass|mass ?air|air ?flow|luftmasse)/i,
    dimension: 'massFlow',
    unitFor: ({ high }) => (high > 700 ? 'kgh' : null),
    high: [0.005, 2],
  },
  { quantity: 'lambda', name: /lambda|λ|лямбда/i, dimension: 'plain', unitFor: () => 'one', high: [0.5, 2] },
  { quantity: 'afr', name: /(\bafr\b|air.?fuel)/i, dimension: 'plain', unitFor: () => 'one', high: [6, 30] },
  {
    quantity: 'speed',
    name: /(\bspeed\b|\bvss\b|geschwindigkeit|velocity|vitesse|velocidad|velocit[àa]|snelheid|hastighet|prędkość|rychlost|скорость|車速|车速)/i,
    dimension: 'speed',
    unitFor: () => null,
    high: [2, 130],
  },
  { quantity: 'distance', name: /(distance|odo|weg\b|travel)/i, dimension: 'length', unitFor: () => 'm' },
  { quantity: 'altitude', name: /(altitude|elevation|\balt\b|height|\bele\b)/i, dimension: 'length', unitFor: () => 'm' },
  {
    quantity: 'gear',
    name: /^(gear|gang|marcha|marcia|versnelling|växel|bieg|передача)\b(?!.*(ratio|temp|oil|volt))/i,
    dimension: 'plain',
    unitFor: () => 'one',
    high: [1, 12],
  },
];

export const ruleOf = (quantity: Quantity): Rule | undefined =>
  RULES.find((r) => r.quantity === (quantity === 'further power' ? 'power' : quantity === 'further torque' ? 'torque' : quantity));
