import { saturationPressure, type WeatherReading } from '../air/state';
import { gaussian, seededRandom } from '../numbers/random';

export interface WeatherStationSettings {
  /** The day's air at noon. */
  readonly noon: WeatherReading;
  readonly seed: number;
  /** Minutes of the day from the first to the last reading, and between two. */
  readonly from_min: number;
  readonly to_min: number;
  readonly every_min: number;
}

export interface StationReading extends WeatherReading {
  readonly at_min: number;
}

/** From the coolest hour to the warmest, K, and the barometer's drift over a day, Pa. */
const SWING_K = 7;
const WARMEST_min = 15 * 60;
const DRIFT_SD_Pa = 180;

/** A day's air every few minutes: it warms until mid-afternoon, dries as it warms, and the barometer drifts. Seeded. */
export function* stationReadings(s: WeatherStationSettings): Generator<StationReading, void> {
  const random = seededRandom(s.seed * 104_729 + 1);
  const drift_Pa = DRIFT_SD_Pa * gaussian(random);
  const swing = (min: number): number => 0.5 * SWING_K * Math.cos((2 * Math.PI * (min - WARMEST_min)) / 1440);
  const vapour_Pa = s.noon.rh * saturationPressure(s.noon.T_K);
  for (let at_min = s.from_min; at_min <= s.to_min; at_min += s.every_min) {
    const T_K = s.noon.T_K + swing(at_min) - swing(720) + 0.15 * gaussian(random);
    const p_Pa = s.noon.p_Pa + (drift_Pa * (at_min - 720)) / 720 + 8 * gaussian(random);
    const rh = Math.min(1, Math.max(0.02, vapour_Pa / saturationPressure(T_K)));
    yield { at_min, T_K: Math.round(T_K * 10) / 10, p_Pa: Math.round(p_Pa / 10) * 10, rh: Math.round(rh * 100) / 100 };
  }
}
