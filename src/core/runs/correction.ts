import type { CorrectionMethod } from '../documents/kinds';
import { saturationPressure, weatherFailure, type WeatherReading } from '../air/state';
import type { Failure } from '../failure';
import { ZERO_CELSIUS_K } from '../flow/constants';

/** Factors outside this are outside what SAE J1349 and ISO 1585 allow. */
const CORRECTION_VALID = [0.93, 1.07] as const;

export interface Correction {
  /** Observed power is multiplied by this. */
  readonly factor: number;
  readonly inRange: boolean;
}

/** Correction factor of a day's weather. Refuses weather that cannot be. Testing basis §1; the 273 of the formulas is 273. */
export function correctionFactor(method: CorrectionMethod, weather: WeatherReading): Correction | Failure {
  const refused = weatherFailure(weather);
  if (refused) return refused;
  const t = weather.T_K - ZERO_CELSIUS_K;
  const total_hPa = weather.p_Pa / 100;
  const dry_hPa = total_hPa - (weather.rh * saturationPressure(weather.T_K)) / 100;
  const rated = (factor: number): Correction => ({
    factor,
    inRange: factor >= CORRECTION_VALID[0] && factor <= CORRECTION_VALID[1],
  });
  switch (method) {
    case 'none':
      return { factor: 1, inRange: true };
    case 'SAE J1349':
      return rated(1.18 * (990 / dry_hPa) * Math.sqrt((t + 273) / 298) - 0.18);
    case 'STD':
      return { factor: (1013.25 / dry_hPa) * Math.sqrt((t + 273) / 288.7), inRange: true };
    case 'DIN 70020':
      return { factor: (1013.25 / total_hPa) * Math.sqrt((t + 273) / 293), inRange: true };
    case 'ISO 1585':
      return rated((990 / dry_hPa) ** 1.2 * ((t + 273) / 298) ** 0.6);
  }
}

/** Undoes the correction a power carries (by its factor, or its method and the weather) and applies another. Watts. */
export function convertCorrection(input: {
  readonly power_W: number;
  readonly from?: CorrectionMethod | undefined;
  readonly fromFactor?: number | undefined;
  readonly to: CorrectionMethod;
  readonly weather: WeatherReading;
}): { uncorrected_W: number; power_W: number } | Failure {
  const to = correctionFactor(input.to, input.weather);
  if ('error' in to) return to;
  let undo = input.fromFactor;
  if (undo === undefined) {
    const from = correctionFactor(input.from ?? 'none', input.weather);
    if ('error' in from) return from;
    undo = from.factor;
  }
  const uncorrected_W = input.power_W / undo;
  return { uncorrected_W, power_W: uncorrected_W * to.factor };
}
