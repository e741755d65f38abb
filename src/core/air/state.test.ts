import { isFailure, must } from '../failure';
import { airState, densityAltitude, stationPressure, weatherFailure } from './state';

it('gives the standard atmosphere’s density and altitude', () => {
  const air = must(airState({ p_Pa: 101_325, T_K: 288.15, rh: 0 }));
  expect(air.density_kgpm3).toBeCloseTo(1.225, 4);
  expect(air.densityAltitude_m).toBeCloseTo(0, 0);
});

it('moist air is thinner than dry air of the same pressure and temperature', () => {
  const dry = must(airState({ p_Pa: 99_000, T_K: 303.15, rh: 0 }));
  const moist = must(airState({ p_Pa: 99_000, T_K: 303.15, rh: 0.8 }));
  expect(moist.density_kgpm3).toBeLessThan(dry.density_kgpm3);
  expect(moist.densityAltitude_m).toBeGreaterThan(dry.densityAltitude_m);
});

it('takes the ends of the range and refuses beyond, naming the first that is wrong', () => {
  expect(weatherFailure({ p_Pa: 50_000, T_K: 233.15, rh: 0 })).toBeNull();
  expect(weatherFailure({ p_Pa: 110_000, T_K: 333.15, rh: 1 })).toBeNull();
  expect(weatherFailure({ p_Pa: 49_999, T_K: 400, rh: 9 })?.error).toBe('pressure_out_of_range');
  expect(weatherFailure({ p_Pa: 99_000, T_K: 400, rh: 9 })?.error).toBe('temperature_out_of_range');
  expect(weatherFailure({ p_Pa: 99_000, T_K: 300, rh: 1.01 })?.error).toBe('humidity_out_of_range');
  expect(isFailure(airState({ p_Pa: NaN, T_K: 300, rh: 0 }))).toBe(true);
});

it('station pressure falls with height and equals the setting at sea level', () => {
  expect(stationPressure(101_325, 0)).toBeCloseTo(101_325, 3);
  expect(stationPressure(101_325, 1500)).toBeLessThan(stationPressure(101_325, 500));
  expect(densityAltitude(1.1)).toBeGreaterThan(densityAltitude(1.2));
});
