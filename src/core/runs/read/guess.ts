import type { ChannelMap, Quantity } from '../../documents/run';
import { unitByWord, unitById, toSI, type Dimension, type Unit } from '../../units/units';

export interface ColumnFacts {
  readonly name: string;
  readonly unit: string;
  /** Typical largest figure of the column, in the file's unit. */
  readonly high: number;
}

export interface GuessedChannel extends ChannelMap {
  /** 1 certain by name and unit, 0.6 by name alone, 0 not recognised. */
  readonly confidence: number;
}

interface Rule {
  readonly quantity: Quantity;
  readonly name: RegExp;
  readonly dimension: Dimension | null;
  /** Unit taken when the file names none, by the size of its figures. */
  readonly unitFor: (high: number) => string | null;
}

const RULES: readonly Rule[] = [
  { quantity: 'time', name: /^(time|t|elapsed|zeit)\b/i, dimension: 'time', unitFor: () => 's' },
  { quantity: 'rpm', name: /(rpm|engine ?speed|^speed.*1\/min|drehzahl|^n$|rev)/i, dimension: 'engineSpeed', unitFor: () => 'rpm' },
  { quantity: 'torque', name: /(torque|drehmoment|tq|\bnm\b)/i, dimension: 'torque', unitFor: () => null },
  { quantity: 'power', name: /(power|\bhp\b|\bkw\b|leistung|\bpwr\b)/i, dimension: 'power', unitFor: () => null },
  { quantity: 'throttle', name: /(throttle|\btps\b|\btp\b|pedal)/i, dimension: 'share', unitFor: () => 'pct' },
  {
    quantity: 'manifold pressure',
    name: /(\bmap\b|manifold ?(abs|pres)|boost|intake ?press)/i,
    dimension: 'pressure',
    unitFor: (high) => (high > 400 ? 'mbar' : high > 30 ? 'kPa' : high > 3 ? 'psi' : 'bar'),
  },
  {
    quantity: 'inlet air',
    name: /(\biat\b|inlet ?(air|temp)|intake ?(air )?temp|charge ?temp|\bact\b)/i,
    dimension: 'temperature',
    unitFor: (high) => (high > 75 ? 'F' : 'C'),
  },
  {
    quantity: 'coolant',
    name: /(coolant|\bect\b|\bclt\b|water ?temp)/i,
    dimension: 'temperature',
    unitFor: (high) => (high > 130 ? 'F' : 'C'),
  },
  { quantity: 'air mass flow', name: /(\bmaf\b|air ?mass|mass ?air|air ?flow)/i, dimension: 'massFlow', unitFor: () => 'gs' },
  { quantity: 'lambda', name: /lambda/i, dimension: 'plain', unitFor: () => 'one' },
  { quantity: 'afr', name: /(\bafr\b|air.?fuel)/i, dimension: 'plain', unitFor: () => 'one' },
  { quantity: 'speed', name: /(\bspeed\b|\bvss\b|geschwindigkeit)/i, dimension: 'speed', unitFor: () => null },
];

/** Whether a column's name speaks of something we know. */
export function isKnownName(name: string): boolean {
  return RULES.some((r) => r.name.test(name.trim()));
}

/** Dimensions in which the figures of a quantity can be. */
export function dimensionOf(quantity: Quantity): Dimension | null {
  return RULES.find((r) => r.quantity === quantity)?.dimension ?? null;
}

/** Unit a quantity is most likely in when the file does not say; null: it must be asked. */
export function likelyUnit(quantity: Quantity, high: number): string | null {
  return RULES.find((r) => r.quantity === quantity)?.unitFor(high) ?? null;
}

function guessOne(column: ColumnFacts, index: number): GuessedChannel {
  const unit: Unit | null = column.unit ? unitByWord(column.unit) : null;
  for (const rule of RULES) {
    if (!rule.name.test(column.name)) continue;
    const own = unit && rule.dimension ? unitByWord(column.unit, rule.dimension) : null;
    // "Speed" in 1/min is the engine's, "Power" in N·m is a torque: a unit of another kind decides against the name.
    if (unit && rule.dimension && !own) continue;
    return { column: index, quantity: rule.quantity, unit: own?.id ?? rule.unitFor(column.high), confidence: own ? 1 : 0.6 };
  }
  const byUnit = unit && RULES.find((r) => r.dimension === unit.dimension && ['rpm', 'power', 'torque'].includes(r.quantity));
  if (byUnit) return { column: index, quantity: byUnit.quantity, unit: unit.id, confidence: 0.6 };
  return { column: index, quantity: 'other', unit: null, confidence: 0 };
}

/** What each column probably is. Of several that could be the same quantity the surest, then the first, keeps it. */
export function guessChannels(columns: readonly ColumnFacts[]): GuessedChannel[] {
  const guesses = columns.map(guessOne);
  return guesses.map((g, i) => {
    if (g.quantity === 'other') return g;
    const better = guesses.some(
      (o, j) => o.quantity === g.quantity && (o.confidence > g.confidence || (o.confidence === g.confidence && j < i)),
    );
    return better ? { ...g, quantity: 'other', unit: null, confidence: 0 } : g;
  });
}

/** Figures of a channel in SI. A share stays in percent, as the sweep wants it. */
export function channelSI(values: Float64Array, channel: ChannelMap): Float64Array {
  if (channel.unit === null || channel.quantity === 'throttle') return values;
  const unit = unitById(channel.unit);
  if (unit.factor === 1 && unit.offset === 0) return values;
  return values.map((v) => toSI(v, unit));
}
