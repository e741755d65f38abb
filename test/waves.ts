import { waveStretches, type WaveStretch } from '@/core/job/wave-answer';
import type { WaveEngine } from '@/core/waves/input';
import { ROWS, type WaveResult } from '@/core/waves/result';

/** Stretches of a ratio told at evenly spread speeds. */
export const coarseCurve = (ratio: readonly number[], [lo, hi]: readonly [number, number]): WaveStretch[] =>
  waveStretches(
    ratio.map((_, i) => lo + ((hi - lo) * i) / (ratio.length - 1)),
    ratio,
  );

const PLACES = 10;

/**
 * A made-up result that follows the runner's length alone: each length fills best at one speed, the longer the lower, and two
 * per cent less a thousand rpm off it. Stands for the model where what is asked is what a page makes of its results.
 */
export function madeUpResult(engine: WaveEngine, rpm: number, settled = true): WaveResult {
  const length_m = engine.runner.segments.reduce((sum, s) => sum + s.length_m, 0);
  const best_rpm = 1750 / length_m;
  const curve = (value: number): Float64Array => new Float64Array(ROWS + 1).fill(value);
  const inletArea_m2 = new Float64Array(ROWS + 1).map((_, i) => (i > 170 && i < 300 ? 6e-4 : 0));
  return {
    rpm,
    settled,
    cycles: 5,
    W: 1 - 0.02 * (Math.abs(rpm - best_rpm) / 1000),
    Wcylinder: [1],
    residual: 0.05,
    pumpingWork_J: -20,
    plenum_Pa: 99_000,
    peakToMean: 1.5,
    peakFlow_kgps: 0.2,
    reversedShare: 0.01,
    curves: { valve_Pa: curve(1e5), mouth_Pa: curve(1e5), plenum_Pa: curve(99_000), throttle_kgps: curve(0.1), inletArea_m2 },
    picture: { places_m: new Float64Array(PLACES), p_Pa: new Float32Array((ROWS + 1) * PLACES).fill(1e5) },
  };
}
