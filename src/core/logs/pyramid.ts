/** Smallest and largest of every 16, 256, 4096 … samples, so that a view of any width costs a few looks and loses no spike. */
export interface Pyramid {
  readonly levels: readonly { readonly low: Float64Array; readonly high: Float64Array }[];
}

const FACTOR = 16;

/** NaN is nothing: a block of nothing but NaN is [Infinity, −Infinity]. */
export function pyramidOf(values: ArrayLike<number>): Pyramid {
  const levels: { low: Float64Array; high: Float64Array }[] = [];
  let n = Math.ceil(values.length / FACTOR);
  let low = new Float64Array(n).fill(Infinity);
  let high = new Float64Array(n).fill(-Infinity);
  for (let i = 0; i < values.length; i += 1) {
    const v = values[i]!;
    const k = (i / FACTOR) | 0;
    if (v < low[k]!) low[k] = v;
    if (v > high[k]!) high[k] = v;
  }
  levels.push({ low, high });
  while (n > 1) {
    const m = Math.ceil(n / FACTOR);
    const nextLow = new Float64Array(m).fill(Infinity);
    const nextHigh = new Float64Array(m).fill(-Infinity);
    for (let i = 0; i < n; i += 1) {
      const k = (i / FACTOR) | 0;
      if (low[i]! < nextLow[k]!) nextLow[k] = low[i]!;
      if (high[i]! > nextHigh[k]!) nextHigh[k] = high[i]!;
    }
    levels.push({ low: nextLow, high: nextHigh });
    low = nextLow;
    high = nextHigh;
    n = m;
  }
  return { levels };
}

/** Smallest and largest of the samples [from, to); both NaN where there is no figure. Writes into `out`. */
export function rangeOf(values: ArrayLike<number>, pyramid: Pyramid, from: number, to: number, out: { low: number; high: number }): void {
  let low = Infinity;
  let high = -Infinity;
  let i = from;
  while (i < to) {
    // The largest block that begins here and ends inside.
    let level = -1;
    let size = 1;
    while (level + 1 < pyramid.levels.length && i % (size * FACTOR) === 0 && i + size * FACTOR <= to) {
      size *= FACTOR;
      level += 1;
    }
    if (level < 0) {
      const v = values[i]!;
      if (v < low) low = v;
      if (v > high) high = v;
    } else {
      const at = i / size;
      const l = pyramid.levels[level]!.low[at]!;
      const h = pyramid.levels[level]!.high[at]!;
      if (l < low) low = l;
      if (h > high) high = h;
    }
    i += size;
  }
  out.low = low === Infinity ? NaN : low;
  out.high = high === -Infinity ? NaN : high;
}
