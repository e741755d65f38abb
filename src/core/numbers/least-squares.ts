/** A column whose part outside the others is below this share of its length adds nothing. */
const DEPENDENT = 1e-9;

export interface LeastSquares {
  readonly coefficients: readonly number[];
  readonly standardErrors: readonly number[];
  /** Residual degrees of freedom. */
  readonly df: number;
  /** Residual variance; NaN without a degree of freedom. */
  readonly variance: number;
  readonly residuals: readonly number[];
}

/**
 * Ordinary least squares of y on the given columns, by modified Gram–Schmidt with a second pass. Null where the columns
 * depend on one another or outnumber the rows.
 */
export function leastSquares(columns: readonly (readonly number[])[], y: readonly number[]): LeastSquares | null {
  const n = y.length;
  const k = columns.length;
  if (k > n) return null;
  const q: number[][] = [];
  const r: number[][] = Array.from({ length: k }, () => new Array<number>(k).fill(0));
  const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((s, v, i) => s + v * b[i]!, 0);
  for (let j = 0; j < k; j += 1) {
    const v = [...columns[j]!];
    const length = Math.sqrt(dot(v, v));
    for (let pass = 0; pass < 2; pass += 1) {
      for (let i = 0; i < j; i += 1) {
        const share = dot(q[i]!, v);
        r[i]![j]! += share;
        for (let m = 0; m < n; m += 1) v[m]! -= share * q[i]![m]!;
      }
    }
    const norm = Math.sqrt(dot(v, v));
    if (!(norm > DEPENDENT * length)) return null;
    r[j]![j] = norm;
    q.push(v.map((x) => x / norm));
  }
  const qy = q.map((v) => dot(v, y));
  const coefficients = backSubstitute(r, qy);
  const residuals = y.map((v, i) => v - columns.reduce((s, c, j) => s + c[i]! * coefficients[j]!, 0));
  const df = n - k;
  const variance = df > 0 ? dot(residuals, residuals) / df : NaN;
  const standardErrors = coefficients.map((_, j) => {
    // Row j of R⁻¹: its length is the coefficient's share of the residual SD.
    const inverse = columns.map((__, m) => backSubstitute(r, unit(k, m))[j]!);
    return Math.sqrt(variance * dot(inverse, inverse));
  });
  return { coefficients, standardErrors, df, variance, residuals };
}

const unit = (k: number, at: number): number[] => Array.from({ length: k }, (_, i) => (i === at ? 1 : 0));

function backSubstitute(r: readonly (readonly number[])[], b: readonly number[]): number[] {
  const x = [...b];
  for (let i = b.length - 1; i >= 0; i -= 1) {
    for (let j = i + 1; j < b.length; j += 1) x[i]! -= r[i]![j]! * x[j]!;
    x[i]! /= r[i]![i]!;
  }
  return x;
}
