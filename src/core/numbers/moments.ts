/** Arithmetic mean; NaN of nothing. */
export function meanOf(values: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < values.length; i += 1) sum += values[i]!;
  return sum / values.length;
}

/** Variance of a sample about its own mean, n − 1 in the denominator; NaN of fewer than two. */
export function varianceOf(values: ArrayLike<number>): number {
  const mean = meanOf(values);
  let squares = 0;
  for (let i = 0; i < values.length; i += 1) squares += (values[i]! - mean) ** 2;
  return values.length < 2 ? NaN : squares / (values.length - 1);
}

/** Median of the finite members; NaN where there is none. */
export function medianOf(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(Array.from(values).filter(Number.isFinite)).sort();
  const n = sorted.length;
  if (n === 0) return NaN;
  return n % 2 === 1 ? sorted[(n - 1) / 2]! : 0.5 * (sorted[n / 2 - 1]! + sorted[n / 2]!);
}
