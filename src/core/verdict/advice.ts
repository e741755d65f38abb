import { breaking, type Confounder } from '../compare/confounders';
import type { AnswerWord, SidesAnswer } from '../inference/answer';
import type { NextAnswer } from '../inference/next';
import type { SideComparison, Stretch } from '../compare/sides';
import type { AdviceWord } from '../documents/verdict';
import { isFailure, type Failure } from '../failure';
import { mannersApart, type SideManners } from '../logs/side-manners';
import type { StripAnalysis, StripPart } from '../strip/analysis';

/** Something that is wrong with the car as it stands and can be mended. */
export type Fault =
  | { readonly code: 'idle_hunts'; readonly every_s: number; readonly by_rpm: number }
  | { readonly code: 'idle_rough'; readonly spread_rpm: number; readonly was_rpm: number }
  | { readonly code: 'lazy'; readonly air_s: number; readonly was_s: number }
  | { readonly code: 'idle_floor'; readonly floor_rpm: number; readonly idle_rpm: number }
  | { readonly code: 'lip'; readonly overhang_m: number };

/** Why the advice is what it is, each with its figures; the sentence is the interface's. */
export type Reason =
  | { readonly code: 'nothing_run' }
  | { readonly code: 'unfair'; readonly confounder: Confounder }
  | { readonly code: 'dyno'; readonly word: AnswerWord; readonly stretch: Stretch; readonly threshold_pct: number }
  | { readonly code: 'clear'; readonly comparison: SideComparison }
  | { readonly code: 'used'; readonly stretch: Stretch }
  | {
      readonly code: 'strip';
      readonly word: AnswerWord;
      readonly trap_mps: number;
      readonly low_mps: number;
      readonly high_mps: number;
      readonly passes: number;
    }
  | { readonly code: 'strip_moved'; readonly moved: readonly { readonly part: StripPart; readonly better: boolean }[] }
  /** What would tell next: cheapest step that is as likely as not, on the dyno or at the strip. */
  | {
      readonly code: 'next_runs' | 'next_passes';
      readonly next: NextAnswer;
      readonly last: 'A' | 'B';
      readonly low: number;
      readonly high: number;
    }
  /** The width rests on an assumed size more than on anything that was measured. */
  | { readonly code: 'assumed'; readonly answer: SidesAnswer }
  /** The inlet air is worth more than the whole difference: it has to be run again cool. */
  | { readonly code: 'rerun_cool'; readonly by_K: number; readonly worth_pct: number }
  | { readonly code: 'predicted'; readonly predicted_pct: number; readonly measured_pct: number; readonly within: boolean }
  | { readonly code: 'inlet'; readonly by_K: number; readonly worth_pct: number }
  | { readonly code: 'elsewhere'; readonly part: string; readonly gain_pct: number }
  | { readonly code: 'fault'; readonly fault: Fault };

export interface Advice {
  readonly word: AdviceWord;
  readonly faults: readonly Fault[];
  readonly reasons: readonly Reason[];
}

export interface AdviceInput {
  readonly comparison: SideComparison | null;
  /** The band driven between changes, where the engine spends its time. */
  readonly driven: Stretch | null;
  readonly confounders: readonly Confounder[];
  readonly strip: StripAnalysis | null;
  readonly manners: { readonly stock: SideManners; readonly other: SideManners } | null;
  readonly inletAir: { readonly a_K: number; readonly b_K: number } | null;
  /** Idle of the car and the lowest its new blade can hold; null: not known. */
  readonly idle_rpm: number;
  readonly idleFloor_rpm: number | null;
  /** How far the throttle's bore stands over the opening, m; above nothing it is a lip in the flow. */
  readonly lip_m: number | null;
  readonly predicted_pct: number | null;
  /** The next restriction and what taking it away would bring. */
  readonly next: { readonly name: string; readonly gain_pct: number } | null;
}

/** An answer that rests on an assumed size for the better part of its width. */
const restsOnAssumption = (a: SidesAnswer): boolean => a.widestIs === 'assumed' && a.shares[a.widest] >= 0.5;

/** Inlet air farther apart than this between the sides is worth telling: the day's doing, or the change's own. */
const APART_K = 3;
/** A lip smaller than this is a chamfer. */
const LIP_m = 0.0004;

function faultsOf(i: AdviceInput): Fault[] {
  const found: Fault[] = [];
  if (i.manners) {
    const { stock, other } = i.manners;
    const apart = mannersApart(stock, other);
    const rises = (d: typeof apart.air_s): boolean => typeof d === 'number' && d > 0;
    if (other.hunting_s !== null && stock.hunting_s === null && stock.logs > 0)
      found.push({ code: 'idle_hunts', every_s: other.hunting_s, by_rpm: other.huntingBy_rpm ?? 0 });
    else if (rises(apart.spread_rpm)) found.push({ code: 'idle_rough', spread_rpm: other.spread_rpm!, was_rpm: stock.spread_rpm! });
    if (rises(apart.air_s)) found.push({ code: 'lazy', air_s: other.air_s!, was_s: stock.air_s! });
  }
  // What was logged at idle outweighs what the blade's gap leads one to expect.
  const logged = i.manners?.other.idle_rpm !== null && i.manners?.other.idle_rpm !== undefined;
  if (!logged && i.idleFloor_rpm !== null && i.idleFloor_rpm > i.idle_rpm)
    found.push({ code: 'idle_floor', floor_rpm: i.idleFloor_rpm, idle_rpm: i.idle_rpm });
  if (i.lip_m !== null && i.lip_m > LIP_m) found.push({ code: 'lip', overhang_m: i.lip_m });
  return found;
}

