import type { Wanted } from './issue';

/** What a figure may be, SI; what is left out is no bound. Typed figures and stored ones are held to the same. */
export interface Within {
  readonly least?: number;
  readonly more?: number;
  readonly most?: number;
  readonly less?: number;
  /** Counted, not measured. */
  readonly whole?: true;
}

/** What a figure would have to be instead, or null where it lies within. */
export function notWithin(si: number, { least, more, most, less, whole }: Within): Wanted | null {
  if (!Number.isFinite(si)) return { kind: 'figure' };
  if (least !== undefined && si < least) return { kind: 'least', bound: least };
  if (more !== undefined && si <= more) return { kind: 'more', bound: more };
  if (most !== undefined && si > most) return { kind: 'most', bound: most };
  if (less !== undefined && si >= less) return { kind: 'less', bound: less };
  return whole && !Number.isInteger(si) ? { kind: 'whole number' } : null;
}

/** A hair of slack at the ends: −40 and 60 °C typed are not quite 233.15 and 333.15 K. */
export const WEATHER = {
  p_Pa: { least: 50_000, most: 110_000 },
  T_K: { least: 233.149, most: 333.151 },
  rh: { least: 0, most: 1 },
} as const satisfies Readonly<Record<string, Within>>;
/** Coolant, oil and the air an engine draws. */
export const CAR_TEMPERATURE_K: Within = { least: 233, most: 450 };
export const TYRE_Pa: Within = { least: 20_000, most: 500_000 };
export const LAUNCH_rpm: Within = { least: 300, most: 15_000 };
/** Car, driver and fuel. */
export const CAR_MASS_kg: Within = { least: 200, most: 5000 };
export const ENTRY_FEE: Within = { least: 0, most: 100_000 };
export const PASS_FEE: Within = { least: 0, most: 10_000 };
/** A manifold sensor's reading with the engine off. */
export const KEY_ON_Pa: Within = { least: 50_000, most: 120_000 };
/** What flows through one part on a bench, m³/s, and what a bench pulls, Pa. */
export const BENCH_FLOW_m3ps: Within = { more: 0, most: 5 };
export const BENCH_DEPRESSION_Pa: Within = { more: 0, most: 50_000 };
/** Round a shut blade: farther than a millimetre from the wall it is not shut. */
export const CLEARANCE_m: Within = { least: 0, most: 0.001 };
/** How far each input of the sizing may be off, as a share. */
export const TOLERANCE = {
  ve: { least: 0, most: 0.5 },
  K: { least: 0, most: 0.9 },
  eta0: { least: 0, most: 0.3 },
  bench: { least: 0, most: 0.3 },
  fmep: { least: 0, most: 0.9 },
} as const satisfies Readonly<Record<string, Within>>;
export const HOURLY: Within = { least: 0, most: 10_000 };
export const COST = { least: 0, most: 1_000_000 } as const satisfies Within;
/** Before a pull, min. */
export const REST_min: Within = { least: 0, most: 600 };
/** How much power a part brought, as a person answers it, %. */
export const ANSWER_pct: Within = { least: -100, most: 100 };
/** Out of one bag. */
export const FASTENERS: Within = { least: 0, most: 200, whole: true };
/** On a tachometer, a running engine or not. */
export const TACHOMETER_rpm: Within = { least: 0, most: 25_000 };
export const ENGINE_SPEED_rpm: Within = { more: 0, most: 25_000 };
