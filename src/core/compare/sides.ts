import { failure, isFailure, type Failure } from '../failure';
import { varianceOf } from '../numbers/moments';
import { peakIndex } from '../numbers/peak';
import { GRID_STEP_rpm, gridRun, type GriddedCurve } from '../runs/grid';
import { smoothOverRpm } from '../runs/smooth';
import type { AnswerWord } from './answer';
import { differenceBand, type Band } from './band';
import { runPeak, thirdOf, type Peak, type PowerRun } from './compare';
import { answerFrom } from './answer';
import { sideEstimate, type SideEstimate } from './estimate';
import { runNoise } from './noise';
import type { SideMark } from './permutation';

/** A run as a comparison takes it: power over rpm, the visit it belongs to, and the smoothing its file already carries. */
export interface SideRun extends PowerRun {
  readonly visit?: string | undefined;
  readonly carriedSmoothing_rpm?: number | null | undefined;
  /** Place in the order the runs were driven; runs without one follow A first, as given. */
  readonly order?: number | undefined;
  /** Standard error of the whole curve where it was read off a picture, %. */
  readonly readingError_pct?: number | undefined;
}

/** Which stretch of the range decides: agreed on before the runs. */
export const DECIDING = ['whole', 'bottom', 'middle', 'top', 'own'] as const;
export type Deciding = (typeof DECIDING)[number];

export interface SideOptions {
  readonly fwhm_rpm: number;
  readonly assumedSd_pct: number;
  /** Smallest difference that matters, % of power. */
  readonly threshold_pct?: number | undefined;
  readonly decidesOn?: Deciding | undefined;
  readonly bands_rpm?: readonly (readonly [number, number])[] | undefined;
  /** Compared from and to these engine speeds at most; what a run says outside is left alone. */
  readonly range_rpm?: readonly [number, number] | null | undefined;
  readonly seed?: number | undefined;
  /** False where the order of the runs is only a guess: no drift is fitted to it. */
  readonly orderKnown?: boolean | undefined;
}

/** Default of the smallest difference that matters, % of power. Testing basis §4. */
export const THRESHOLD_pct = 0.5;

/** The mean over a stretch of engine speed on both sides, and what the runs say about its difference. */
export interface Stretch {
  readonly id: string;
  readonly from_rpm: number;
  readonly to_rpm: number;
  readonly a_W: number;
  readonly b_W: number;
  /** Mean difference, W and % of A's mean: by the fitted effect where there is one, else of the plain means. */
  readonly mean_W: number;
  readonly mean_pct: number;
  /** In % of A's mean; null: too few runs for an interval. */
  readonly estimate: SideEstimate | null;
  /** Every run's own mean, % of A's, in run order. */
  readonly runs: readonly { readonly side: SideMark; readonly visit: string; readonly value_pct: number; readonly index: number }[];
}

/** A stretch in which the whole band lies on one side of nothing. */
export interface ClearRegion {
  readonly from_rpm: number;
  readonly to_rpm: number;
  readonly sign: 1 | -1;
}

export interface SideComparison {
  readonly grid_rpm: number[];
  readonly a_W: number[];
  readonly b_W: number[];
  readonly difference_W: number[];
  readonly difference_pct: number[];
  readonly peakA: Peak;
  readonly peakB: Peak;
  readonly runsA: number;
  readonly runsB: number;
  /** Smoothing every run was brought to, and whether a file's own made it wider than asked. */
  readonly fwhm_rpm: number;
  readonly widened: boolean;
  /** Simultaneous 95 % band of the difference; null with one run on a side. */
  readonly band: Band | null;
  readonly clear: readonly ClearRegion[];
  readonly thirds: readonly [Stretch, Stretch, Stretch];
  readonly whole: Stretch;
  readonly own: readonly Stretch[];
  readonly deciding: Stretch;
  readonly threshold_pct: number;
  readonly word: AnswerWord;
  /** How far the mean difference may lie from the truth by run-to-run noise, 95 %, % of power. */
  readonly noise_pct: number;
  readonly noiseSd_pct: number;
  /** Degrees of freedom of the scatter; null: it is an assumption. */
  readonly noiseDf: number | null;
  /** Scatter of the repeated baseline alone, % of power: what a shop's own repeatability is made of. Null: not repeated. */
  readonly baseline: { readonly sd_pct: number; readonly df: number } | null;
}

/** A stretch of the band shorter than this clears nothing: grid points next to one another go together. */
const LEAST_CLEAR_rpm = 100;
const BRIDGED_rpm = 250;

interface Prepared {
  readonly grid: GriddedCurve;
  readonly peak: Peak;
}

/** Brought to one width: Gaussians add by their squares, so what a file carries is topped up. */
function prepared(run: SideRun, fwhm_rpm: number): Prepared | Failure {
  const carried = run.carriedSmoothing_rpm ?? 0;
  const smooth = smoothOverRpm(run.rpm, run.power_W, Math.sqrt(Math.max(0, fwhm_rpm ** 2 - carried ** 2)));
  const grid = gridRun(run.rpm, smooth);
  return isFailure(grid) ? grid : { grid, peak: runPeak(run, smooth) };
}

