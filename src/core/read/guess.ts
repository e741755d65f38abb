import type { ChannelMap, PowerKind, Quantity } from '../documents/run';
import { medianOf } from '../numbers/moments';
import { toSI, unitById, type Dimension, type Unit } from '../units/units';
import type { ColumnFacts } from './facts';
import { kindRank, notAReading, powerKindOf, sameKind } from './power-kind';
import { obeys, powerOverTorque, unitsByRelation, type Relation } from './relation';
import { OTHER_SHAFT, RULES, ruleOf, type Rule } from './rules';
import { readUnitWord, vacuumUnit, type PressureReference } from './unit-words';

export { columnFacts, factsOf, sampledColumn, type ColumnFacts, type FoundColumn, type SampledColumn } from './facts';

/** Why a guess is not certain; the interface has a sentence for each. */
export const DOUBTS = [
  'unit from the figures',
  'unit by power and torque',
  'unit by what this engine makes',
  'unit not said',
  'figures only',
  'unit does not suit the figures',
  'power and torque disagree',
  'gauge by its figures',
  'gauge or absolute',
  'another of its kind',
  'not a reading',
  'no figures',
  'a clock of its own',
] as const;
export type Doubt = (typeof DOUBTS)[number];

export interface GuessedChannel extends ChannelMap {
  /** 1 certain by name and unit, 0.7 its unit found by other means, 0.3 by the figures alone, 0 not recognised. */
  readonly confidence: number;
  readonly doubt: Doubt | null;
  /** It counts for nothing until a person says what it is in. */
  readonly ask: boolean;
}

export interface GuessContext {
  /** Least and most peak power this car's engine can make, W: decides between units only where one alone is possible. */
  readonly engine_W?: readonly [number, number] | undefined;
}

/** What may be known of a column beyond the rule it fell under. */
interface Draft {
  readonly column: number;
  readonly facts: ColumnFacts;
  quantity: Quantity;
  unit: Unit | null;
  confidence: number;
  doubt: Doubt | null;
  ask: boolean;
  power: PowerKind | undefined;
}

/** Whether a column's name speaks of something we know. */
export function isKnownName(name: string): boolean {
  return RULES.some((r) => r.name.test(name.trim()));
}

/** Dimensions in which the figures of a quantity can be. */
export function dimensionOf(quantity: Quantity): Dimension | null {
  return ruleOf(quantity)?.dimension ?? null;
}

/** Unit a quantity is most likely in when the file does not say; null: it must be asked. */
export function likelyUnit(quantity: Quantity, high: number, low = high): string | null {
  return ruleOf(quantity)?.unitFor({ high, low, step: 0, whole: false }) ?? null;
}

/** The upper figures in SI (a share in percent). */
const highSI = (high: number, unit: Unit): number => (unit.dimension === 'share' ? high : toSI(high, unit));

const draft = (column: number, facts: ColumnFacts): Draft => ({
  column,
  facts,
  quantity: 'other',
  unit: null,
  confidence: 0,
  doubt: null,
  ask: false,
  power: undefined,
});

/** Quantities that a column is of by its unit alone, whatever it is called: a channel in hertz or volts may be anything. */
const BY_UNIT: Readonly<Record<string, Quantity>> = { rpm: 'rpm', krpm: 'rpm' };
const BY_DIMENSION: Readonly<Partial<Record<Dimension, Quantity>>> = { power: 'power', torque: 'torque' };

/**
 * Where a column's unit may stand. A name that is a unit is the unit; so is the last word of a name ("Wheel HP", "Torque Nm"), and
 * what stands before a place ("HP@wheel").
 */
function unitWords({ name, unit }: ColumnFacts): string[] {
  if (unit !== '') return [unit];
  return [name, /[\s_,/]([^\s_,/]+)$/.exec(name)?.[1] ?? '', /^([^\s@]+)\s?@/.exec(name)?.[1] ?? ''];
}

