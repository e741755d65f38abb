import type { AnswerWord } from '@/core/inference/answer';
import { isFailure } from '@/core/failure';
import type { MeasuredEffect, StripAnalysis, StripDistance, StripMeasure, StripPart, StripWarning } from '@/core/strip/analysis';
import { PAIR_LIMITS } from '@/core/strip/passes';
import type { OddFigure } from '@/core/strip/slip-check';
import { MARKS_m, type SlipField, type SlipIssue, type TimeMark } from '@/core/documents/slip';
import type { StripVisitDoc } from '@/core/documents/strip';
import type { UnitPack } from '@/core/units/measures';
import { shownUnit } from '@/core/units/measures';
import { formatNumber, formatQuantity, formatSigned } from '@/core/units/quantity';
import { fromSI } from '@/core/units/units';
import { nextWords, widestWords, WORD_TITLES } from '@/ui/answer/inference-words';

const FEET: Readonly<Record<TimeMark, string>> = {
  t18_s: '60 ft',
  t100_s: '330 ft',
  t201_s: '⅛ mile',
  t305_s: '1,000 ft',
  t402_s: '¼ mile',
};

/** A field of the slip as the track prints it. */
export function fieldName(field: SlipField, { marks, speeds }: Pick<StripVisitDoc, 'marks' | 'speeds'>): string {
  if (field === 'reaction_s') return 'reaction';
  const unit = speeds === 'mph' ? 'mph' : 'km/h';
  if (field === 'v201_mps') return marks === 'feet' ? `⅛ mile, ${unit}` : `201 m, ${unit}`;
  if (field === 'v402_mps') return marks === 'feet' ? `¼ mile, ${unit}` : `402 m, ${unit}`;
  return marks === 'feet' ? FEET[field] : `${Math.round(MARKS_m[field])} m`;
}

/** What is wrong with a field of a slip and how to mend it. */
export function issueWords(issue: SlipIssue, visit: Pick<StripVisitDoc, 'marks' | 'speeds'>, pack: UnitPack): string {
  const speed = (mps: number): string => formatQuantity(mps, 'roadSpeed', pack, 0);
  switch (issue.code) {
    case 'order':
      return `Later marks take longer: ${fieldName(issue.after, visit)} was ${formatNumber(issue.than_s, 3)} s already. Look at the slip again.`;
    case 'too_fast':
      return `That would be ${speed(issue.speed_mps)} on average between ${formatNumber(issue.from_m, 0)} and ${formatNumber(issue.to_m, 0)} m. A digit is missing or wrong.`;
    case 'too_slow':
      return `That is walking pace (${speed(issue.speed_mps)}). A digit too many?`;
    case 'trap_high':
      return `More than ${speed(issue.most_mps)} cannot be at the end of this run. Is it in the other unit?`;
    case 'lifted':
      return `Slower than the stretch before (${speed(issue.expected_mps)}): was it lifted off? It is kept, and marked.`;
    case 'trap_low':
      return `Slower than the average before it (${speed(issue.expected_mps)}): lifted before the line? It is kept, and marked.`;
    case 'reaction':
      return 'A reaction lies between −2 and 10 s.';
  }
}

/** A figure that is far from the day's passes, asked about. */
export const oddWords = ({ typed, from, to }: Pick<OddFigure, 'typed' | 'from' | 'to'>): string =>
  `${typed}? The day’s passes run ${from} to ${to}.`;

export const MEASURE_NAMES: Readonly<Record<StripMeasure, string>> = { et_s: 'elapsed time', trap_mps: 'trap speed', sixty_s: '60 ft' };
const PART_NAMES: Readonly<Record<StripPart, string>> = {
  launch: 'the launch (60 ft)',
  traction: 'traction and gearing (60 to 330 ft)',
  power: 'power (the trap speed)',
};

/** A road speed as a bare figure in the reader's unit, and that unit's name. */
export function shownSpeed(mps: number, pack: UnitPack): { value: number; unit: string } {
  const { unit } = shownUnit('roadSpeed', pack);
  return { value: fromSI(mps, unit), unit: unit.label };
}

