/** Quantile of a sorted list, linear between its members (Hyndman & Fan type 7). NaN for an empty list. */
export function sortedQuantile(sorted: ArrayLike<number>, q: number): number {
  const n = sorted.length;
  if (n === 0) return NaN;
  const at = q * (n - 1);
  const below = Math.floor(at);
  const above = Math.min(n - 1, below + 1);
  return sorted[below]! + (at - below) * (sorted[above]! - sorted[below]!);
}