function draftOf(facts: ColumnFacts, column: number): Draft {
  const made = draft(column, facts);
  const words = unitWords(facts);
  const said = (dimension?: Dimension) => words.map((w) => (w === '' ? null : readUnitWord(w, dimension))).find((u) => u !== null) ?? null;
  const any = said();
  if (facts.ownClock) return { ...made, doubt: 'a clock of its own' };
  if (facts.count === 0) return { ...made, doubt: ruleFor(facts.name) || any ? 'no figures' : null };
  for (const rule of RULES) {
    if (!rule.name.test(facts.name)) continue;
    const own = rule.dimension ? said(rule.dimension) : null;
    // "Speed" in 1/min is the engine's, "Power" in N·m is a torque: a unit of another kind decides against the name.
    if (any && rule.dimension && !own && facts.unit !== '') continue;
    const not = notAReading(facts.name);
    if (not && rule.quantity !== 'gear') return { ...made, doubt: 'not a reading' };
    return byRule(made, rule, own?.unit ?? null, own?.reference ?? null);
  }
  const quantity = any && (BY_UNIT[any.unit.id] ?? BY_DIMENSION[any.unit.dimension]);
  // "×1000" alone says how often, not of what.
  if (!quantity || !any || (quantity === 'rpm' && (OTHER_SHAFT.test(facts.name) || /^[x×*]/.test(facts.unit)))) return made;
  if (notAReading(facts.name)) return { ...made, doubt: 'not a reading' };
  return byRule(made, ruleOf(quantity)!, any.unit, null);
}

const ruleFor = (name: string): Rule | undefined => RULES.find((r) => r.name.test(name));

function byRule(made: Draft, rule: Rule, said: Unit | null, reference: PressureReference | null): Draft {
  const { facts } = made;
  const bare = rule.dimension === 'plain' || rule.dimension === null;
  const id = said?.id ?? rule.unitFor(facts);
  const unit = id === null ? null : unitById(id);
  const power = rule.quantity === 'power' || rule.quantity === 'torque' ? kindWords(facts) : undefined;
  const found: Draft = { ...made, quantity: rule.quantity, unit, power, confidence: 1 };
  if (rule.quantity === 'boost' || rule.quantity === 'manifold pressure') {
    const sense = pressureSense(found, reference);
    if (sense) return sense;
  }
  if (unit === null) return { ...found, confidence: 0.6, doubt: 'unit not said', ask: true };
  const si = highSI(facts.high, unit);
  if (rule.high !== undefined && facts.high !== 0 && (si < rule.high[0] || si > rule.high[1]))
    return { ...found, unit: null, confidence: 0.5, doubt: 'unit does not suit the figures', ask: !bare };
  if (said || bare) return found;
  const plainly = rule.quantity === 'rpm' && unit.id === 'rpm';
  return { ...found, confidence: 0.7, doubt: plainly ? null : 'unit from the figures' };
}

/** A kind may stand in the name or behind the unit: "Power (kW, SAE)". */
function kindWords(facts: ColumnFacts): PowerKind {
  return powerKindOf(`${facts.name} ${facts.unit}`);
}

/** A running engine's manifold is never this empty, Pa. */
const EMPTIEST_Pa = 12_000;
/** Boost that never falls below this, Pa, is more likely counted from nothing than from the air outside. */
const NEVER_UNDER_Pa = 80_000;

/** What a pressure is counted from: by its unit, its name, then its figures. Null: nothing beyond the name is to be said. */
function pressureSense(found: Draft, reference: PressureReference | null): Draft | null {
  const { facts, unit } = found;
  const gauge = (more: Partial<Draft> = {}): Draft => ({ ...found, quantity: 'boost', ...more });
  if (unit === null) return null;
  if (reference === 'vacuum' || (/vac|unterdruck/i.test(facts.name) && facts.low >= 0)) {
    const down = vacuumUnit(unit) ?? (unit.factor < 0 ? unit : null);
    return down ? gauge({ unit: down }) : gauge({ unit: null, confidence: 0.6, doubt: 'unit not said', ask: true });
  }
  if (reference === 'gauge') return gauge();
  if (reference === 'absolute') return { ...found, quantity: 'manifold pressure' };
  const low = toSI(facts.low, unit);
  const doubtful: Draft = { ...found, quantity: 'other', unit: null, confidence: 0.5, doubt: 'gauge or absolute', ask: true };
  if (found.quantity === 'boost') {
    if (/abs/i.test(facts.name)) return { ...found, quantity: 'manifold pressure' };
    return low >= NEVER_UNDER_Pa ? doubtful : null;
  }
  if (/gauge|gage|\brel\b/i.test(facts.name)) return gauge();
  return low < EMPTIEST_Pa ? gauge({ confidence: 0.7, doubt: 'gauge by its figures' }) : null;
}

