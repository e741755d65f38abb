import { airState, saturationPressure, weatherFailure, type WeatherReading } from '../air/state';
import { isFailure, type Failure } from '../failure';
import { ZERO_CELSIUS_K } from '../flow/constants';
import type { SideMark } from '../compare/permutation';

export type PowerKind = 'na' | 'belt' | 'turbo';

/** Share of full power's reciprocal that a day's air leaves: the factor observed power is multiplied by. Testing basis §3. */
function airFactor(kind: PowerKind, weather: WeatherReading): number {
  const t = weather.T_K - ZERO_CELSIUS_K;
  const dry_hPa = (weather.p_Pa - weather.rh * saturationPressure(weather.T_K)) / 100;
  const x = (990 / dry_hPa) * Math.sqrt((t + 273) / 298);
  return kind === 'na' ? 1.18 * x - 0.18 : kind === 'belt' ? x : x ** 0.3;
}

export interface CorrectedPass {
  readonly densityAltitude_m: number;
  readonly factor: number;
  readonly et_s: number;
  readonly trapSpeed_mps: number;
}

/** A pass as it would have been in the reference air, or in another day's. Refuses weather that cannot be. Testing basis §3. */
export function correctPass(input: {
  readonly kind: PowerKind;
  readonly weather: WeatherReading;
  readonly to?: WeatherReading | undefined;
  readonly et_s: number;
  readonly trapSpeed_mps: number;
}): CorrectedPass | Failure {
  const refused = weatherFailure(input.weather) ?? (input.to && weatherFailure(input.to));
  if (refused) return refused;
  const air = airState(input.weather);
  if (isFailure(air)) return air;
  const factor = airFactor(input.kind, input.weather) / (input.to ? airFactor(input.kind, input.to) : 1);
  return {
    densityAltitude_m: air.densityAltitude_m,
    factor,
    et_s: input.et_s * factor ** (-1 / 3),
    trapSpeed_mps: input.trapSpeed_mps * factor ** (1 / 3),
  };
}

export interface Pass {
  readonly side: SideMark;
  readonly visit: string;
  /** Missing where no weather was read. */
  readonly densityAltitude_m?: number | undefined;
  readonly coolant_K?: number | undefined;
  readonly inlet_K?: number | undefined;
}

/** Passes may differ by less than this and still be a matched pair. Testing basis §3. */
export const PAIR_LIMITS = { densityAltitude_m: 30, temperature_K: 5 } as const;

/** Pairs [A, B] of one visit in nearly the same air and with the engine nearly as warm, by index. */
export function matchedPairs(passes: readonly Pass[]): [number, number][] {
  const near = (x: number | undefined, y: number | undefined, within: number): boolean =>
    x !== undefined && y !== undefined && Math.abs(x - y) < within;
  return passes.flatMap((a, i) =>
    a.side !== 'A'
      ? []
      : passes.flatMap((b, j): [number, number][] =>
          b.side === 'B' &&
          a.visit === b.visit &&
          near(a.densityAltitude_m, b.densityAltitude_m, PAIR_LIMITS.densityAltitude_m) &&
          near(a.coolant_K, b.coolant_K, PAIR_LIMITS.temperature_K) &&
          near(a.inlet_K, b.inlet_K, PAIR_LIMITS.temperature_K)
            ? [[i, j]]
            : [],
        ),
  );
}
