import { failure, type Failure } from '../failure';

/** A curve over engine speed: one number (flat) or knots. Values carry the unit of what they stand for. */
export type Knots = number | { readonly rpm: readonly number[]; readonly value: readonly number[] };

export type Curve = (rpm: number) => number;

/**
 * Monotone cubic through the knots (PCHIP: weighted harmonic-mean slopes after Fritsch & Butland 1984, three-point
 * one-sided slopes at the ends, limited so that they cannot overshoot), constant beyond the end knots.
 * Refuses (`bad_input`) knots whose rpm do not rise, unequal lengths, none at all, or values that are not finite.
 * Source: airflow basis §3.
 */
export function knotCurve(knots: Knots): Curve | Failure {
  if (typeof knots === 'number') {
    return Number.isFinite(knots) ? () => knots : failure('bad_input', { reason: 'knots_not_finite' });
  }
  const { rpm: x, value: y } = knots;
  const n = x.length;
  if (n === 0 || y.length !== n) return failure('bad_input', { reason: 'knots_unequal' });
  for (let i = 0; i < n; i += 1) {
    if (!Number.isFinite(x[i]) || !Number.isFinite(y[i])) return failure('bad_input', { reason: 'knots_not_finite' });
    if (i > 0 && x[i]! <= x[i - 1]!) return failure('bad_input', { reason: 'knots_not_rising' });
  }
  if (n === 1) {
    const only = y[0]!;
    return () => only;
  }
  const d = pchipSlopes(x, y);
  return (rpm) => {
    if (rpm <= x[0]!) return y[0]!;
    if (rpm >= x[n - 1]!) return y[n - 1]!;
    let i = 0;
    while (rpm > x[i + 1]!) i += 1;
    const h = x[i + 1]! - x[i]!;
    const t = (rpm - x[i]!) / h;
    const u = 1 - t;
    return y[i]! * (1 + 2 * t) * u * u + d[i]! * h * t * u * u + y[i + 1]! * t * t * (3 - 2 * t) - d[i + 1]! * h * t * t * u;
  };
}

function pchipSlopes(x: readonly number[], y: readonly number[]): Float64Array {
  const n = x.length;
  const h = Float64Array.from({ length: n - 1 }, (_, i) => x[i + 1]! - x[i]!);
  const s = Float64Array.from({ length: n - 1 }, (_, i) => (y[i + 1]! - y[i]!) / h[i]!);
  const d = new Float64Array(n);
  if (n === 2) return d.fill(s[0]!);
  for (let i = 1; i < n - 1; i += 1) {
    if (s[i - 1]! * s[i]! <= 0) continue;
    const w1 = 2 * h[i]! + h[i - 1]!;
    const w2 = h[i]! + 2 * h[i - 1]!;
    d[i] = (w1 + w2) / (w1 / s[i - 1]! + w2 / s[i]!);
  }
  d[0] = endSlope(h[0]!, h[1]!, s[0]!, s[1]!);
  d[n - 1] = endSlope(h[n - 2]!, h[n - 3]!, s[n - 2]!, s[n - 3]!);
  return d;
}

/** Three-point end slope; 0 when it would leave the end segment's direction, at most 3 times its slope where the next one turns. */
function endSlope(h0: number, h1: number, s0: number, s1: number): number {
  const slope = ((2 * h0 + h1) * s0 - h0 * s1) / (h0 + h1);
  if (Math.sign(slope) !== Math.sign(s0)) return 0;
  if (Math.sign(s0) !== Math.sign(s1) && Math.abs(slope) > 3 * Math.abs(s0)) return 3 * s0;
  return slope;
}

/** Straight lines between the points of a short table, constant beyond its ends. `xs` rises. */
export function linearTable(xs: readonly number[], ys: readonly number[], x: number): number {
  const n = xs.length;
  if (x <= xs[0]!) return ys[0]!;
  if (x >= xs[n - 1]!) return ys[n - 1]!;
  let i = 0;
  while (x > xs[i + 1]!) i += 1;
  const t = (x - xs[i]!) / (xs[i + 1]! - xs[i]!);
  return ys[i]! + t * (ys[i + 1]! - ys[i]!);
}
