import { noncentralTCdf } from '../numbers/noncentral';
import { studentQuantile } from '../numbers/student';
import type { SideMark } from '../compare/permutation';
import { effectColumns, type EffectTerm, type Pass } from './passes';

/** How sharply a set of passes tells the side apart from everything fitted with it. */
export interface Sharpness {
  /** Standard error of the side's effect for a scatter of one. */
  readonly perSd: number;
  readonly df: number;
}

/**
 * What a design of columns is worth: the length of the side's column outside all the others. Null where the side cannot be
 * told from them (all stock in the morning and all new in the afternoon, with the hour fitted).
 */
export function sharpness(columns: readonly (readonly number[])[], side = 1): Sharpness | null {
  const n = columns[0]!.length;
  const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((s, v, i) => s + v * b[i]!, 0);
  const basis: number[][] = [];
  const outside = (column: readonly number[]): number[] => {
    let v = [...column];
    for (let pass = 0; pass < 2; pass += 1)
      for (const q of basis) {
        const share = dot(q, v);
        v = v.map((x, i) => x - share * q[i]!);
      }
    return v;
  };
  columns.forEach((column, k) => {
    if (k === side) return;
    const v = outside(column);
    const length = Math.sqrt(dot(v, v));
    if (length > 1e-9 * Math.sqrt(dot(column, column))) basis.push(v.map((x) => x / length));
  });
  const rest = outside(columns[side]!);
  const length = Math.sqrt(dot(rest, rest));
  const df = n - basis.length - 1;
  return length > 1e-9 && df > 0 ? { perSd: 1 / length, df } : null;
}

/** Half width of the 95 % interval that a design gives with scatter `sd`. */
export const halfWidth = (s: Sharpness, sd: number): number => studentQuantile(0.975, s.df) * s.perSd * sd;

/** Chance that a design tells an effect from scatter `sd`, two-sided at 5 %: noncentral t, both tails. Testing basis §4. */
export function chanceOf(s: Sharpness, effect: number, sd: number): number {
  const delta = Math.abs(effect) / (sd * s.perSd);
  const limit = studentQuantile(0.975, s.df);
  return 1 - noncentralTCdf(limit, s.df, delta) + noncentralTCdf(-limit, s.df, delta);
}

export const STRIP_ORDERS = ['alternating', 'A-B-A', 'A-B'] as const;
export type StripOrder = (typeof STRIP_ORDERS)[number];

export interface StripDay {
  /** Time there is at the track, minutes; fees, money. */
  readonly hours_min: number;
  readonly perPass_min: number;
  readonly coolDown_min: number;
  readonly swap_min: number;
}

export interface StripFees {
  readonly entryFee: number;
  readonly perPassFee: number;
}

export interface PlannedStrip {
  readonly order: StripOrder;
  readonly sequence: readonly SideMark[];
  readonly minutes: number;
  readonly cost: number;
  /** How sharply the order tells; with the scatter it gives the half width of the interval and the chance. Null: it cannot tell. */
  readonly sharp: Sharpness | null;
  readonly half: number | null;
  readonly chance: number | null;
}

function sequenceOf(order: StripOrder, n: number): SideMark[] {
  if (order === 'alternating') return Array.from({ length: n }, (_, i) => (i % 2 === 0 ? 'A' : 'B'));
  const b = Math.floor(n / 2);
  if (order === 'A-B') return Array.from({ length: n }, (_, i) => (i < n - b ? 'A' : 'B'));
  const first = Math.ceil((n - b) / 2);
  return Array.from({ length: n }, (_, i) => (i < first || i >= first + b ? 'A' : 'B'));
}

const swapsOf = (sequence: readonly SideMark[]): number => sequence.filter((s, i) => i > 0 && s !== sequence[i - 1]).length;

/** Minutes a sequence takes: cooling down while the unit is swapped counts once. */
function minutesOf(sequence: readonly SideMark[], day: StripDay): number {
  return sequence.reduce((t, s, i) => {
    const wait = i === 0 ? 0 : s === sequence[i - 1] ? day.coolDown_min : Math.max(day.coolDown_min, day.swap_min);
    return t + wait + day.perPass_min;
  }, 0);
}

/** Nobody drives more passes in a day. */
const MOST_PASSES = 40;

/**
 * A day at the strip in each order: as many passes as the hours allow, and what they would tell of an effect while the
 * track and the air change steadily through the day (a term for the order is fitted with the side). Testing basis §4.
 */
export function plannedStrips(day: StripDay, fees: StripFees, effect: number, sd: number): PlannedStrip[] {
  return STRIP_ORDERS.map((order) => {
    let sequence: SideMark[] = [];
    for (let n = 2; n <= MOST_PASSES; n += 1) {
      const next = sequenceOf(order, n);
      if (minutesOf(next, day) > day.hours_min) break;
      sequence = next;
    }
    const s =
      sequence.length < 4
        ? null
        : sharpness([
            sequence.map(() => 1),
            sequence.map((x) => (x === 'B' ? 1 : 0)),
            sequence.map((_, i) => i - (sequence.length - 1) / 2),
          ]);
    return {
      order,
      sequence,
      minutes: minutesOf(sequence, day),
      cost: fees.entryFee + fees.perPassFee * sequence.length,
      sharp: s,
      half: s && halfWidth(s, sd),
      chance: s && chanceOf(s, effect, sd),
    };
  });
}

/** The order that tells most; of equals the one with the fewest swaps. Null where none tells anything. */
export function bestStrip(plans: readonly PlannedStrip[]): PlannedStrip | null {
  const able = plans.filter((p) => p.chance !== null);
  if (able.length === 0) return null;
  return able.reduce((best, p) => {
    const more = p.chance! - best.chance!;
    return more > 0.02 || (more > -0.02 && swapsOf(p.sequence) < swapsOf(best.sequence)) ? p : best;
  });
}

export interface NextPass {
  readonly side: SideMark;
  readonly sharp: Sharpness;
  /** Half width of the interval after one more pass on this side, at the day's air. */
  readonly half: number;
}

/**
 * What the next pass would tell: the interval's half width after one more on either side, with the scatter seen so far.
 * The sharper one first. Empty while nothing can be said.
 */
export function nextPass(passes: readonly Pass[], terms: readonly EffectTerm[], sd: number): NextPass[] {
  const last = passes.at(-1);
  if (!last || !(sd > 0)) return [];
  return (['A', 'B'] as const)
    .flatMap((side) => {
      const s = sharpness(effectColumns([...passes, { ...last, side }], terms));
      return s ? [{ side, sharp: s, half: halfWidth(s, sd) }] : [];
    })
    .sort((x, y) => x.half - y.half);
}
