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

/** Epoch stamps by their size; else a step under two is of seconds, whole steps above it are of milliseconds. */
const clock = ({ low, high, step, whole }: Span): string => {
  if (low > 1e14) return 'us';
  if (low > 1e11) return 'ms';
  if (low > 1e8) return 's';
  if (!whole || step < 2) return 's';
  return high > 2e6 && step > 2000 ? 'us' : 'ms';
};

const OTHER_SHAFT =
  /roller|wheel|turbo|drum|\bfan\b|pump|shaft|blower|compressor|pulley|rolle|\brad(?!\s*\/)|idle|alternator|input|output|getriebe/i;
const ENGINE_SPEED =
  /(\brpm|rpm\b|engine ?speed|^speed.*1\/min|drehzahl|\brevs?\b|^n$|\bn_?mot|обороты|частота вращ|r[ée]gime|\bgiri\b|revoluciones|回転|转速)/i;

/** What columns are called, in the languages that shops' files come in. The first rule that fits has it. */
export const RULES: readonly Rule[] = [
  {
    quantity: 'time',
    name: /^(time|t|elapsed.*|zeit.*|timestamp.*|seconds|secs|sec|s|ms|time ?stamp.*|log ?time|run ?time|время.*|temps|tiempo|tempo|tid|czas|時間|时间)\b|^(время|時間|时间)/i,
    dimension: 'time',
    unitFor: clock,
  },
  {
    quantity: 'rpm',
    name: new RegExp(`^(?!.*(?:${OTHER_SHAFT.source})).*${ENGINE_SPEED.source}`, 'i'),
    dimension: 'engineSpeed',
    unitFor: ({ high }) => (high >= 400 && high <= 20_000 ? 'rpm' : high > 0.4 && high <= 20 ? 'krpm' : null),
    high: [400, 20_000],
  },
  {
    quantity: 'torque',
    name: /(torque|drehmoment|\b[rfac]?w?tq\b|\bnm\b|\bn·m\b|lb-?\.?ft|ft-?\.?lb|момент|couple|coppia|\bpar motor|トルク|扭矩)/i,
    dimension: 'torque',
    unitFor: () => null,
    high: [5, 5000],
  },
  {
    quantity: 'power',
    name: /(power(?!\s*steer)|\b\w?\w?hp\b|\bkw\b|leistung|\bpwr\b|мощност|puissance|potencia|potenza|horsepower|\bps\b|出力|馬力|功率)/i,
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
    name: /(throttle|\btps\b|\btp\b|drossel|дроссель|papillon|farfalla)/i,
    dimension: 'share',
    unitFor: ({ high }) => (high <= 1.2 ? 'one share' : 'pct'),
  },
  {
    quantity: 'barometer',
    name: /(\bbaro|ambient ?press|atmos|luftdruck|umgebungsdruck)/i,
    dimension: 'pressure',
    unitFor: (s) => (s.high > 25 && s.high < 32 ? 'inHg' : pressure(s)),
    high: [50_000, 120_000],
  },
  {
    quantity: 'boost',
    name: /(boost|charge ?press|ladedruck|\bvac(uum)?\b|unterdruck|наддув|pression suralim|überdruck)/i,
    dimension: 'pressure',
    unitFor: boost,
    high: [-1e5, 5e5],
  },
  {
    quantity: 'manifold pressure',
    name: /(\bmap\b|manifold ?(abs|pres)|intake ?(manifold ?)?press|inlet ?press|plenum|saugrohrdruck)/i,
    dimension: 'pressure',
    unitFor: pressure,
    high: [30_000, 6e5],
  },
  {
    quantity: 'inlet air',
    name: /(\biat\b|inlet ?(air|temp)|intake ?(air )?temp|charge ?(air )?temp|\bact\b|ansaugluft|ladelufttemp|температура впуск)/i,
    dimension: 'temperature',
    unitFor: temperature(55, 140),
    high: [ABSOLUTE_ZERO, 480],
  },
  {
    quantity: 'coolant',
    name: /(coolant|\bect\b|\bclt\b|water ?temp|kühlmittel|wassertemp)/i,
    dimension: 'temperature',
    unitFor: temperature(126, 150),
    high: [ABSOLUTE_ZERO, 420],
  },
  {
    quantity: 'oil',
    name: /(oil ?temp|öltemp)/i,
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
    name: /(\bspeed\b|\bvss\b|geschwindigkeit|velocity|vitesse|velocidad|velocit[àa]|скорость|車速)/i,
    dimension: 'speed',
    unitFor: () => null,
    high: [2, 130],
  },
  { quantity: 'distance', name: /(distance|odo|weg\b|travel)/i, dimension: 'length', unitFor: () => 'm' },
  { quantity: 'altitude', name: /(altitude|elevation|\balt\b|height|\bele\b)/i, dimension: 'length', unitFor: () => 'm' },
  { quantity: 'gear', name: /^(gear|gang)\b/i, dimension: 'plain', unitFor: () => 'one', high: [1, 12] },
];

export const ruleOf = (quantity: Quantity): Rule | undefined =>
  RULES.find((r) => r.quantity === (quantity === 'further power' ? 'power' : quantity === 'further torque' ? 'torque' : quantity));