/** A figure of one measure in the reader's units; `signed` for a difference. */
export function measureText(measure: StripMeasure, value: number, pack: UnitPack, signed = false): string {
  if (measure !== 'trap_mps') return signed ? formatSigned(value, 3, 's') : `${formatNumber(value, 3)} s`;
  const { value: shown, unit } = shownSpeed(value, pack);
  return signed ? formatSigned(shown, 2, unit) : `${formatNumber(shown, 2)} ${unit}`;
}

/** An interval of one measure, its unit said once. */
export function intervalText(measure: StripMeasure, low: number, high: number, pack: UnitPack): string {
  if (measure !== 'trap_mps') return `${formatSigned(low, 3)} to ${formatSigned(high, 3, 's')}`;
  const { unit } = shownSpeed(low, pack);
  return `${formatSigned(shownSpeed(low, pack).value, 2)} to ${formatSigned(shownSpeed(high, pack).value, 2, unit)}`;
}

/** How alike two passes must be to be held against each other, as people read it. */
export const pairLimits = (pack: UnitPack): string =>
  `${formatQuantity(PAIR_LIMITS.densityAltitude_m, 'altitude', pack)} of density altitude and ${formatQuantity(PAIR_LIMITS.temperature_K, 'temperatureRise', pack, 0)}`;

export const answerWord = (w: AnswerWord): string => WORD_TITLES[w];

const and = (list: readonly string[]): string =>
  list.length < 2 ? (list[0] ?? '') : `${list.slice(0, -1).join(', ')} and ${list.at(-1)!}`;

/** Which part of the run moved, in words; empty where none did for certain. */
export function movedWords(moved: StripAnalysis['moved']): string {
  if (moved.length === 0) return '';
  const better = moved.filter((m) => m.better).map((m) => PART_NAMES[m.part]);
  const worse = moved.filter((m) => !m.better).map((m) => PART_NAMES[m.part]);
  return [better.length > 0 ? `Better in ${and(better)}.` : '', worse.length > 0 ? `Worse in ${and(worse)}.` : '']
    .filter(Boolean)
    .join(' ');
}

const passes = (n: number): string => `${n} ${n === 1 ? 'pass' : 'passes'}`;

/** The strip's answer and its reason, no stronger than the passes allow. The trap speed speaks for power. */
export function stripAnswer(
  a: StripAnalysis | null,
  name: string,
  pack: UnitPack,
  money: (amount: number) => string,
): { answer: string; reason: string } {
  if (!a || a.passes.length === 0)
    return {
      answer: 'No passes yet: type the first slip, or import a table of them.',
      reason: 'Passes with the stock throttle on and with the new one, in the same air if it can be had.',
    };
  const { trap_mps, et_s } = a.effects;
  const by: [StripMeasure, MeasuredEffect] | null = !isFailure(trap_mps)
    ? ['trap_mps', trap_mps]
    : !isFailure(et_s)
      ? ['et_s', et_s]
      : null;
  if (!by) {
    const missing = a.countB === 0 ? 'the new throttle' : a.countA === 0 ? 'the stock throttle' : null;
    return missing
      ? { answer: `${passes(a.passes.length)} so far, none with ${missing} on.`, reason: `Swap, and drive a pass with ${missing}.` }
      : {
          answer: `${a.countA} stock and ${a.countB} new ${a.countB === 1 ? 'pass' : 'passes'}, but no distance that both have driven.`,
          reason: 'An eighth and a quarter of a mile are never put into one pot: drive both over the same distance.',
        };
  }
  const [measure, found] = by;
  const { answer } = found;
  const interval = `95 % interval ${intervalText(measure, answer.low, answer.high, pack)}`;
  const moved = movedWords(a.moved);
  const size = (v: number): string => measureText(measure, Math.abs(v), pack);
  const [up, down] =
    measure === 'trap_mps' ? ['faster in trap speed', 'slower in trap speed'] : ['later at the line', 'sooner at the line'];
  const over = a.distance === 'quarter' ? '' : ` over ${DISTANCE_NAMES[a.distance]}`;
  const moves = `${size(answer.estimate)} ${answer.estimate >= 0 ? up : down}${over}`;
  const heads: Readonly<Record<AnswerWord, string>> = {
    gain: `Gain: ${name} is ${moves}.`,
    loss: `Loss: ${name} is ${moves}.`,
    'no difference that matters': `No difference that matters: ${name} is ${moves}.`,
    "can't tell yet": `Can’t tell yet: ${name} is ${moves}, ${intervalText(measure, answer.low, answer.high, pack)}.`,
  };
  const counted = (side: 'A' | 'B'): number => found.passes.filter((p) => p.side === side).length;
  const days = new Set(found.passes.map((p) => p.visit)).size;
  const air = found.perMetre === null ? 'the air not known for every pass, so not taken out' : 'weather corrected';
  const from = `${counted('A')} stock and ${counted('B')} new passes in ${found.stays} stays${days > 1 ? ` on ${days} days` : ''}, ${air}.`;
  const first = answer.word === "can't tell yet" ? `From ${from}` : `${interval} from ${from}`;
  const parts = [first, widestWords(answer, (half) => measureText(measure, half, pack))];
  if (a.next) {
    const range = `at most ${intervalText(measure, answer.low, answer.high, pack)}`;
    parts.push(nextWords(a.next, found.passes.at(-1)!.side, 'strip', money, range));
  }
  parts.push(moved || 'No part of the run moved for certain.');
  return { answer: heads[answer.word], reason: parts.join(' ') };
}

