import { airState } from '../air/state';
import { failure, isFailure, type Failure } from '../failure';
import { R_DRY } from '../flow/constants';

export interface Ambient {
  readonly p_Pa: number;
  readonly T_K: number;
  readonly rh?: number | undefined;
}

/** Crank power of the reference: worked out from its air, or given at each rpm. */
export type ReferencePower = { readonly bsfc_kgpJ: number; readonly afr: number } | { readonly value_W: readonly number[] };

/** What every engine is described by, whatever fills it. */
export interface EngineInput {
  readonly ambient: Ambient;
  readonly engine: { readonly displacement_m3: number; readonly compressionRatio: number; readonly stroke_m?: number | undefined };
  readonly rpm: readonly number[];
  readonly inletT_K?: number | undefined;
  /** Exhaust back pressure B at the largest reference flow, Pa. */
  readonly exhaust_Pa?: number | undefined;
  readonly power: ReferencePower;
  /** Stretch on the efficiency curve and on FMEP (1): an uncertainty run varies them. */
  readonly veFactor?: number | undefined;
  readonly frictionFactor?: number | undefined;
  /** Relative step at which a flow counts as found (the full 1e-9): an uncertainty run asks for less. */
  readonly flowStep?: number | undefined;
  /** A path that passes less than the engine would draw is a limit and not a failure (false). Airflow basis §8. */
  readonly chokedAsLimit?: boolean | undefined;
  /** The day's moist air in the engine's and the blower's equations in place of dry air (false). Airflow basis §8. */
  readonly moistAir?: boolean | undefined;
}

/** A hair inside a largest flow, where the ladder still has an answer. */
export const JUST_WITHIN = 1 - 1e-12;
/** Lowest pressure looked for behind a path that chokes, as a share of what its ladder still ends at. */
export const DEEPEST = 1e-9;

/** What a solved side says of engine speeds at which something ran into a wall. */
export interface SolvedLimits {
  /** Engine speed from which on its path chokes; null: nowhere. Missing where choking was not asked for as a limit. */
  chokedFrom_rpm?: number | null;
  /** Every engine speed at which it does. */
  choked_rpm?: readonly number[];
  /** Engine speeds at which the compressor adds nothing: solved as if it were by-passed. */
  without_rpm?: readonly number[];
  /** Engine speeds at which a measured boost cannot be with this blower: solved by the efficiency table. */
  unmeasured_rpm?: readonly number[];
}

/** Exhaust back pressure at the largest flow, Pa. Airflow basis §8. */
export const EXHAUST_BACK_PRESSURE_Pa = 15_000;

/** First thing that makes an engine impossible, or null. */
export function engineFailure(input: EngineInput): Failure | null {
  const { displacement_m3, compressionRatio } = input.engine;
  if (!(displacement_m3 > 0)) return failure('bad_input', { where: 'displacement_m3' });
  if (!(compressionRatio > 1)) return failure('bad_input', { where: 'compressionRatio' });
  if (input.rpm.length === 0 || !input.rpm.every((n) => n > 0)) return failure('bad_input', { where: 'rpm' });
  if ('value_W' in input.power && input.power.value_W.length !== input.rpm.length) return failure('bad_input', { where: 'power' });
  return null;
}

/** Gas constant, J/(kg·K), of the air in the engine's equations: dry, or where it is asked for the day's own. */
export function engineGas(input: EngineInput): number {
  if (!input.moistAir) return R_DRY;
  const air = airState({ p_Pa: input.ambient.p_Pa, T_K: input.ambient.T_K, rh: input.ambient.rh ?? 0 });
  return isFailure(air) ? R_DRY : air.gasConstant_JpkgK;
}

/** The engine speeds that choke, rpm, and the one from which on up to the highest of them all do; null: none. */
export function chokedAt(
  rpm: readonly number[],
  choked: readonly boolean[],
): Required<Pick<SolvedLimits, 'chokedFrom_rpm' | 'choked_rpm'>> {
  const falling = rpm.map((n, i) => ({ n, choked: choked[i]! })).sort((a, b) => b.n - a.n);
  const first = falling.findIndex((s) => s.choked);
  if (first < 0) return { chokedFrom_rpm: null, choked_rpm: [] };
  const end = falling.findIndex((s, i) => i > first && !s.choked);
  return { chokedFrom_rpm: falling[(end < 0 ? falling.length : end) - 1]!.n, choked_rpm: rpm.filter((_, i) => choked[i]) };
}

export const inletTemperature = (input: EngineInput): number => input.inletT_K ?? input.ambient.T_K;

/** The reference's crank power, W, at one rpm: given, or from its air (kg/s). */
export const referencePower = (input: EngineInput, index: number, massFlow_kgps: number): number =>
  'value_W' in input.power ? input.power.value_W[index]! : massFlow_kgps / (input.power.bsfc_kgpJ * input.power.afr);
