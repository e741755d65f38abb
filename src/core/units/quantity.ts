import { besideFlow, MEASURES, ofTheAir, shownUnit, type MeasureName, type UnitPack } from './measures';
import { groupOfThree } from './usual';
import { airVolumeByWord, fromSI, isVacuum, toSI, unitByWord, UNITS, type Dimension, type Unit } from './units';

export type ParseIssue =
  | { readonly code: 'empty' }
  | { readonly code: 'not_a_number'; readonly text: string }
  | { readonly code: 'unknown_unit'; readonly word: string; readonly known: readonly string[] };

export type Parsed =
  | {
      readonly ok: true;
      readonly si: number;
      readonly unit: Unit;
      /** The figure could be read in two ways: how it was, and how it could have been meant, in its unit. */
      readonly two?: { readonly value: number; readonly also: number };
      /** Typed without a unit. */
      readonly bare?: boolean;
    }
  | { readonly ok: false; readonly issue: ParseIssue };

const NUMBER = /^([+-]?)(?:(\d+)[ -](\d+)\/(\d+)|(\d+)\/(\d+)|(\d[\d.,' \u00a0\u202f]*|[.,]\d+)(e[+-]?\d+)?)/i;

/**
 * One number as people write it: "60", "1 234,5", "6,400" (thousands when engine speed), "2 3/8", "1.2e-3".
 * Returns the value and what follows it, or null.
 */
export function readNumber(text: string, dimension?: Dimension): { value: number; rest: string } | null {
  const match = NUMBER.exec(text.trim());
  if (!match) return null;
  const [all, sign, whole, top, bottom, top2, bottom2, plain, exponent] = match;
  const rest = text.trim().slice(all.length).trim();
  let value: number;
  if (top !== undefined) value = Number(whole) + Number(top) / Number(bottom);
  else if (top2 !== undefined) value = Number(top2) / Number(bottom2);
  else value = Number(plainNumber(plain!.trim(), dimension) + (exponent ?? ''));
  if (!Number.isFinite(value)) return null;
  return { value: sign === '-' ? -value : value, rest };
}

/** Thousands separators out, decimal separator to a point. */
function plainNumber(text: string, dimension: Dimension | undefined): string {
  const bare = text.replace(/['\s\u00a0\u202f]/g, '');
  const comma = bare.lastIndexOf(',');
  const point = bare.lastIndexOf('.');
  if (comma >= 0 && point >= 0) return comma > point ? bare.replace(/\./g, '').replace(',', '.') : bare.replace(/,/g, '');
  if (comma < 0) return bare;
  const groups = /^\d{1,3}(,\d{3})+$/.test(bare);
  if (groups && (dimension === 'engineSpeed' || bare.indexOf(',') !== comma)) return bare.replace(/,/g, '');
  return bare.replace(',', '.');
}

/** Reads a figure in any unit of the measure's dimension; without a unit, in the one the pack shows. */
export function parseQuantity(text: string, measure: MeasureName, pack: UnitPack): Parsed {
  const { dimension } = MEASURES[measure];
  if (text.trim() === '') return { ok: false, issue: { code: 'empty' } };
  const plain = text
    .replace('−', '-')
    .replace(/^(.*\d)\s*(psi|bar|kpa)[\s-]*\(?a(?:bs)?\)?\s*$/i, measure === 'barometer' ? '$1 $2' : '$&');
  const two = groupOfThree(plain, measure, (rest) => (rest === '' ? shownUnit(measure, pack).unit : unitByWord(rest, dimension)));
  const number = two ?? readNumber(plain, dimension);
  if (number === null) return { ok: false, issue: { code: 'not_a_number', text: text.trim() } };
  const told = two && two.also !== null ? { two: { value: two.value, also: two.also } } : {};
  if (number.rest === '') {
    const { unit } = shownUnit(measure, pack);
    return { ok: true, si: toSI(number.value, unit), unit, bare: true, ...told };
  }
  const word = unitByWord(number.rest, dimension) ?? (dimension === 'massFlow' ? airVolumeByWord(number.rest) : null);
  const unit = word && ofTheAir(word, pack);
  if (unit === null) {
    const known = UNITS.filter((x) => x.dimension === dimension && x.label !== '' && !isVacuum(x)).map((x) => x.label);
    return { ok: false, issue: { code: 'unknown_unit', word: number.rest, known } };
  }
  return { ok: true, si: toSI(number.value, unit), unit, ...told };
}

const THIN_SPACE = '\u202f';
const MINUS = '\u2212';

/** Thousands commas by hand: a page shows hundreds of figures, and the platform's own way takes twenty times as long. */
function grouped(text: string): string {
  const point = text.indexOf('.');
  let at = (point < 0 ? text.length : point) - 3;
  // What is no plain figure (infinite, or larger than anybody writes out) stays as it is.
  if (at <= 0 || !/^\d/.test(text) || text.includes('e')) return text;
  let out = text;
  for (; at > 0; at -= 3) out = `${out.slice(0, at)},${out.slice(at)}`;
  return out;
}

/** Figure with thousands commas and a true minus; −0 never shows. */
export function formatNumber(value: number, decimals: number): string {
  const rounded = Number(value.toFixed(decimals));
  const text = grouped(Math.abs(rounded).toFixed(decimals));
  return rounded < 0 ? MINUS + text : text;
}

export interface Shown {
  readonly number: string;
  readonly unit: string;
}

/** A figure in the pack's unit, number and unit apart. `decimals` overrides the measure's own. */
export function showQuantity(si: number, measure: MeasureName, pack: UnitPack, decimals?: number): Shown {
  const shown = shownUnit(measure, pack);
  return { number: formatNumber(fromSI(si, shown.unit), decimals ?? shown.decimals), unit: shown.unit.label };
}

/** The sign of money where a shop has not said another. */
export const EURO = '€';

/** An amount with its currency's sign before it. Amounts are never converted: the sign is all a shop chooses. */
export const formatMoney = (value: number, sign = EURO, decimals = 0): string => `${sign}${THIN_SPACE}${formatNumber(value, decimals)}`;

/** An amount as it was typed, without its currency's sign before or behind it. */
export function withoutSign(text: string, sign: string): string {
  const bare = text.trim();
  const [typed, wanted] = [bare.toLowerCase(), sign.toLowerCase()];
  if (typed.startsWith(wanted)) return bare.slice(sign.length).trim();
  return typed.endsWith(wanted) ? bare.slice(0, -sign.length).trim() : text;
}

/** An air flow with the other way of telling it beside it: "312 cfm (22.8 lb/min)". */
export function formatAirFlow(si: number, pack: UnitPack): string {
  const { unit, decimals } = besideFlow(pack);
  return `${formatQuantity(si, 'massFlow', pack)} (${formatNumber(fromSI(si, unit), decimals)} ${unit.label})`;
}

/** A figure in the pack's unit as one text: "97.2 kPa". */
export function formatQuantity(si: number, measure: MeasureName, pack: UnitPack, decimals?: number): string {
  const { number, unit } = showQuantity(si, measure, pack, decimals);
  if (unit === '') return number;
  if (unit === EURO) return `${unit}${THIN_SPACE}${number}`;
  return unit === '°' ? `${number}${unit}` : `${number} ${unit}`;
}

/** A field shows at most so many decimals more than its measure has. */
export const MORE_DECIMALS = 2;

/**
 * What a field shows of a figure: the measure's decimals, or one or two more where it was given with them (8.2° where angles are
 * whole degrees), so that it shows what is reckoned with. A figure out of another unit has no end of decimals and gets the measure's.
 */
export function fieldText(si: number, measure: MeasureName, pack: UnitPack): string {
  const { unit, decimals } = shownUnit(measure, pack);
  const value = fromSI(si, unit);
  const slack = 1e-9 * Math.max(1, Math.abs(value));
  for (let more = 0; more <= MORE_DECIMALS; more += 1) {
    const text = value.toFixed(decimals + more);
    if (Math.abs(Number(text) - value) <= slack) return text;
  }
  return value.toFixed(decimals);
}

/** "+1.9 %" with a true sign; the value is in percent. */
export function formatSigned(value: number, decimals: number, unit = ''): string {
  const text = formatNumber(value, decimals);
  const sign = Number(value.toFixed(decimals)) > 0 ? '+' : '';
  return unit ? `${sign}${text} ${unit}` : `${sign}${text}`;
}
