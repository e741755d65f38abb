/** Beyond this many deviations the tail is below the smallest double. */
const FAR = 37;
/** Where the rational approximation gives way to the continued fraction. */
const NEAR = 7.07106781186547;

/** Standard normal distribution function, about 1e-15 (Hart's algorithm 5666 as given by West 2005). */
export function normalCdf(x: number): number {
  const a = Math.abs(x);
  if (a > FAR) return x > 0 ? 1 : 0;
  const e = Math.exp((-a * a) / 2);
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
