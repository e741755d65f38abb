/*
 * Student's t by the regularised incomplete beta function (continued fraction, modified Lentz; Numerical Recipes §6.4).
 * Accurate to about 1e-14 over the degrees of freedom that runs have.
 */
const { abs, exp, log, log1p } = Math;

const LANCZOS = [
  0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905,
  -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
];

/** ln Γ(x), x > 0, by Lanczos's series (g = 7, n = 9). */
export function logGamma(x: number): number {
  const z = x - 1;
  let sum = LANCZOS[0]!;
  for (let i = 1; i < LANCZOS.length; i += 1) sum += LANCZOS[i]! / (z + i);
  const t = z + 7.5;
  return 0.5 * log(2 * Math.PI) + (z + 0.5) * log(t) - t + log(sum);
}

const TINY = 1e-300;

function betaFraction(a: number, b: number, x: number): number {
  let c = 1;
  let d = 1 / (1 - ((a + b) * x) / (a + 1) || TINY);
  let h = d;
  for (let m = 1; m <= 500; m += 1) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / (1 + even * d || TINY);
    c = 1 + even / c || TINY;
    h *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / (1 + odd * d || TINY);
    c = 1 + odd / c || TINY;
    const step = d * c;
    h *= step;
    if (abs(step - 1) < 1e-16) break;
  }
  return h;
}

/** Regularised incomplete beta function I_x(a, b). */
export function regularisedBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * log(x) + b * log1p(-x));
  return x < (a + 1) / (a + b + 2) ? (front * betaFraction(a, b, x)) / a : 1 - (front * betaFraction(b, a, 1 - x)) / b;
}

/** Probability of a Student t with `df` degrees of freedom lying below `t`. */
export function studentCdf(t: number, df: number): number {
  const tail = 0.5 * regularisedBeta(df / (df + t * t), df / 2, 0.5);
  return t > 0 ? 1 - tail : tail;
}

/** Density of a Student t. */
function studentDensity(t: number, df: number): number {
  const density = logGamma((df + 1) / 2) - logGamma(df / 2) - 0.5 * log(df * Math.PI) - ((df + 1) / 2) * log1p((t * t) / df);
  return exp(density);
}

/**
 * Value below which a Student t with `df` degrees of freedom lies with probability `p` (0 < p < 1): Newton's steps inside a
 * bracket that closes in, so that the far tails of few degrees of freedom are found too.
 */
export function studentQuantile(p: number, df: number): number {
  if (!(p > 0 && p < 1) || !(df > 0)) throw new RangeError('quantile needs 0 < p < 1 and df > 0');
  if (p < 0.5) return -studentQuantile(1 - p, df);
  let high = 1;
  while (studentCdf(high, df) < p && high < 1e9) high *= 2;
  let low = 0;
  let x = 0.5 * (low + high);
  for (let i = 0; i < 200 && high - low > 1e-15 * high; i += 1) {
    const over = studentCdf(x, df) - p;
    if (over < 0) low = x;
    else high = x;
    const next = x - over / studentDensity(x, df);
    if (abs(next - x) <= 2e-15 * x) return next;
    x = next > low && next < high ? next : 0.5 * (low + high);
  }
  return x;
}