type Trap = Exclude<StripAnalysis['effects']['trap_mps'], Failure>;

/** What a fair comparison on the dyno says, and what it rests on. */
function dynoReasons(fair: SideComparison): Reason[] {
  const { answer } = fair.deciding;
  const found: Reason[] = [];
  if (fair.word !== "can't tell yet" && restsOnAssumption(answer)) found.push({ code: 'assumed', answer });
  found.push({ code: 'dyno', word: fair.word, stretch: fair.deciding, threshold_pct: fair.threshold_pct });
  if (fair.clear.length > 0 && fair.word !== 'gain' && fair.word !== 'loss') found.push({ code: 'clear', comparison: fair });
  return found;
}

function stripReasons(strip: StripAnalysis, trap: Trap | null): Reason[] {
  const found: Reason[] = [];
  if (trap) {
    const { word, estimate, low, high } = trap.answer;
    found.push({ code: 'strip', word, trap_mps: estimate, low_mps: low, high_mps: high, passes: strip.countA + strip.countB });
  }
  if (strip.moved.length > 0) found.push({ code: 'strip_moved', moved: strip.moved });
  return found;
}

/** What the inlet air differed by between the sides and what that is worth; whether it is to be told, and whether it decides. */
function inletOf(air: AdviceInput['inletAir'], fair: SideComparison | null) {
  const by_K = air ? air.b_K - air.a_K : 0;
  const worth_pct = air ? (-50 * by_K) / air.a_K : 0;
  const told = fair !== null && Math.abs(by_K) > APART_K;
  // Air that is worth more than the whole difference decides nothing: cool first, then run again.
  return { by_K, worth_pct, told, rerun: told && Math.abs(worth_pct) > Math.abs(fair.deciding.mean_pct) };
}

function predictedReason(fair: SideComparison, predicted_pct: number): Reason {
  const { mean_pct, answer } = fair.deciding;
  return { code: 'predicted', predicted_pct, measured_pct: mean_pct, within: predicted_pct >= answer.low && predicted_pct <= answer.high };
}

/** What would tell, where it cannot be told yet: runs, unless they are to be run again cool, and passes. */
function nextReasons(fair: SideComparison | null, strip: StripAnalysis | null, trap: Trap | null): Reason[] {
  const of = (code: 'next_runs' | 'next_passes', next: NextAnswer, { answer }: Trap | Stretch, last: 'A' | 'B'): Reason => ({
    code,
    next,
    last,
    low: answer.low,
    high: answer.high,
  });
  return [
    ...(fair?.next ? [of('next_runs', fair.next, fair.deciding, fair.deciding.runs.at(-1)!.side)] : []),
    ...(trap && strip?.next ? [of('next_passes', strip.next, trap, trap.passes.at(-1)!.side)] : []),
  ];
}

/** The next restriction, where taking it away brings more than was gained. */
const elsewhere = (next: AdviceInput['next'], gained_pct: number): Reason[] =>
  next && next.gain_pct > Math.max(0.5, gained_pct) ? [{ code: 'elsewhere', part: next.name, gain_pct: next.gain_pct }] : [];

/**
 * Keep it, keep it but fix something, go back to stock, or test more, with every reason. What was measured decides; the model
 * only speaks beside it. An unfair comparison decides nothing. Testing basis §5.
 */
export function adviseOn(i: AdviceInput): Advice {
  const { comparison, strip } = i;
  const [broken] = breaking(i.confounders);
  const trap = strip && !isFailure(strip.effects.trap_mps) ? strip.effects.trap_mps : null;
  const fair = broken === undefined ? comparison : null;
  const used = fair ? i.driven : null;
  const words = [fair?.word, trap?.answer.word].filter((w) => w !== undefined);
  const faults = faultsOf(i);
  const { rerun, told, ...air } = inletOf(i.inletAir, fair);
  const word = rerun && trap === null ? 'more' : wordOf(words, fair, used, faults);
  const reasons: Reason[] = [];
  if (comparison && broken) reasons.push({ code: 'unfair', confounder: broken });
  if (fair) reasons.push(...dynoReasons(fair));
  if (strip) reasons.push(...stripReasons(strip, trap));
  if (!comparison && !trap) reasons.push({ code: 'nothing_run' });
  if (used && fair && fair.deciding.id !== used.id && words.every((w) => w !== 'gain')) reasons.push({ code: 'used', stretch: used });
  if (rerun) reasons.push({ code: 'rerun_cool', ...air });
  if (word === 'more') reasons.push(...nextReasons(rerun ? null : fair, strip, trap));
  if (fair && i.predicted_pct !== null) reasons.push(predictedReason(fair, i.predicted_pct));
  if (told && !rerun) reasons.push({ code: 'inlet', ...air });
  for (const fault of faults) reasons.push({ code: 'fault', fault });
  reasons.push(...elsewhere(i.next, fair?.deciding.mean_pct ?? 0));
  return { word, faults: word === 'back' ? [] : faults, reasons };
}

function wordOf(words: readonly AnswerWord[], c: SideComparison | null, used: Stretch | null, faults: readonly Fault[]): AdviceWord {
  const kept: AdviceWord = faults.length > 0 ? 'fix' : 'keep';
  if (words.length === 0) return 'more';
  const gain = words.includes('gain');
  const loss = words.includes('loss');
  if (gain && loss) return 'more';
  if (loss) return 'back';
  if (gain) return kept;
  // Better in one place and worse in another: where the engine is driven decides.
  if (c && c.clear.length > 0 && used) {
    if (used.answer.word === 'gain') return kept;
    return used.answer.word === 'loss' ? 'back' : 'more';
  }
  return words.includes("can't tell yet") ? 'more' : 'back';
}
