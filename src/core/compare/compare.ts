import type { PowerRun } from '../runs/side-run';
import { thirdOf } from '../numbers/thirds';
import { failure, isFailure, type Failure } from '../failure';
import { gridRun, type GriddedCurve } from '../runs/grid';
import { smoothOverRpm } from '../runs/smooth';

export interface Peak {
  readonly smoothed_W: number;
  readonly smoothed_rpm: number;
  readonly unsmoothed_W: number;
  readonly unsmoothed_rpm: number;
  /** Unsmoothed less smoothed: what an unequal comparison would have called a gain, W. */
  readonly difference_W: number;
}

export interface BandMean {
  readonly mean_W: number;
  readonly mean_pct: number;
}

export interface RunComparison {
  readonly grid_rpm: number[];
  readonly a_W: number[];
  readonly b_W: number[];
  readonly difference_W: number[];
  readonly difference_pct: number[];
  /** Mean difference in each third of the common range, W and % of A's mean there. */
  readonly bandMean_W: number[];
  readonly bandMean_pct: number[];
  readonly peakA: Peak;
  readonly peakB: Peak;
  readonly ownBands: BandMean[];
  readonly used: { readonly a_W: number; readonly b_W: number; readonly difference_W: number } | null;
}

export interface CompareOptions {
  readonly fwhm_rpm?: number | undefined;
  readonly bands_rpm?: readonly (readonly [number, number])[] | undefined;
  readonly shift?: { readonly rpm: number; readonly gearStep: number } | undefined;
}

/** Peak of a run at the chosen smoothing and as measured, both at its samples. Testing basis §1. */
export function runPeak(run: PowerRun, smoothed: ArrayLike<number>): Peak {
  let s = 0;
  let u = 0;
  for (let i = 1; i < run.rpm.length; i += 1) {
    if (smoothed[i]! > smoothed[s]!) s = i;
    if (run.power_W[i]! > run.power_W[u]!) u = i;
  }
  return {
    smoothed_W: smoothed[s]!,
    smoothed_rpm: run.rpm[s]!,
    unsmoothed_W: run.power_W[u]!,
    unsmoothed_rpm: run.rpm[u]!,
    difference_W: run.power_W[u]! - smoothed[s]!,
  };
}

function meanWhere(values: readonly number[], keep: (i: number) => boolean): number {
  let sum = 0;
  let n = 0;
  values.forEach((v, i) => {
    if (!keep(i)) return;
    sum += v;
    n += 1;
  });
  return n === 0 ? NaN : sum / n;
}

/** The two curves cut to the grid points they share. */
function common(a: GriddedCurve, b: GriddedCurve): { rpm: number[]; a: number[]; b: number[] } | null {
  const from = Math.max(a.rpm[0]!, b.rpm[0]!);
  const to = Math.min(a.rpm.at(-1)!, b.rpm.at(-1)!);
  const cut = (c: GriddedCurve): number[] => c.value.filter((_, i) => c.rpm[i]! >= from && c.rpm[i]! <= to);
  const rpm = a.rpm.filter((n) => n >= from && n <= to);
  return rpm.length < 2 ? null : { rpm, a: cut(a), b: cut(b) };
}

/**
 * Two runs at one smoothing on one grid: difference B − A in W and % of A, means by thirds and own bands, peaks smoothed
 * and not, and the band used between shifts. Watts throughout. `no_common_range` where they do not overlap. Testing basis §1.
 */
export function compareRuns(a: PowerRun, b: PowerRun, options: CompareOptions = {}): RunComparison | Failure {
  const fwhm = options.fwhm_rpm ?? 0;
  const smoothA = smoothOverRpm(a.rpm, a.power_W, fwhm);
  const smoothB = smoothOverRpm(b.rpm, b.power_W, fwhm);
  const gridA = gridRun(a.rpm, smoothA);
  const gridB = gridRun(b.rpm, smoothB);
  if (isFailure(gridA)) return gridA;
  if (isFailure(gridB)) return gridB;
  const shared = common(gridA, gridB);
  if (shared === null) return failure('no_common_range');
  const grid = shared.rpm;
  const difference_W = grid.map((_, i) => shared.b[i]! - shared.a[i]!);
  const bandOf = (keep: (i: number) => boolean): BandMean => {
    const mean_W = meanWhere(difference_W, keep);
    return { mean_W, mean_pct: (100 * mean_W) / meanWhere(shared.a, keep) };
  };
  const thirds = [0, 1, 2].map((k) => bandOf((i) => thirdOf(grid[i]!, grid[0]!, grid.at(-1)!) === k));
  return {
    grid_rpm: grid,
    a_W: shared.a,
    b_W: shared.b,
    difference_W,
    difference_pct: difference_W.map((d, i) => (100 * d) / shared.a[i]!),
    bandMean_W: thirds.map((t) => t.mean_W),
    bandMean_pct: thirds.map((t) => t.mean_pct),
    peakA: runPeak(a, smoothA),
    peakB: runPeak(b, smoothB),
    ownBands: (options.bands_rpm ?? []).map(([lo, hi]) => bandOf((i) => grid[i]! >= lo && grid[i]! <= hi)),
    used: options.shift ? usedBand(grid, shared.a, shared.b, options.shift) : null,
  };
}

function usedBand(
  grid: number[],
  a: number[],
  b: number[],
  shift: { rpm: number; gearStep: number },
): { a_W: number; b_W: number; difference_W: number } {
  const keep = (i: number): boolean => grid[i]! >= shift.rpm * shift.gearStep && grid[i]! <= shift.rpm;
  const a_W = meanWhere(a, keep);
  const b_W = meanWhere(b, keep);
  return { a_W, b_W, difference_W: b_W - a_W };
}
