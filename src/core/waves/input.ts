import { cylinderVolume, liftAt, seatDuration, valveArea, CYCLE_rad, type CylinderShape, type Lobe } from './valves';
import type { Mouth } from './mouth';
import type { Segment, StandingLoss } from './shape';

const DEGREE = Math.PI / 180;

export interface ValveInput {
  readonly count?: number | undefined;
  readonly diameter_m?: number | undefined;
  readonly lift_m?: number | undefined;
  /** At the seat; or `durationAt_rad` told at `durationLift_m`. */
  readonly duration_rad?: number | undefined;
  readonly durationAt_rad?: number | undefined;
  readonly durationLift_m?: number | undefined;
  readonly centre_rad?: number | undefined;
}

export interface RunnerInput {
  /** From its mouth to the valve. */
  readonly segments: readonly Segment[];
  readonly mouth?: Mouth | undefined;
  /** Placed from the mouth, without its end correction. */
  readonly losses?: readonly StandingLoss[] | undefined;
  /** Straight runners of unequal length, cylinder 1 first, with the bore of `segments`. */
  readonly lengthOf_m?: readonly number[] | undefined;
  readonly roughness_m?: number | undefined;
  readonly wall_K?: number | undefined;
  /** Length the air inside a plenum adds to each runner, m; without a plenum the open end has its own. */
  readonly endCorrection_m?: number | undefined;
}

export interface PipeInput {
  readonly segments: readonly Segment[];
  readonly mouth?: Mouth | undefined;
  readonly losses?: readonly StandingLoss[] | undefined;
  /** Loss of its bends, spread over the whole pipe. */
  readonly bendsK?: number | undefined;
  readonly roughness_m?: number | undefined;
  readonly wall_K?: number | undefined;
}

/** What the unsteady inlet is reckoned from. SI throughout; angles rad from the cylinder's own firing top dead centre. */
export interface WaveEngine {
  readonly ambient?: { readonly p_Pa?: number | undefined; readonly T_K?: number | undefined } | undefined;
  /** Of the air drawn in; the ambient's where it is not warmer. */
  readonly inletT_K?: number | undefined;
  readonly engine: {
    readonly displacement_m3: number;
    readonly cylinders: number;
    readonly compressionRatio: number;
    readonly bore_m?: number | undefined;
    readonly lambda?: number | undefined;
    readonly maxRpm_rpm?: number | undefined;
    /** Heat passed by the cylinder's walls, W/(m²·K), and their temperature, K. */
    readonly hw?: number | undefined;
    readonly wall_K?: number | undefined;
    /** Temperature of the gas when the exhaust valve opens, K. */
    readonly exhaust_K?: number | undefined;
    readonly firingOrder?: readonly number[] | undefined;
  };
  readonly inletValve?: ValveInput | undefined;
  readonly exhaustValve?: ValveInput | undefined;
  readonly runner: RunnerInput;
  readonly plenum?: { readonly volume_m3: number } | null | undefined;
  readonly throttle?: { readonly effectiveArea_m2: number } | null | undefined;
  readonly pipe?: PipeInput | null | undefined;
  readonly exhaust?:
    | {
        /** Back pressure at the largest speed, Pa; falls with the square of the speed. */
        readonly back_Pa?: number | undefined;
        readonly reverseT_K?: number | undefined;
        readonly primary?:
          | {
              readonly length_m: number;
              readonly bore_m: number;
              readonly endArea_m2?: number | undefined;
              readonly wall_K?: number | undefined;
            }
          | null
          | undefined;
      }
    | undefined;
}

/** A valve with its lobe: nothing left to be assumed. */
export interface Valve {
  readonly count: number;
  readonly diameter_m: number;
  readonly lobe: Lobe;
}

/** Usual figures where none are known. Source: docs/basis/waves.md §5. */
const ONE_VALVE = 0.44;
const TWO_VALVES = 0.36;
const EXHAUST_SHARE = 0.85;
const LIFT_SHARE = 0.25;
const STREET_DURATION_rad = 250 * DEGREE;
const INLET_CENTRE_rad = 2 * Math.PI + 108 * DEGREE;
const EXHAUST_CENTRE_rad = 2 * Math.PI - 112 * DEGREE;
export const ROD_RATIO = 0.3;

/** A valve as it is told, the rest by the usual figures for a cylinder of that bore. */
export function valveOf(input: ValveInput | undefined, bore_m: number, which: 'inlet' | 'exhaust'): Valve {
  const count = input?.count ?? 1;
  const usual = (count > 1 ? TWO_VALVES : ONE_VALVE) * bore_m * (which === 'exhaust' ? EXHAUST_SHARE : 1);
  const diameter_m = input?.diameter_m ?? usual;
  const lift_m = input?.lift_m ?? LIFT_SHARE * diameter_m;
  const duration_rad =
    input?.durationAt_rad !== undefined && input.durationLift_m !== undefined
      ? seatDuration(input.durationAt_rad, input.durationLift_m, lift_m)
      : (input?.duration_rad ?? STREET_DURATION_rad);
  const centre_rad = input?.centre_rad ?? (which === 'inlet' ? INLET_CENTRE_rad : EXHAUST_CENTRE_rad);
  return { count, diameter_m, lobe: { duration_rad, lift_m, centre_rad } };
}

/** How fine the tables of valve area and cylinder volume are: entries a cycle. Read between them they are right to 1e-6. */
const TABLE = 7200;

/** Effective area of a valve over the cycle, m², as a table read linearly; one entry more closes the cycle. */
export const valveTable = (valve: Valve, portArea_m2: number): Float64Array =>
  Float64Array.from({ length: TABLE + 1 }, (_, i) =>
    valveArea(valve.count, valve.diameter_m, liftAt(valve.lobe, (i / TABLE) * CYCLE_rad), portArea_m2),
  );

/** Cylinder volume over a turn, m³, as a table. */
export const volumeTable = (shape: CylinderShape): Float64Array =>
  Float64Array.from({ length: TABLE + 1 }, (_, i) => cylinderVolume(shape, (i / TABLE) * CYCLE_rad));

/** Reads a table over the cycle at an angle, rad. */
export function readTable(table: Float64Array, angle_rad: number): number {
  const at = (angle_rad / CYCLE_rad - Math.floor(angle_rad / CYCLE_rad)) * TABLE;
  const i = at | 0;
  const a = table[i]!;
  return a + (table[i + 1]! - a) * (at - i);
}