const meanCurve = (curves: readonly (readonly number[])[]): number[] =>
  curves[0]!.map((_, i) => curves.reduce((s, c) => s + c[i]!, 0) / curves.length);

function sidePeak(peaks: readonly Peak[], rpm: readonly number[], mean: readonly number[]): Peak {
  if (peaks.length === 1) return peaks[0]!;
  const unsmoothed = peaks.reduce((a, p) => (p.unsmoothed_W > a.unsmoothed_W ? p : a));
  const top = peakIndex(mean);
  return { ...unsmoothed, smoothed_W: mean[top]!, smoothed_rpm: rpm[top]!, difference_W: unsmoothed.unsmoothed_W - mean[top]! };
}

interface Ordered {
  readonly side: SideMark;
  readonly visit: string;
  readonly index: number;
  readonly curve: readonly number[];
  readonly readingError_pct: number;
}

/** Standard error that reading curves off pictures puts on a difference of two sides, %. */
function readingErrorOf(runs: readonly Ordered[]): number {
  const of = (side: SideMark): number => {
    const own = runs.filter((r) => r.side === side);
    return own.reduce((s, r) => s + r.readingError_pct ** 2, 0) / own.length ** 2;
  };
  return Math.sqrt(of('A') + of('B'));
}

/** An estimate with an error of reading beside its own: the axis of a picture moves a whole curve, and no repeat shows it. */
function widened(estimate: SideEstimate, reading_pct: number, threshold_pct: number): SideEstimate {
  if (reading_pct === 0) return estimate;
  const standardError = Math.hypot(estimate.standardError, reading_pct);
  return { ...estimate, ...answerFrom({ difference: estimate.difference, standardError, df: estimate.df }, threshold_pct) };
}

function stretch(
  id: string,
  span: readonly [number, number],
  keep: (rpm: number) => boolean,
  rpm: readonly number[],
  runs: readonly Ordered[],
  threshold_pct: number,
  orderKnown: boolean,
): Stretch | null {
  const at = rpm.flatMap((n, i) => (keep(n) ? [i] : []));
  if (at.length === 0) return null;
  const meanOf = (curve: readonly number[]): number => at.reduce((s, i) => s + curve[i]!, 0) / at.length;
  const values = runs.map((r) => ({ ...r, mean_W: meanOf(r.curve) }));
  const sideMean = (side: SideMark): number => {
    const own = values.filter((v) => v.side === side);
    return own.reduce((s, v) => s + v.mean_W, 0) / own.length;
  };
  const a_W = sideMean('A');
  const b_W = sideMean('B');
  const inPct = values.map(({ side, visit, index, mean_W }) => ({ side, visit, index, value_pct: (100 * mean_W) / a_W }));
  const raw = sideEstimate(
    inPct.map(({ side, visit, value_pct }) => ({ side, visit, value: value_pct })),
    threshold_pct,
    orderKnown,
  );
  const estimate = raw && widened(raw, readingErrorOf(runs), threshold_pct);
  const mean_pct = estimate ? estimate.difference : 100 * (b_W / a_W - 1);
  return { id, from_rpm: span[0], to_rpm: span[1], a_W, b_W, mean_pct, mean_W: (mean_pct * a_W) / 100, estimate, runs: inPct };
}

function clearRegions(rpm: readonly number[], difference: readonly number[], half: number): ClearRegion[] {
  const found: { from: number; to: number; sign: 1 | -1 }[] = [];
  difference.forEach((d, i) => {
    const sign = d - half > 0 ? 1 : d + half < 0 ? -1 : null;
    if (sign === null) return;
    const last = found.at(-1);
    // A short dip of the band's edge over nothing, the difference itself on its side all along, parts no region.
    const joins =
      last && last.sign === sign && rpm[i]! - rpm[last.to]! <= BRIDGED_rpm && difference.slice(last.to, i).every((v) => v * sign > 0);
    if (joins) last.to = i;
    else found.push({ from: i, to: i, sign });
  });
  return found
    .filter((r) => rpm[r.to]! - rpm[r.from]! >= LEAST_CLEAR_rpm)
    .map((r) => ({ from_rpm: rpm[r.from]!, to_rpm: rpm[r.to]!, sign: r.sign }));
}

function baselineScatter(whole: Stretch): SideComparison['baseline'] {
  const values = whole.runs.filter((r) => r.side === 'A').map((r) => r.value_pct);
  return values.length < 2 ? null : { sd_pct: Math.sqrt(varianceOf(values)), df: values.length - 1 };
}

/** Scatter between the runs of each side about its mean, % of power, where a side has been repeated. */
function ownScatter(whole: Stretch): readonly (readonly number[])[] | undefined {
  const sides = (['A', 'B'] as const).map((s) => whole.runs.filter((r) => r.side === s).map((r) => r.value_pct));
  return sides.some((s) => s.length > 1) ? sides : undefined;
}

