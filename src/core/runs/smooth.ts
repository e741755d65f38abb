/** Full widths at half maximum offered, rpm. */
export const SMOOTHING_WIDTHS_rpm = [0, 50, 100, 200, 400] as const;

/** A Gaussian falls to 3e-18 of its height at 9 σ: below rounding, and its u²-fold far below the degenerate test's 1e-9 share. */
const REACH_SIGMAS = 9;
/** Share of S₀²σ² under which the local line is not determined and the weighted mean is taken. */
const DEGENERATE_SHARE = 1e-9;

/**
 * Local straight line under a Gaussian of engine speed, at the samples' own rpm: a plain weighted mean would bend the last
 * half width of a run. `fwhm_rpm` 0 leaves the values as they are. Testing basis §1.
 */
export function smoothOverRpm(rpm: ArrayLike<number>, value: ArrayLike<number>, fwhm_rpm: number): Float64Array {
  const n = rpm.length;
  const out = Float64Array.from(value);
  if (!(fwhm_rpm > 0)) return out;
  const sigma = fwhm_rpm / (2 * Math.sqrt(2 * Math.LN2));
  const reach = REACH_SIGMAS * sigma;
  const order = Uint32Array.from({ length: n }, (_, i) => i).sort((a, b) => rpm[a]! - rpm[b]!);
  const x = Float64Array.from(order, (i) => rpm[i]!);
  const y = Float64Array.from(order, (i) => value[i]!);
  let lo = 0;
  let hi = 0;
  for (let k = 0; k < n; k += 1) {
    while (x[lo]! < x[k]! - reach) lo += 1;
    while (hi < n && x[hi]! <= x[k]! + reach) hi += 1;
    out[order[k]!] = localLine(x, y, lo, hi, x[k]!, sigma);
  }
  return out;
}

function localLine(x: Float64Array, y: Float64Array, lo: number, hi: number, at: number, sigma: number): number {
  let s0 = 0;
  let s1 = 0;
  let s2 = 0;
  let t0 = 0;
  let t1 = 0;
  for (let j = lo; j < hi; j += 1) {
    const d = x[j]! - at;
    const u = d / sigma;
    const w = Math.exp(-0.5 * u * u);
    s0 += w;
    s1 += w * d;
    s2 += w * d * d;
    t0 += w * y[j]!;
    t1 += w * d * y[j]!;
  }
  const det = s0 * s2 - s1 * s1;
  return det <= DEGENERATE_SHARE * s0 * s0 * sigma * sigma ? t0 / s0 : (s2 * t0 - s1 * t1) / det;
}
