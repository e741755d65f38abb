/** Specific gas constant of dry air, J/(kg·K). */
export const R_DRY = 287.058;
/** Specific gas constant of water vapour, J/(kg·K). */
export const R_VAPOUR = 461.495;
/** Ratio of specific heats of air. */
export const GAMMA = 1.4;
/** Specific heat of air at constant pressure, J/(kg·K). */
export const C_P = (GAMMA * R_DRY) / (GAMMA - 1);
/** Bench air: the dry state a bench flow figure is taken at unless its record says otherwise. */
export const BENCH_PRESSURE_Pa = 101_325;
export const BENCH_TEMPERATURE_K = 293.15;
export const BENCH_DENSITY_kgpm3 = BENCH_PRESSURE_Pa / (R_DRY * BENCH_TEMPERATURE_K);
/** 0 °C in kelvin. */
export const ZERO_CELSIUS_K = 273.15;
/** Standard gravity, m/s². */
export const GRAVITY_mps2 = 9.80665;
