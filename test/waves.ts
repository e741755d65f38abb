import { waveStretches, type WaveStretch } from '@/core/job/wave-answer';

/** Stretches of a ratio told at evenly spread speeds. */
export const coarseCurve = (ratio: readonly number[], [lo, hi]: readonly [number, number]): WaveStretch[] =>
  waveStretches(
    ratio.map((_, i) => lo + ((hi - lo) * i) / (ratio.length - 1)),
    ratio,
  );
