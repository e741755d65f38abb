/** Index of the largest member, the first of equals; 0 for an empty list. */
export function peakIndex(list: ArrayLike<number>): number {
  let best = 0;
  for (let i = 1; i < list.length; i += 1) if (list[i]! > list[best]!) best = i;
  return best;
}

/** The largest member; −Infinity for an empty list. */
export const peakOf = (list: ArrayLike<number>): number => (list.length === 0 ? -Infinity : list[peakIndex(list)]!);

/** How much higher one curve's peak stands than another's, %, wherever in the range each has it. */
export const peakGain = (curve: ArrayLike<number>, over: ArrayLike<number>): number => 100 * (peakOf(curve) / peakOf(over) - 1);