const THIRD_IDS = ['bottom', 'middle', 'top'] as const;

/**
 * Side B against side A, any number of runs each: one smoothing, one grid, the difference of the side means with its
 * simultaneous band, and the mean over the whole range, its thirds and a person's own bands, each with its interval and
 * one of the four answers. What decides is agreed on beforehand. Testing basis §1, §4.
 */
export function compareSides(a: readonly SideRun[], b: readonly SideRun[], options: SideOptions): SideComparison | Failure {
  if (a.length === 0 || b.length === 0) return failure('too_few_runs');
  const carried = [...a, ...b].reduce((m, r) => Math.max(m, r.carriedSmoothing_rpm ?? 0), 0);
  const fwhm_rpm = Math.max(options.fwhm_rpm, carried);
  const threshold_pct = options.threshold_pct ?? THRESHOLD_pct;
  const all: { side: SideMark; run: SideRun; ready: Prepared; index: number }[] = [];
  for (const [side, runs] of [['A', a] as const, ['B', b] as const]) {
    for (const run of runs) {
      const ready = prepared(run, fwhm_rpm);
      if (isFailure(ready)) return ready;
      all.push({ side, run, ready, index: all.length });
    }
  }
  const [least, most] = options.range_rpm ?? [-Infinity, Infinity];
  const from = Math.max(...all.map((r) => r.ready.grid.rpm[0]!), Math.ceil(least / GRID_STEP_rpm) * GRID_STEP_rpm);
  const to = Math.min(...all.map((r) => r.ready.grid.rpm.at(-1)!), Math.floor(most / GRID_STEP_rpm) * GRID_STEP_rpm);
  if (to - from < GRID_STEP_rpm) return failure('no_common_range');
  const inside = (n: number): boolean => n >= from && n <= to;
  const rpm = all[0]!.ready.grid.rpm.filter(inside);
  const ordered: Ordered[] = all
    .map(({ side, run, ready, index }) => ({
      side,
      visit: run.visit ?? '',
      index,
      order: run.order ?? index,
      readingError_pct: run.readingError_pct ?? 0,
      curve: ready.grid.value.filter((_, i) => inside(ready.grid.rpm[i]!)),
    }))
    .sort((x, y) => x.order - y.order);
  const curvesOf = (side: SideMark): (readonly number[])[] => ordered.filter((r) => r.side === side).map((r) => r.curve);
  const a_W = meanCurve(curvesOf('A'));
  const b_W = meanCurve(curvesOf('B'));
  const difference_W = rpm.map((_, i) => b_W[i]! - a_W[i]!);
  const difference_pct = difference_W.map((d, i) => (100 * d) / a_W[i]!);
  const raw = differenceBand({ a: curvesOf('A'), b: curvesOf('B'), seed: options.seed });
  const band = isFailure(raw) ? null : raw;
  const make = (id: string, span: readonly [number, number], keep: (n: number) => boolean): Stretch | null =>
    stretch(id, span, keep, rpm, ordered, threshold_pct, options.orderKnown ?? true);
  const whole = make('whole', [from, to], () => true)!;
  const edge = (k: number): number => from + ((to - from) * k) / 3;
  const thirds = THIRD_IDS.map((id, k) => make(id, [edge(k), edge(k + 1)], (n) => thirdOf(n, from, to) === k) ?? whole);
  const own = (options.bands_rpm ?? []).flatMap(([lo, hi], i) => make(`own-${i}`, [lo, hi], (n) => n >= lo && n <= hi) ?? []);
  const decides = options.decidesOn ?? 'top';
  const deciding = decides === 'whole' ? whole : decides === 'own' ? (own[0] ?? whole) : thirds[THIRD_IDS.indexOf(decides as 'top')]!;
  const baselines = ownScatter(whole);
  const noise = runNoise(baselines ? { baselines } : { assumedSd: options.assumedSd_pct });
  if (isFailure(noise)) return noise;
  const peaksOf = (side: SideMark): Peak[] => all.filter((r) => r.side === side).map((r) => r.ready.peak);
  return {
    grid_rpm: rpm,
    a_W,
    b_W,
    difference_W,
    difference_pct,
    peakA: sidePeak(peaksOf('A'), rpm, a_W),
    peakB: sidePeak(peaksOf('B'), rpm, b_W),
    runsA: a.length,
    runsB: b.length,
    fwhm_rpm,
    widened: fwhm_rpm > options.fwhm_rpm,
    band,
    clear: band ? clearRegions(rpm, difference_pct, band.halfWidth_pct) : [],
    thirds: thirds as unknown as readonly [Stretch, Stretch, Stretch],
    whole,
    own,
    deciding,
    threshold_pct,
    word: deciding.estimate?.answer ?? "can't tell yet",
    noise_pct: noise.halfRange * Math.sqrt((1 / a.length + 1 / b.length) / 2),
    noiseSd_pct: noise.sd,
    noiseDf: noise.df,
    baseline: baselineScatter(whole),
  };
}
