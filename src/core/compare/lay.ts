import { isFailure, type Failure } from '../failure';
import { decidingValues, type CurveRun } from '../inference/curve';
import type { StudyRun } from '../inference/study';
import { GRID_STEP_rpm, gridRun, type GriddedCurve } from '../runs/grid';
import { smoothOverRpm } from '../runs/smooth';
import { runPeak, type Peak } from './compare';
import type { SideMark } from './permutation';
import type { SideRun } from '../runs/side-run';
import type { SideOptions } from './sides';

export interface Prepared {
  readonly grid: GriddedCurve;
  readonly peak: Peak;
}

/** Brought to one width: Gaussians add by their squares, so what a file carries is topped up. */
export function prepared(run: SideRun, fwhm_rpm: number): Prepared | Failure {
  const carried = run.carriedSmoothing_rpm ?? 0;
  const smooth = smoothOverRpm(run.rpm, run.power_W, Math.sqrt(Math.max(0, fwhm_rpm ** 2 - carried ** 2)));
  const grid = gridRun(run.rpm, smooth);
  return isFailure(grid) ? grid : { grid, peak: runPeak(run, smooth) };
}

export interface Ready {
  readonly side: SideMark;
  readonly run: SideRun;
  readonly ready: Prepared;
  /** Among all that were given, side A's first. */
  readonly index: number;
}

export interface Laid extends Omit<CurveRun, 'curve_pct'> {
  readonly index: number;
  readonly power_W: readonly number[];
  readonly curve_pct: Float64Array;
}

/** A difference of logarithms, in hundredths, as percent. */
export const asPct = (x: number): number => 100 * Math.expm1(x / 100);
/** A run's power is never taken for less than this share of stock's: a logarithm wants something. */
const LEAST_SHARE = 0.01;

export function allPrepared(a: readonly SideRun[], b: readonly SideRun[], fwhm_rpm: number): Ready[] | Failure {
  const all: Ready[] = [];
  let index = 0;
  for (const [side, runs] of [['A', a] as const, ['B', b] as const])
    for (const run of runs) {
      const ready = prepared(run, fwhm_rpm);
      if (isFailure(ready)) return ready;
      all.push({ side, run, ready, index: index++ });
    }
  return all;
}

/** The engine speeds that all of these runs reach, inside what was asked for; null: none. */
export function commonRange(all: readonly Ready[], range_rpm: SideOptions['range_rpm']): [number, number] | null {
  const [least, most] = range_rpm ?? [-Infinity, Infinity];
  const from = Math.max(...all.map((r) => r.ready.grid.rpm[0]!), Math.ceil(least / GRID_STEP_rpm) * GRID_STEP_rpm);
  const to = Math.min(...all.map((r) => r.ready.grid.rpm.at(-1)!), Math.floor(most / GRID_STEP_rpm) * GRID_STEP_rpm);
  return to - from < GRID_STEP_rpm ? null : [from, to];
}

/** Runs in the order of the study, each as percent of the geometric mean of side A's (of all, where there is one side). */
export function laidOut(all: readonly Ready[], rpm: readonly number[], orderKnown: boolean): Laid[] {
  const cut = (r: Ready): number[] => {
    const first = r.ready.grid.rpm.indexOf(rpm[0]!);
    return r.ready.grid.value.slice(first, first + rpm.length);
  };
  const place = (r: Ready): number => r.run.order ?? r.index;
  // Of an order that is a guess only the least is believed: each side in one go.
  const ordered = [...all].sort((x, y) =>
    orderKnown ? place(x) - place(y) : x.side === y.side ? place(x) - place(y) : x.side < y.side ? -1 : 1,
  );
  const powers = ordered.map(cut);
  const stock = powers.filter((_, i) => ordered[i]!.side === 'A');
  const of = stock.length > 0 ? stock : powers;
  const middle = rpm.map((_, k) => of.reduce((s, p) => s + Math.log(Math.max(p[k]!, 1e-9)), 0) / of.length);
  return ordered.map(({ side, run, index }, i) => ({
    side,
    index,
    visit: run.visit ?? '',
    ...(orderKnown && run.newStay === true && { newStay: true }),
    ...(run.start_K !== undefined && { start_K: run.start_K }),
    ...(run.readingError_pct !== undefined && run.readingError_pct > 0 && { readingVariance: run.readingError_pct ** 2 }),
    power_W: powers[i]!,
    curve_pct: Float64Array.from(powers[i]!, (p, k) => 100 * Math.max(Math.log(LEAST_SHARE), Math.log(Math.max(p, 1e-9)) - middle[k]!)),
  }));
}

/** Runs as the inference takes them, without a value. */
export const bare = (runs: readonly Laid[]): Omit<StudyRun, 'value'>[] =>
  runs.map(({ curve_pct: _c, power_W: _p, index: _i, ...run }) => run);

/** A run of the curve inference with its own value over a stretch of indices. */
export function studyRuns(runs: readonly Laid[], span: readonly [number, number]): StudyRun[] {
  const values = decidingValues(runs, span);
  return bare(runs).map((run, i) => ({ ...run, value: values[i]! }));
}

/** Whether a run opens a stay. */
export const opens = (runs: readonly Pick<StudyRun, 'side' | 'visit' | 'newStay'>[], i: number): boolean =>
  i === 0 || runs[i - 1]!.side !== runs[i]!.side || runs[i - 1]!.visit !== runs[i]!.visit || runs[i]!.newStay === true;
