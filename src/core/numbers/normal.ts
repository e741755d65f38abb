/** Beyond this many deviations the series loses its digits and the tail is below 1e-15. */
const FAR = 8;

/** Standard normal distribution function by Marsaglia's series (J. Stat. Software 11/4, 2004); about 1e-15. */
export function normalCdf(x: number): number {
  if (x > FAR) return 1;
  if (x < -FAR) return 0;
  let term = x;
  let sum = x;
  for (let k = 3; Math.abs(term) > 1e-17 * Math.abs(sum) && k < 400; k += 2) {
    term *= (x * x) / k;
    sum += term;
  }
  return 0.5 + (sum * Math.exp(-0.5 * x * x)) / Math.sqrt(2 * Math.PI);
}

/** Standard normal 97.5 % point: what "1.960" stands for. */
export const NORMAL_975 = 1.959963984540054;
