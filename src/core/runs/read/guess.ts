import type { ChannelMap, Quantity } from '../../documents/run';
import { sortedQuantile } from '../../numbers/quantile';
import { unitByWord, unitById, toSI, type Dimension, type Unit } from '../../units/units';

export interface ColumnFacts {
  readonly name: string;
  readonly unit: string;
  /** Figures below and above which few lie, in the file's unit: a wild sample does not set them. */
  readonly low: number;
  readonly high: number;
  /** Never falls, and rises by nearly equal steps. */
  readonly steady: boolean;
}

/** Why a guess is not certain; the interface has a sentence for each. */
export type Doubt = 'unit from the figures' | 'name only' | 'figures only' | 'unit does not suit the figures';

export interface GuessedChannel extends ChannelMap {
  /** 1 certain by name and unit, 0.7 by name with its unit from the figures, 0.3 by the figures alone, 0 not recognised. */
  readonly confidence: number;
  readonly doubt: Doubt | null;
}

interface Rule {
  readonly quantity: Quantity;
  readonly name: RegExp;
  readonly dimension: Dimension | null;
  /** Unit taken when the file names none, by the size of its figures. */
  readonly unitFor: (high: number, low: number) => string | null;
  /** SI range (share: percent) that the upper figures of such a channel lie in. */
  readonly high?: readonly [number, number];
}

const temperature = (hot_C: number) => (high: number, low: number) => (low > 200 ? 'K' : high > hot_C ? 'F' : 'C');
const ABSOLUTE_ZERO = 233;

const RULES: readonly Rule[] = [
  { quantity: 'time', name: /^(time|t|elapsed|zeit|timestamp|seconds)\b/i, dimension: 'time', unitFor: () => 's' },
  {
    quantity: 'rpm',
    name: /(rpm|engine ?speed|^speed.*1\/min|drehzahl|^n$|rev)/i,
    dimension: 'engineSpeed',
    unitFor: () => 'rpm',
    high: [400, 20_000],
  },
  { quantity: 'torque', name: /(torque|drehmoment|tq|\bnm\b)/i, dimension: 'torque', unitFor: () => null, high: [5, 5000] },
  { quantity: 'power', name: /(power|\bhp\b|\bkw\b|leistung|\bpwr\b)/i, dimension: 'power', unitFor: () => null, high: [1000, 3e6] },
  { quantity: 'pedal', name: /(pedal|\bapp\b|accelerator)/i, dimension: 'share', unitFor: (high) => (high <= 1.2 ? 'one share' : 'pct') },
  {
    quantity: 'throttle',
    name: /(throttle|\btps\b|\btp\b|drossel)/i,
    dimension: 'share',
    unitFor: (high) => (high <= 1.2 ? 'one share' : 'pct'),
  },
  {
    quantity: 'barometer',
    name: /(\bbaro|ambient ?press|atmos)/i,
    dimension: 'pressure',
    unitFor: (high) => pressureUnit(high),
    high: [50_000, 120_000],
  },
  {
    quantity: 'boost',
    name: /(boost|charge ?press)/i,
    dimension: 'pressure',
    unitFor: (high) => (high > 400 ? 'mbar' : high > 40 ? 'kPa' : high > 3 ? 'psi' : 'bar'),
    high: [-1e5, 5e5],
  },
  {
    quantity: 'manifold pressure',
    name: /(\bmap\b|manifold ?(abs|pres)|intake ?press|plenum)/i,
    dimension: 'pressure',
    unitFor: (high) => pressureUnit(high),
    high: [30_000, 6e5],
  },
  {
    quantity: 'inlet air',
    name: /(\biat\b|inlet ?(air|temp)|intake ?(air )?temp|charge ?temp|\bact\b)/i,
    dimension: 'temperature',
    unitFor: temperature(75),
    high: [ABSOLUTE_ZERO, 480],
  },
  {
    quantity: 'coolant',
    name: /(coolant|\bect\b|\bclt\b|water ?temp)/i,
    dimension: 'temperature',
    unitFor: temperature(130),
    high: [ABSOLUTE_ZERO, 420],
  },
  { quantity: 'oil', name: /(oil ?temp)/i, dimension: 'temperature', unitFor: temperature(160), high: [ABSOLUTE_ZERO, 460] },
  {
    quantity: 'cylinder air',
    name: /(cyl(inder)? ?air|air ?(per|\/) ?(cyl|stroke)|air ?charge|mg ?\/ ?str)/i,
    dimension: 'mass',
    unitFor: (high) => (high > 20 ? 'mg' : 'g'),
    high: [5e-5, 3e-3],
  },
  {
    quantity: 'air mass flow',
    name: /(\bmaf\b|air ?mass|mass ?air|air ?flow)/i,
    dimension: 'massFlow',
    unitFor: (high) => (high > 400 ? 'kgh' : 'gs'),
    high: [0.005, 2],
  },
  { quantity: 'lambda', name: /lambda/i, dimension: 'plain', unitFor: () => 'one', high: [0.5, 2] },
  { quantity: 'afr', name: /(\bafr\b|air.?fuel)/i, dimension: 'plain', unitFor: () => 'one', high: [6, 30] },
  { quantity: 'speed', name: /(\bspeed\b|\bvss\b|geschwindigkeit|velocity)/i, dimension: 'speed', unitFor: () => null, high: [2, 130] },
  { quantity: 'distance', name: /(distance|odo|weg\b|travel)/i, dimension: 'length', unitFor: () => 'm' },
  { quantity: 'altitude', name: /(altitude|elevation|\balt\b|height)/i, dimension: 'length', unitFor: () => 'm' },
  { quantity: 'gear', name: /^gear\b/i, dimension: 'plain', unitFor: () => 'one', high: [1, 12] },
];

