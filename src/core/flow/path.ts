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
  /** How far that figure may be off, as a share, where it is not what a reading may be. */
  readonly benchTolerance?: number | undefined;
  /** Pulsation factor of this part and of the junction into it, where it is not the path's. */
  readonly pulsationFactor?: number | undefined;
  /**
   * Share of the cycle over which this part's flow comes, as one half-sine: one cylinder's own throttle. Its loss is then that
   * of the pulse, and it chokes where the pulse does, in place of a factor on the mean flow's (a filter keeps its factor).
   */
  readonly eventShare?: number | undefined;
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

/** A throat that a class of racing prescribes, or a bare plate. Airflow basis §5. */
export interface Restrictor extends PartBase {
  readonly type: 'restrictor';
  readonly bore_m: number;
  readonly count?: number | undefined;
  /** With a diffuser behind it, or without (venturi). */
  readonly kind?: 'venturi' | 'plate' | undefined;
  readonly Cd?: number | undefined;
  /** Share of the throat's dynamic head that is won back behind it. */
  readonly recovery?: number | undefined;
}

/** One part of an intake, in order from open air inwards. Metres, square metres, radians. Airflow basis §5. */
export type PathPart = OpenEnd | Filter | Pipe | Meter | ThrottlePart | Taper | Section | BenchPart | Restrictor;

export type PathEnd = 'dump' | 'compressor';

export interface Path {
  readonly parts: readonly PathPart[];
  readonly pulsationFactor?: number | undefined;
}
