/** Beyond this many deviations the tail is below the smallest double. */
const FAR = 37;
/** Where the rational approximation gives way to the continued fraction. */
const NEAR = 7.07106781186547;

/** Standard normal distribution function, about 1e-15 (Hart's algorithm 5666 as given by West 2005). */
export function normalCdf(x: number): number {
  return normalCdfBy(x, Math.exp(-0.5 * x * x));
}

/** The same where e^(−x²/2) is in hand already. */
export function normalCdfBy(x: number, e: number): number {
  const a = Math.abs(x);
  if (a > FAR) return x > 0 ? 1 : 0;
  let tail: number;
  if (a < NEAR) {
    let top = 3.52624965998911e-2 * a + 0.700383064443688;
    top = top * a + 6.37396220353165;
    top = top * a + 33.912866078383;
    top = top * a + 112.079291497871;
    top = top * a + 221.213596169931;
    top = top * a + 220.206867912376;
    let bottom = 8.83883476483184e-2 * a + 1.75566716318264;
    bottom = bottom * a + 16.064177579207;
    bottom = bottom * a + 86.7807322029461;
    bottom = bottom * a + 296.564248779674;
    bottom = bottom * a + 637.333633378831;
    bottom = bottom * a + 793.826512519948;
    bottom = bottom * a + 440.413735824752;
    tail = (e * top) / bottom;
  } else {
    let fraction = a + 0.65;
    for (let k = 4; k >= 1; k -= 1) fraction = a + k / fraction;
    tail = e / fraction / 2.506628274631;
  }
  return x > 0 ? 1 - tail : tail;
}

/** Standard normal 97.5 % point: what "1.960" stands for. */
export const NORMAL_975 = 1.959963984540054;

export const ROOT_TWO_PI = 2.5066282746310002;
/** Standard normal density. */
export const normalDensity = (x: number): number => Math.exp(-0.5 * x * x) / ROOT_TWO_PI;

/** The x below which a share of the standard normal lies, to double precision: Newton's steps on the distribution itself. */
export function normalQuantile(share: number): number {
  if (!(share > 0)) return -Infinity;
  if (!(share < 1)) return Infinity;
  const tail = Math.min(share, 1 - share);
  const t = Math.sqrt(-2 * Math.log(tail));
  // Hastings' start, 4.5e-4 off at most.
  let x = t - (2.515517 + t * (0.802853 + t * 0.010328)) / (1 + t * (1.432788 + t * (0.189269 + t * 0.001308)));
  for (let i = 0; i < 4; i += 1) x -= (tail - normalCdf(-x)) / normalDensity(x);
  return share < 0.5 ? -x : x;
}