function pressureUnit(high: number): string {
  return high > 4000 ? 'Pa' : high > 400 ? 'mbar' : high > 32 ? 'kPa' : high > 20 ? 'inHg' : high > 4 ? 'psi' : 'bar';
}

/** Samples looked at to know what a column is like. */
const LOOKED_AT = 2000;

/** What a column's figures are like, from a spread of its samples. */
export function columnFacts(column: {
  readonly name: string;
  readonly unit: string;
  readonly blocks: readonly Float64Array[];
}): ColumnFacts {
  const total = column.blocks.reduce((n, b) => n + b.length, 0);
  const stride = Math.max(1, Math.floor(total / LOOKED_AT));
  const some: number[] = [];
  let offset = 0;
  for (const block of column.blocks) {
    for (let i = (stride - (offset % stride)) % stride; i < block.length; i += stride) if (Number.isFinite(block[i])) some.push(block[i]!);
    offset += block.length;
  }
  const steps = some.slice(1).map((v, i) => v - some[i]!);
  const mean = steps.length > 0 ? (some.at(-1)! - some[0]!) / steps.length : 0;
  const steady = steps.length > 8 && mean > 0 && steps.every((s) => s > 0.2 * mean && s < 5 * mean);
  const sorted = Float64Array.from(some).sort();
  return {
    name: column.name,
    unit: column.unit,
    low: sorted.length > 0 ? sortedQuantile(sorted, 0.05) : 0,
    high: sorted.length > 0 ? sortedQuantile(sorted, 0.95) : 0,
    steady,
  };
}

/** Whether a column's name speaks of something we know. */
export function isKnownName(name: string): boolean {
  return RULES.some((r) => r.name.test(name.trim()));
}

/** Dimensions in which the figures of a quantity can be. */
export function dimensionOf(quantity: Quantity): Dimension | null {
  return RULES.find((r) => r.quantity === quantity)?.dimension ?? null;
}

/** Unit a quantity is most likely in when the file does not say; null: it must be asked. */
export function likelyUnit(quantity: Quantity, high: number, low = 0): string | null {
  return RULES.find((r) => r.quantity === quantity)?.unitFor(high, low) ?? null;
}

