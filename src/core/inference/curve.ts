import { isFailure, type Failure } from '../failure';
import { normalQuantile } from '../numbers/normal';
import { inferSides, type SidesAnswer, type SidesInput } from './answer';
import type { StudyRun } from './study';

/** A run with its whole curve, % over the comparison's grid, in the place of its value. */
export interface CurveRun extends Omit<StudyRun, 'value'> {
  readonly curve_pct: ArrayLike<number>;
}

export interface CurveInput extends Omit<SidesInput, 'runs'> {
  readonly runs: readonly CurveRun[];
  readonly rpm: readonly number[];
  /** First and last index of the deciding stretch. */
  readonly deciding: readonly [number, number];
  readonly fwhm_rpm?: number | undefined;
}

export interface CurveAnswer extends SidesAnswer {
  /** Σ weight·curve: its mean over the deciding stretch is the estimate. */
  readonly difference_pct: readonly number[];
  /** Simultaneous 95 % band about it, point by point. */
  readonly halfWidth_pct: readonly number[];
  /** How much wider the band is than the interval for holding everywhere at once. */
  readonly factor: number;
}

/** Curves closer than this in rpm hang together. */
const LEAST_WIDTH_rpm = 250;
/** Degrees of freedom that pull the scatter at one speed towards that of the deciding value. */
const PULLED = 4;

/** Mean of each run's curve over the deciding stretch. */
export const decidingValues = (runs: readonly CurveRun[], [first, last]: readonly [number, number]): number[] =>
  runs.map(({ curve_pct }) => {
    let sum = 0;
    for (let i = first; i <= last; i += 1) sum += curve_pct[i]!;
    return sum / (last - first + 1);
  });

/** The answer of the deciding stretch, and the curve that goes with it. Testing basis §4.13. */
export function inferCurve(input: CurveInput): CurveAnswer | Failure {
  const { runs, rpm: _rpm, deciding, fwhm_rpm: _fwhm, ...rest } = input;
  const values = decidingValues(runs, deciding);
  const answer = inferSides({ ...rest, runs: runs.map(({ curve_pct: _, ...r }, i) => ({ ...r, value: values[i]! })) });
  return isFailure(answer) ? answer : curveOf(answer, input);
}

/**
 * The curve that goes with a deciding stretch's answer: the same run weights at every speed, with a band that holds everywhere
 * at once. A place where it leaves nothing is shown; the word is that of the stretch. Testing basis §4.13.
 */
export function curveOf(answer: SidesAnswer, input: Pick<CurveInput, 'runs' | 'rpm' | 'deciding' | 'fwhm_rpm'>): CurveAnswer {
  const { runs, rpm, deciding, fwhm_rpm = 0 } = input;
  const values = decidingValues(runs, deciding);
  const points = rpm.length;
  const difference = new Float64Array(points);
  runs.forEach(({ curve_pct }, i) => {
    for (let k = 0; k < points; k += 1) difference[k]! += answer.weights[i]! * curve_pct[k]!;
  });
  const m = 1 + (rpm[points - 1]! - rpm[0]!) / Math.max(fwhm_rpm, LEAST_WIDTH_rpm);
  const factor = normalQuantile(1 - 0.025 / m) / normalQuantile(0.975);
  const half = ((answer.high - answer.low) / 2) * factor;
  const ratio = scatterRatio(runs, values, points);
  return {
    ...answer,
    difference_pct: Array.from(difference),
    halfWidth_pct: Array.from(ratio, (r) => half * Math.sqrt(Math.max(1, r))),
    factor,
  };
}

/** Scatter at each speed over that of the deciding value, within part and visit, pulled to one. */
function scatterRatio(runs: readonly CurveRun[], values: readonly number[], points: number): Float64Array {
  const cells = new Map<string, number[]>();
  runs.forEach((r, i) => {
    const key = `${String(r.visit ?? 1)}|${r.side}`;
    cells.set(key, [...(cells.get(key) ?? []), i]);
  });
  const df = runs.length - cells.size;
  const squares = (of: (i: number) => number): number => {
    let sum = 0;
    for (const own of cells.values()) {
      const mean = own.reduce((s, i) => s + of(i), 0) / own.length;
      for (const i of own) sum += (of(i) - mean) ** 2;
    }
    return sum;
  };
  const whole = squares((i) => values[i]!);
  const out = new Float64Array(points).fill(1);
  if (df === 0 || whole === 0) return out;
  const own = whole / df;
  for (let k = 0; k < points; k += 1) out[k] = (squares((i) => runs[i]!.curve_pct[k]!) + PULLED * own) / (df + PULLED) / own;
  return out;
}
