import { soundSpeed } from './gas';
import { openEnd, type Mouth } from './mouth';

export interface RunnerForRules {
  readonly length_m: number;
  readonly bore_m: number;
  readonly mouth?: Mouth;
  /** Swept volume of one cylinder, m³. */
  readonly swept_m3: number;
  readonly compressionRatio: number;
  /** Temperature of the air in the runner, K. */
  readonly T_K: number;
}

export interface RunnerRules {
  readonly endCorrection_m: number;
  readonly quarterWave_Hz: number;
  readonly helmholtz_Hz: number;
}

/**
 * The two rules of thumb for a runner: its quarter wave, and runner and cylinder as a bottle (Helmholtz, after Engelman)
 * with half the swept and the clearance volume. Source: docs/basis/waves.md §7.
 */
export function runnerRules(runner: RunnerForRules): RunnerRules {
  const { endCorrection_m } = openEnd(runner.bore_m, runner.mouth);
  const c = soundSpeed(runner.T_K);
  const long = runner.length_m + endCorrection_m;
  const volume = runner.swept_m3 / 2 + runner.swept_m3 / (runner.compressionRatio - 1);
  return {
    endCorrection_m,
    quarterWave_Hz: c / (4 * long),
    helmholtz_Hz: (c / (2 * Math.PI)) * Math.sqrt(((Math.PI / 4) * runner.bore_m ** 2) / (long * volume)),
  };
}

/** Waves of the runner to one pull of its cylinder, q = f₁/(N/120): whole numbers are dips of the ripple. */
export const wavesPerPull = (quarterWave_Hz: number, rpm: number): number => quarterWave_Hz / (rpm / 120);

/** Engine speed at which the bottle's tone meets the valve, rpm. The classic factor is 2.1. */
export const helmholtzBest_rpm = (helmholtz_Hz: number, factor: number): number => (60 * helmholtz_Hz) / factor;

/** The factor by the inlet's duration at the seat: a longer pull meets the same tone at a higher speed. */
export const helmholtzFactor = (duration_rad: number): number => (580 * Math.PI) / 180 / duration_rad;

export interface PlenumForRules {
  /** Pipe from open air to the plenum: bore and length with its end correction, m. */
  readonly bore_m: number;
  readonly length_m: number;
  /** Plenum and all runners together, and one cylinder's swept volume, m³. */
  readonly volume_m3: number;
  readonly swept_m3: number;
  readonly cylinders: number;
  readonly T_K: number;
}

/** Speed at which the cylinders' pulls meet the tone of plenum and pipe, rpm. Source: docs/basis/waves.md §7. */
export function plenumBest_rpm(plenum: PlenumForRules): number {
  const area = (Math.PI / 4) * plenum.bore_m ** 2;
  const tone = (soundSpeed(plenum.T_K) / (2 * Math.PI)) * Math.sqrt(area / (plenum.length_m * (plenum.volume_m3 + plenum.swept_m3 / 2)));
  return (120 * tone) / plenum.cylinders;
}