/** Nameless columns by their figures alone: a steady clock, engine speed, and what obeys P = T·ω beside it. */
function byFigures(drafts: readonly Draft[]): void {
  const nameless = drafts.filter((d) => d.quantity === 'other' && /^(column \d+)?$/i.test(d.facts.name) && d.facts.unit === '');
  const taken = (q: Quantity): boolean => drafts.some((d) => d.quantity === q);
  for (const d of nameless) {
    const { steady, low, high } = d.facts;
    const by = (quantity: Quantity, unit: string): void =>
      void Object.assign(d, { quantity, unit: unitById(unit), confidence: 0.3, doubt: 'figures only' });
    if (steady && low >= 0 && high < 1e5 && !(high > 2500 && low > 500) && !taken('time')) by('time', 's');
    else if (high > 2500 && high < 12_000 && low > 400 && !taken('rpm')) by('rpm', 'rpm');
  }
  const rpm = drafts.find((d) => d.quantity === 'rpm');
  const rest = nameless.filter((d) => d.quantity === 'other');
  if (!rpm || taken('power') || taken('torque')) return;
  for (const power of rest)
    for (const torque of rest) {
      if (power === torque || taken('power')) continue;
      const relation = powerOverTorque(rpm.facts.sample, power.facts.sample, torque.facts.sample);
      const pair = relation && unitsByRelation(relation, {});
      if (!pair) continue;
      Object.assign(power, { quantity: 'power', unit: pair.power, confidence: 0.3, doubt: 'figures only', power: NO_KIND });
      Object.assign(torque, { quantity: 'torque', unit: pair.torque, confidence: 0.3, doubt: 'figures only', power: NO_KIND });
    }
}

const NO_KIND: PowerKind = { at: null, carried: null };
const kindOf = (d: Draft): PowerKind => d.power ?? NO_KIND;
const byRank = (a: Draft, b: Draft): number => kindRank(kindOf(a)) - kindRank(kindOf(b)) || a.column - b.column;

/** Two kinds that both say something, and not the same. */
const differs = (a: PowerKind, b: PowerKind): boolean =>
  (a.at !== null && b.at !== null && a.at !== b.at) || (a.carried !== null && b.carried !== null && a.carried !== b.carried);

/** Of several powers one stands for the run, the nearest to what was measured; the torque beside it is of the same kind. */
function standing(drafts: readonly Draft[]): void {
  const powers = drafts.filter((d) => d.quantity === 'power').sort(byRank);
  const torques = drafts.filter((d) => d.quantity === 'torque').sort(byRank);
  const [first] = powers;
  powers.slice(1).forEach((d) => (d.quantity = 'further power'));
  // Two of one kind that say different things: which of them the run is has to be asked.
  const rivals = first ? powers.filter((d) => d !== first && sameKind(kindOf(d), kindOf(first)) && saysOther(d, first)) : [];
  if (first && rivals.length > 0)
    for (const d of [first, ...rivals])
      Object.assign(d, { quantity: 'further power', confidence: 0.5, doubt: 'another of its kind', ask: true });
  const beside = first
    ? (torques.find((t) => sameKind(kindOf(t), kindOf(first))) ?? torques.find((t) => !differs(kindOf(t), kindOf(first))))
    : torques[0];
  torques.filter((t) => t !== beside).forEach((d) => (d.quantity = 'further torque'));
}

/** Two columns apart by more than their rounding, whatever units they are in. */
function saysOther(a: Draft, b: Draft): boolean {
  const ratios = a.facts.sample.flatMap((v, i) => (b.facts.sample[i]! > 0 && v > 0 ? [v / b.facts.sample[i]!] : []));
  if (ratios.length < 2) return a.facts.sample.some(Number.isFinite) && b.facts.sample.some(Number.isFinite);
  const middle = medianOf(ratios);
  const units = a.unit && b.unit ? b.unit.factor / a.unit.factor : middle;
  return Math.abs(middle / units - 1) > 0.003 || medianOf(ratios.map((r) => Math.abs(r / middle - 1))) > 0.003;
}

const isPower = (d: Draft): boolean => d.quantity === 'power' || d.quantity === 'further power';
const isTorque = (d: Draft): boolean => d.quantity === 'torque' || d.quantity === 'further torque';

/** Units of power and torque from P = T·ω, and a word where the two do not obey it in the units they are said to be in. */
function byLaw(drafts: readonly Draft[]): void {
  const rpm = drafts.find((d) => d.quantity === 'rpm');
  if (!rpm?.unit) return;
  const speed = rpm.facts.sample.map((v) => toSI(v, rpm.unit!));
  for (const power of drafts.filter(isPower)) {
    const partners = drafts.filter(isTorque).map((torque) => ({
      torque,
      relation: powerOverTorque(speed, power.facts.sample, torque.facts.sample),
    }));
    // Of several torques the one of the power's own kind is its partner.
    const partner =
      partners.find((p) => p.relation && sameKind(kindOf(p.torque), kindOf(power))) ??
      (partners.length === 1 && partners[0]!.relation && !differs(kindOf(partners[0]!.torque), kindOf(power)) ? partners[0] : undefined);
    if (partner) settle(power, partner.torque, partner.relation!);
  }
}

