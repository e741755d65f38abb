import type { AnswerWord } from '../inference/answer';

/** Why no price is put on the gain although the money is known. */
export type Unpriced = 'unfair' | "can't tell yet" | 'nothing gained' | 'no price';

/** What a change cost and what it gained, with the interval of the gain. */
export interface GainCost {
  readonly parts: number;
  readonly fitting: number;
  readonly testing: number;
  readonly total: number;
  readonly gain_W: number;
  readonly low_W: number;
  readonly high_W: number;
  /** Money per watt; null where it is not told, `unpriced` saying why. */
  readonly perW: number | null;
  readonly unpriced: Unpriced | null;
  /** Its bounds: dear end null where the gain's interval reaches nothing. */
  readonly cheap: number | null;
  readonly dear: number | null;
}

/** Whether a gain may be priced: a fair test told it, and what was put on has a price. */
function unpriced(gain: { readonly gain_W: number; readonly word: AnswerWord; readonly fair: boolean }, priced: boolean): Unpriced | null {
  if (!gain.fair) return 'unfair';
  if (gain.word === "can't tell yet") return "can't tell yet";
  if (gain.word !== 'gain' || gain.gain_W <= 0) return 'nothing gained';
  return priced ? null : 'no price';
}

/**
 * Cost per gained watt of parts, fitting and testing, with the gain's interval: only of a gain that a fair comparison told, and
 * only where the unit itself has a price (`unit` null: none entered). Testing basis §5.
 */
export function gainCost(
  cost: { readonly unit: number | null; readonly otherParts: number; readonly fitting: number; readonly testing: number },
  gain: {
    readonly gain_W: number;
    readonly low_W: number;
    readonly high_W: number;
    readonly word: AnswerWord;
    readonly fair: boolean;
  },
): GainCost {
  const parts = (cost.unit ?? 0) + cost.otherParts;
  const { fitting, testing } = cost;
  const { gain_W, low_W, high_W } = gain;
  const total = parts + fitting + testing;
  const why = unpriced(gain, cost.unit !== null);
  const per = (w: number): number | null => (why === null && w > 0 ? total / w : null);
  return { parts, fitting, testing, total, gain_W, low_W, high_W, perW: per(gain_W), unpriced: why, cheap: per(high_W), dear: per(low_W) };
}
