import { normalCdf } from './normal';
import { logGamma } from './student';

const { exp, log, sqrt } = Math;

/** Even number of Simpson's steps over the chi distribution: nine digits from two degrees of freedom up. */
const STEPS = 400;

/**
 * Probability of a noncentral Student t (df, noncentrality delta) lying below t: the normal probability averaged over the
 * chi distribution of the pooled SD, by Simpson's rule.
 */
export function noncentralTCdf(t: number, df: number, delta: number): number {
  const spread = sqrt(2 * df);
  const low = sqrt(Math.max(0, df - 14 * spread) / df);
  const high = sqrt((df + 14 * spread + 80) / df);
  const logScale = Math.LN2 + (df / 2) * log(df / 2) - logGamma(df / 2);
  const h = (high - low) / STEPS;
  let sum = 0;
  for (let i = 0; i <= STEPS; i += 1) {
    const s = low + i * h;
    if (s <= 0) continue;
    const density = exp(logScale + (df - 1) * log(s) - (df * s * s) / 2);
    const weight = i === 0 || i === STEPS ? 1 : i % 2 === 1 ? 4 : 2;
    sum += weight * density * normalCdf(t * s - delta);
  }
  return (sum * h) / 3;
}
