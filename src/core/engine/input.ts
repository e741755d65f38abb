import { failure, type Failure } from '../failure';

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
  readonly engine: { readonly displacement_m3: number; readonly compressionRatio: number };
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

export const inletTemperature = (input: EngineInput): number => input.inletT_K ?? input.ambient.T_K;

/** The reference's crank power, W, at one rpm: given, or from its air (kg/s). */
export const referencePower = (input: EngineInput, index: number, massFlow_kgps: number): number =>
  'value_W' in input.power ? input.power.value_W[index]! : massFlow_kgps / (input.power.bsfc_kgpJ * input.power.afr);
