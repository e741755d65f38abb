import { peakIndex } from '../numbers/peak';
import { failure, isFailure, type Failure } from '../failure';
import { gridRun } from '../runs/grid';
import { smoothOverRpm } from '../runs/smooth';
import { compareRuns, runPeak, type Peak, type PowerRun, type RunComparison } from './compare';
import { runNoise } from './noise';

export interface SideComparison extends RunComparison {
  readonly runsA: number;
  readonly runsB: number;
  /** How far the mean difference may lie from the truth by run-to-run noise, 95 %, % of power. */
  readonly noise_pct: number;
  readonly noiseSd_pct: number;
  /** The scatter is an assumption, not this job's own repeats. */
  readonly noiseAssumed: boolean;
  readonly answer: SideAnswer;
}

/** The plain answer: what each third did against the noise. */
export interface SideAnswer {
  readonly kind: 'gain' | 'loss' | 'mixed' | 'inside the noise';
  /** Largest mean difference of the three thirds, %, and which third. */
  readonly best_pct: number;
  readonly bestThird: 0 | 1 | 2;
  /** From this engine speed on the difference stays above the noise up to the end; null: it does not. */
  readonly clearFrom_rpm: number | null;
}

interface MeanSide {
  readonly run: PowerRun;
  readonly peak: Peak;
  readonly means: readonly number[];
}

/** The mean of a side's smoothed runs on the grid points they all have. */
function meanSide(runs: readonly PowerRun[], fwhm_rpm: number): MeanSide | Failure {
  const smoothed = runs.map((r) => smoothOverRpm(r.rpm, r.power_W, fwhm_rpm));
  const peaks = runs.map((r, i) => runPeak(r, smoothed[i]!));
  const grids = [];
  for (let i = 0; i < runs.length; i += 1) {
    const grid = gridRun(runs[i]!.rpm, smoothed[i]!);
    if (isFailure(grid)) return grid;
    grids.push(grid);
  }
  const from = Math.max(...grids.map((g) => g.rpm[0]!));
  const to = Math.min(...grids.map((g) => g.rpm.at(-1)!));
  const cut = grids.map((g) => g.value.filter((_, i) => g.rpm[i]! >= from && g.rpm[i]! <= to));
  const rpm = grids[0]!.rpm.filter((n) => n >= from && n <= to);
  if (rpm.length < 2) return failure('no_common_range');
  const power_W = rpm.map((_, i) => cut.reduce((s, c) => s + c[i]!, 0) / cut.length);
  const top = peakIndex(power_W);
  const unsmoothed = peaks.reduce((a, p) => (p.unsmoothed_W > a.unsmoothed_W ? p : a));
  const peak =
    runs.length === 1
      ? peaks[0]!
      : { ...unsmoothed, smoothed_W: power_W[top]!, smoothed_rpm: rpm[top]!, difference_W: unsmoothed.unsmoothed_W - power_W[top]! };
  const means = cut.map((c) => c.reduce((s, v) => s + v, 0) / c.length);
  return { run: { rpm, power_W }, peak, means };
}

/** Scatter between the runs of each side about its mean, %, where a side has been repeated. */
function ownScatter(sides: readonly MeanSide[]): readonly (readonly number[])[] | undefined {
  if (!sides.some((s) => s.means.length > 1)) return undefined;
  return sides.map((s) => {
    const mean = s.means.reduce((a, v) => a + v, 0) / s.means.length;
    return s.means.map((v) => (100 * v) / mean);
  });
}

function answerOf(c: RunComparison, noise_pct: number): SideAnswer {
  const thirds = c.bandMean_pct;
  const bestThird = thirds.reduce((k, v, i) => (Math.abs(v) > Math.abs(thirds[k]!) ? i : k), 0) as 0 | 1 | 2;
  const up = thirds.some((v) => v > noise_pct);
  const down = thirds.some((v) => v < -noise_pct);
  let from = c.grid_rpm.length;
  while (from > 0 && Math.abs(c.difference_pct[from - 1]!) > noise_pct) from -= 1;
  return {
    kind: up && down ? 'mixed' : up ? 'gain' : down ? 'loss' : 'inside the noise',
    best_pct: thirds[bestThird]!,
    bestThird,
    clearFrom_rpm: from < c.grid_rpm.length ? c.grid_rpm[from]! : null,
  };
}

/**
 * Side B against side A, each the mean of its runs at one smoothing. Noise comes from the runs' own repeats where there
 * are any (pooled), else from an assumed scatter of single runs. Testing basis §1, §4.
 */
export function compareSides(
  a: readonly PowerRun[],
  b: readonly PowerRun[],
  options: { readonly fwhm_rpm: number; readonly assumedSd_pct: number },
): SideComparison | Failure {
  if (a.length === 0 || b.length === 0) return failure('too_few_runs');
  const meanA = meanSide(a, options.fwhm_rpm);
  const meanB = meanSide(b, options.fwhm_rpm);
  if (isFailure(meanA)) return meanA;
  if (isFailure(meanB)) return meanB;
  const compared = compareRuns(meanA.run, meanB.run);
  if (isFailure(compared)) return compared;
  const baselines = ownScatter([meanA, meanB]);
  const noise = runNoise(baselines ? { baselines } : { assumedSd: options.assumedSd_pct });
  if (isFailure(noise)) return noise;
  const noise_pct = noise.halfRange * Math.sqrt((1 / a.length + 1 / b.length) / 2);
  return {
    ...compared,
    peakA: meanA.peak,
    peakB: meanB.peak,
    runsA: a.length,
    runsB: b.length,
    noise_pct,
    noiseSd_pct: noise.sd,
    noiseAssumed: noise.df === null,
    answer: answerOf(compared, noise_pct),
  };
}
