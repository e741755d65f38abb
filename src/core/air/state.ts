import { failure, type Failure } from '../failure';
import { R_DRY, R_VAPOUR, ZERO_CELSIUS_K } from '../flow/constants';

export interface WeatherReading {
  /** Station pressure, Pa (50–110 kPa). */
  readonly p_Pa: number;
  /** Air temperature, K (−40…60 °C). */
  readonly T_K: number;
  /** Relative humidity as a share, 0…1. */
  readonly rh: number;
}

export interface AirState {
  readonly saturation_Pa: number;
  readonly vapour_Pa: number;
  readonly density_kgpm3: number;
  readonly gasConstant_JpkgK: number;
  readonly densityAltitude_m: number;
}

/** Limits of a believable weather reading; their ends belong to the range. Airflow basis §2. */
const WEATHER_LIMITS = { p_Pa: [50_000, 110_000], t_C: [-40, 60], rh: [0, 1] } as const;

const within = (x: number, [lo, hi]: readonly [number, number]): boolean => x >= lo && x <= hi;

/** First reading that cannot be weather, or null. Checked in the order pressure, temperature, humidity. */
export function weatherFailure({ p_Pa, T_K, rh }: WeatherReading): Failure | null {
  // A hair of slack on the temperature: 60 °C typed is 333.15 K, whose difference from 273.15 K is 60 and a rounding.
  const t = T_K - ZERO_CELSIUS_K;
  if (!within(p_Pa, WEATHER_LIMITS.p_Pa)) return failure('pressure_out_of_range');
  if (!within(t, [WEATHER_LIMITS.t_C[0] - 1e-9, WEATHER_LIMITS.t_C[1] + 1e-9])) return failure('temperature_out_of_range');
  if (!within(rh, WEATHER_LIMITS.rh)) return failure('humidity_out_of_range');
  return null;
}

/** Saturation vapour pressure over water, Pa, at T_K in kelvin. Alduchov & Eskridge 1996. */
export function saturationPressure(T_K: number): number {
  const t = T_K - ZERO_CELSIUS_K;
  return 610.94 * Math.exp((17.625 * t) / (t + 243.04));
}

/** Moist-air state of a weather reading. Refuses readings outside WEATHER_LIMITS. Airflow basis §2. */
export function airState(reading: WeatherReading): AirState | Failure {
  const refused = weatherFailure(reading);
  if (refused) return refused;
  const { p_Pa, T_K, rh } = reading;
  const saturation_Pa = saturationPressure(T_K);
  const vapour_Pa = rh * saturation_Pa;
  const density_kgpm3 = (p_Pa - vapour_Pa) / (R_DRY * T_K) + vapour_Pa / (R_VAPOUR * T_K);
  return {
    saturation_Pa,
    vapour_Pa,
    density_kgpm3,
    gasConstant_JpkgK: p_Pa / (density_kgpm3 * T_K),
    densityAltitude_m: densityAltitude(density_kgpm3),
  };
}

/** Height in the ISO 2533 standard atmosphere, m, at which air has this density, kg/m³. Airflow basis §2. */
export function densityAltitude(density_kgpm3: number): number {
  return (288.15 / 0.0065) * (1 - (density_kgpm3 / 1.225) ** (1 / 4.255876));
}

/** Station pressure, Pa, from a sea-level altimeter setting, Pa, at an elevation, m. US NWS altimeter relation (hPa). */
export function stationPressure(setting_Pa: number, elevation_m: number): number {
  const n = 0.190263;
  return ((setting_Pa / 100) ** n - 8.417286e-5 * elevation_m) ** (1 / n) * 100;
}