function settle(power: Draft, torque: Draft, relation: Relation): void {
  const known = { power: power.unit ?? undefined, torque: torque.unit ?? undefined };
  if (known.power && known.torque) {
    if (obeys(relation, { power: known.power, torque: known.torque })) return;
    const other = unitsByRelation(relation, { torque: known.torque }) ?? unitsByRelation(relation, { power: known.power });
    // The figures obey the law exactly in another unit: one of the two headers is wrong, and nobody here can say which.
    const wrong = other !== null && power.doubt !== 'figures only';
    for (const d of [power, torque]) {
      d.doubt = 'power and torque disagree';
      d.confidence = Math.min(d.confidence, 0.5);
    }
    if (wrong) for (const d of [power, torque]) Object.assign(d, { unit: null, ask: true });
    return;
  }
  const pair = unitsByRelation(relation, known);
  if (!pair) return;
  const asLaw = { confidence: 0.7, doubt: 'unit by power and torque', ask: false } as const;
  const fits = (d: Draft, unit: Unit): boolean => {
    const range = ruleOf(d.quantity)?.high;
    const si = toSI(d.facts.high, unit);
    return !range || (si >= range[0] && si <= range[1]);
  };
  if (!fits(power, pair.power) || !fits(torque, pair.torque)) return;
  if (!power.unit) Object.assign(power, { unit: pair.power, ...asLaw });
  if (!torque.unit) Object.assign(torque, { unit: pair.torque, ...asLaw });
}

const POWER_UNITS = ['W', 'kW', 'hp', 'PS'].map(unitById);

/** The unit of a power that only one unit makes possible on this engine. */
function byEngine(drafts: readonly Draft[], engine_W: readonly [number, number]): void {
  for (const d of drafts.filter(isPower)) {
    if (d.unit || d.doubt !== 'unit not said') continue;
    const possible = POWER_UNITS.filter((u) => toSI(d.facts.high, u) >= engine_W[0] && toSI(d.facts.high, u) <= engine_W[1]);
    if (possible.length === 1)
      Object.assign(d, { unit: possible[0], confidence: 0.7, doubt: 'unit by what this engine makes', ask: false });
  }
}

/** What each column probably is. Of several that could be the same quantity the surest, then the first, keeps it. */
export function guessChannels(columns: readonly ColumnFacts[], context: GuessContext = {}): GuessedChannel[] {
  const drafts = columns.map(draftOf);
  byFigures(drafts);
  for (const d of drafts) {
    if (d.quantity === 'other' || isPower(d) || isTorque(d)) continue;
    const better = drafts.some(
      (o) => o.quantity === d.quantity && (o.confidence > d.confidence || (o.confidence === d.confidence && o.column < d.column)),
    );
    if (better) d.doubt = 'another of its kind';
  }
  for (const d of drafts)
    if (d.doubt === 'another of its kind') Object.assign(d, { quantity: 'other', unit: null, confidence: 0, ask: false });
  standing(drafts);
  byLaw(drafts);
  if (context.engine_W) byEngine(drafts, context.engine_W);
  return drafts.map(({ column, quantity, unit, confidence, doubt, ask, power }) => ({
    column,
    quantity,
    unit: unit?.id ?? null,
    ...(power && (power.at !== null || power.carried !== null) && { power }),
    confidence,
    doubt,
    ask,
  }));
}

/** Under what a header is remembered: its names and units, however they were spaced or cased. */
export function headerSignature(columns: readonly { readonly name: string; readonly unit: string }[]): string {
  const plain = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');
  return columns.map((c) => `${plain(c.name)}[${plain(c.unit)}]`).join('|');
}

/** Whether a channel's figures mean something: a quantity that has a dimension needs a unit. */
export const isSettled = (channel: ChannelMap): boolean => {
  const dimension = dimensionOf(channel.quantity);
  return channel.unit !== null || dimension === null || dimension === 'plain';
};

/** Figures of a channel in SI. A share stays in percent, as the sweep wants it. RangeError: its unit is not known. */
export function channelSI(values: Float64Array, channel: ChannelMap): Float64Array {
  if (!isSettled(channel)) throw new RangeError(`the unit of ${channel.quantity} is not known`);
  if (channel.unit === null) return values;
  const unit = unitById(channel.unit);
  if (unit.id === 'pct' || (unit.factor === 1 && unit.offset === 0 && unit.dimension !== 'share')) return values;
  if (unit.dimension === 'share') return values.map((v) => v * unit.factor * 100);
  return values.map((v) => toSI(v, unit));
}