/** The upper figures in SI (a share in percent). */
const highSI = (high: number, unit: Unit): number => (unit.dimension === 'share' ? high : toSI(high, unit));

function guessOne(column: ColumnFacts, index: number): GuessedChannel {
  const unit: Unit | null = column.unit ? unitByWord(column.unit) : null;
  for (const rule of RULES) {
    if (!rule.name.test(column.name)) continue;
    const own = unit && rule.dimension ? unitByWord(column.unit, rule.dimension) : null;
    // "Speed" in 1/min is the engine's, "Power" in N·m is a torque: a unit of another kind decides against the name.
    if (unit && rule.dimension && !own) continue;
    const id = own?.id ?? rule.unitFor(column.high, column.low);
    const range = rule.high;
    const si = id === null ? null : highSI(column.high, unitById(id));
    const odd = range !== undefined && si !== null && column.high !== 0 && (si < range[0] || si > range[1]);
    const bare = rule.dimension === 'plain';
    const doubt: Doubt | null = odd
      ? 'unit does not suit the figures'
      : own || bare
        ? null
        : id === null
          ? 'name only'
          : 'unit from the figures';
    return { column: index, quantity: rule.quantity, unit: id, confidence: odd ? 0.5 : own || bare ? 1 : id === null ? 0.6 : 0.7, doubt };
  }
  const byUnit = unit && RULES.find((r) => r.dimension === unit.dimension && ['rpm', 'power', 'torque'].includes(r.quantity));
  if (byUnit) return { column: index, quantity: byUnit.quantity, unit: unit.id, confidence: 0.6, doubt: 'name only' };
  return unknown(index);
}

const unknown = (index: number): GuessedChannel => ({ column: index, quantity: 'other', unit: null, confidence: 0, doubt: null });

/** A nameless column by its figures alone: a steady clock, or engine speed. */
function guessByFigures(column: ColumnFacts, index: number): GuessedChannel | null {
  if (!/^(column \d+)?$/i.test(column.name) || column.unit !== '') return null;
  const by = (quantity: Quantity, unit: string): GuessedChannel => ({
    column: index,
    quantity,
    unit,
    confidence: 0.3,
    doubt: 'figures only',
  });
  if (column.steady && column.low >= 0 && column.high < 1e5 && !(column.high > 2500 && column.low > 500)) return by('time', 's');
  if (column.high > 2500 && column.high < 12_000 && column.low > 400) return by('rpm', 'rpm');
  return null;
}

/** What each column probably is. Of several that could be the same quantity the surest, then the first, keeps it. */
export function guessChannels(columns: readonly ColumnFacts[]): GuessedChannel[] {
  const named = columns.map(guessOne);
  const guesses = named.map((g, i) => (g.quantity === 'other' ? (guessByFigures(columns[i]!, i) ?? g) : g));
  return guesses.map((g, i) => {
    if (g.quantity === 'other') return g;
    const better = guesses.some(
      (o, j) => o.quantity === g.quantity && (o.confidence > g.confidence || (o.confidence === g.confidence && j < i)),
    );
    return better ? unknown(i) : g;
  });
}

/** Under what a header is remembered: its names and units, however they were spaced or cased. */
export function headerSignature(columns: readonly { readonly name: string; readonly unit: string }[]): string {
  const plain = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');
  return columns.map((c) => `${plain(c.name)}[${plain(c.unit)}]`).join('|');
}

/** Figures of a channel in SI. A share stays in percent, as the sweep wants it. */
export function channelSI(values: Float64Array, channel: ChannelMap): Float64Array {
  if (channel.unit === null) return values;
  const unit = unitById(channel.unit);
  if (unit.id === 'pct' || (unit.factor === 1 && unit.offset === 0 && unit.dimension !== 'share')) return values;
  if (unit.dimension === 'share') return values.map((v) => v * unit.factor * 100);
  return values.map((v) => toSI(v, unit));
}
