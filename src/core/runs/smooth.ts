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
  const order = Uint32Array.from({ length: n }, (_, i) => i).sort((a, b) => rpm[a]! - rpm[b]!);
  const x = Float64Array.from(order, (i) => rpm[i]!);
  const y = Float64Array.from(order, (i) => value[i]!);
  const { s0, s1, s2, t0, t1 } = sums(x, y, sigma);
  for (let i = 0; i < n; i += 1) {
    const det = s0[i]! * s2[i]! - s1[i]! * s1[i]!;
    const isLine = det > DEGENERATE_SHARE * s0[i]! * s0[i]! * sigma * sigma;
    out[order[i]!] = isLine ? (s2[i]! * t0[i]! - s1[i]! * t1[i]!) / det : t0[i]! / s0[i]!;
  }
  return out;
}

/**
 * At each sample S_k = Σ w·dᵏ and T_k = Σ w·dᵏ·y over the samples around it, d away. What two samples are to each other is the
 * same from both sides but for its sign: each pair is looked at once. `x` rises.
 */
function sums(x: Float64Array, y: Float64Array, sigma: number) {
  const n = x.length;
  const reach = REACH_SIGMAS * sigma;
  const perSquare = -0.5 / (sigma * sigma);
  const s0 = new Float64Array(n).fill(1);
  const s1 = new Float64Array(n);
  const s2 = new Float64Array(n);
  const t0 = Float64Array.from(y);
  const t1 = new Float64Array(n);
  for (let i = 0; i < n; i += 1) {
    let [own0, own1, own2, ownT0, ownT1] = [0, 0, 0, 0, 0];
    for (let j = i + 1; j < n; j += 1) {
      const d = x[j]! - x[i]!;
      if (d > reach) break;
      const w = Math.exp(perSquare * d * d);
      const wd = w * d;
      own0 += w;
      own1 += wd;
      own2 += wd * d;
      ownT0 += w * y[j]!;
      ownT1 += wd * y[j]!;
      s0[j]! += w;
      s1[j]! -= wd;
      s2[j]! += wd * d;
      t0[j]! += w * y[i]!;
      t1[j]! -= wd * y[i]!;
    }
    s0[i]! += own0;
    s1[i]! += own1;
    s2[i]! += own2;
    t0[i]! += ownT0;
    t1[i]! += ownT1;
  }
  return { s0, s1, s2, t0, t1 };
}
