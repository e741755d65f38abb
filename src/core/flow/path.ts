import type { Bend } from './losses';
import type { Throttle } from './throttle';

/** How a part meets the next one. */
export interface Join {
  /** Half-angle of the transition, rad; π/2 is a bare step. */
  readonly halfAngle_rad?: number | undefined;
  readonly edgeRadius_m?: number | undefined;
  /** Distance between the centres of the two openings, m. */
  readonly offset_m?: number | undefined;
}

interface PartBase {
  readonly name?: string | undefined;
  readonly join?: Join | undefined;
  /** A bench figure takes the place of the part's own K. */
  readonly benchFlow_m3ps?: number | undefined;
  readonly benchDepression_Pa?: number | undefined;
  readonly benchEntryK?: number | undefined;
  /** Pulsation factor of this part and of the junction into it, where it is not the path's. */
  readonly pulsationFactor?: number | undefined;
}

interface Sized {
  readonly bore_m?: number | undefined;
  readonly area_m2?: number | undefined;
}

export interface OpenEnd extends PartBase, Sized {
  readonly type: 'openEnd';
  readonly edgeRadius_m?: number | undefined;
}
export interface Filter extends PartBase, Sized {
  readonly type: 'filter';
  readonly ratedFlow_m3ps: number;
  readonly ratedLoss_Pa: number;
  /** 1 clean, 2 due for service. */
  readonly loading?: number | undefined;
}
export interface Pipe extends PartBase {
  readonly type: 'pipe';
  readonly bore_m: number;
  readonly length_m: number;
  readonly roughness_m?: number | undefined;
  readonly bends?: readonly Bend[] | undefined;
  readonly count?: number | undefined;
}
export interface Meter extends PartBase, Sized {
  readonly type: 'meter';
  readonly K?: number | undefined;
}
export interface ThrottlePart extends PartBase {
  readonly type: 'throttle';
  readonly throttle: Throttle;
}
export interface Taper extends PartBase {
  readonly type: 'taper';
  readonly inBore_m: number;
  readonly outBore_m: number;
  readonly halfAngle_rad: number;
  readonly edgeRadius_m?: number | undefined;
}
export interface Section extends PartBase, Sized {
  readonly type: 'section';
  readonly K?: number | undefined;
}
export interface BenchPart extends PartBase, Sized {
  readonly type: 'bench';
}

/** One part of an intake, in order from open air inwards. Metres, square metres, radians. Airflow basis §5. */
export type PathPart = OpenEnd | Filter | Pipe | Meter | ThrottlePart | Taper | Section | BenchPart;

export type PathEnd = 'dump' | 'compressor';

export interface Path {
  readonly parts: readonly PathPart[];
  readonly pulsationFactor?: number | undefined;
}