export const DISTANCE_NAMES: Readonly<Record<StripDistance, string>> = {
  quarter: 'the ¼ mile',
  thousand: '1,000 ft',
  eighth: 'the ⅛ mile',
};

/** Something besides the unit that went with the sides, in words. */
export function warningWords(w: StripWarning, pack: UnitPack): string {
  const by = (value: number, measure: Parameters<typeof formatQuantity>[1]): string =>
    `${formatQuantity(Math.abs(value), measure, pack)} ${value > 0 ? 'more' : 'less'} on the new side`;
  switch (w.code) {
    case 'sides_by_day':
      return 'Stock was run on one day and the new throttle on another: what the day did is not told from what the throttle did.';
    case 'one_stay':
      return 'The throttle was changed once only: put the other one on again, a swap alone can make a difference.';
    case 'lane':
      return `Stock ran mostly in the ${w.a} lane, the new throttle in the ${w.b}: lanes differ. Change them about.`;
    case 'mass':
      return `The car was weighed differently: ${by(w.apart_kg, 'mass')}.`;
    case 'tyre':
      return `Driven tyres: ${by(w.apart, 'plenum')}.`;
    case 'launch':
      return `Launch: ${by(w.apart, 'rpm')}.`;
    case 'coolant':
      return `Coolant at the start: ${formatQuantity(Math.abs(w.apart), 'temperatureRise', pack)} ${w.apart > 0 ? 'warmer' : 'cooler'} on the new side.`;
    case 'inlet':
      return `Inlet air at the start: ${formatQuantity(Math.abs(w.apart), 'temperatureRise', pack)} ${w.apart > 0 ? 'warmer' : 'cooler'} on the new side. Worth more than the effect, it says: drive again cool.`;
    case 'no_air':
      return `${passes(w.passes)} without air: no time of day, or no reading within an hour. Nothing is corrected by a guess.`;
    case 'distances':
      return `${w.others.map((o) => `${passes(o.passes)} over ${DISTANCE_NAMES[o.distance]}`).join(' and ')} stand for themselves, never in one pot with the others.`;
  }
}

/** What was taken out beside the side, in words. */
export const airWords = (e: MeasuredEffect): string =>
  e.perMetre === null
    ? 'The air of some pass is not known, so nothing was taken out for it.'
    : 'Density altitude stands beside the side as a column: never dropped, and not trusted where side and air went together.';
