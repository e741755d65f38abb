import type { SideMark } from '../compare/permutation';
import type { StoredPass } from '../documents/strip';
import { type Failure } from '../failure';
import { type SidesAnswer } from '../inference/answer';
import type { TestCosts } from '../inference/design';
import { type NextAnswer } from '../inference/next';
import { type Prediction } from '../inference/predict';
import { type StudyRun } from '../inference/study';
import { type AirOfPass } from './air-of-day';
import { type PassPower } from './estimates';
import { type PowerKind } from './passes';
import { type Slip } from '../documents/slip';

/** What a pass is judged by. Lower is better for times, higher for the trap speed. */
export const STRIP_MEASURES = ['et_s', 'trap_mps', 'sixty_s'] as const;
export type StripMeasure = (typeof STRIP_MEASURES)[number];
/** Stretches of the course that tell where the difference was made. */
export const STRIP_PARTS = ['launch', 'traction', 'power'] as const;
export type StripPart = (typeof STRIP_PARTS)[number];

/** Distances that are timed, the longest first. Each has an effect of its own: they are never put into one pot. */
export const STRIP_DISTANCES = ['quarter', 'thousand', 'eighth'] as const;
export type StripDistance = (typeof STRIP_DISTANCES)[number];

export interface ReadPass {
  readonly stored: StoredPass;
  readonly visit: string;
  readonly side: SideMark;
  readonly slip: Slip;
  /** Over the day's own course. */
  readonly et_s: number | null;
  readonly trap_mps: number | null;
  readonly sixty_s: number | null;
  /** Minutes on the night's clock; null: no time of day. */
  readonly minute: number | null;
  readonly weather: AirOfPass | null;
  readonly densityAltitude_m: number | null;
  /** As it would have been in the reference air; null where its air is not known. */
  readonly corrected: { readonly et_s: number; readonly trap_mps: number; readonly factor: number } | null;
  readonly power: PassPower | null;
  readonly doubtful: boolean;
}

export interface MeasuredEffect {
  readonly answer: SidesAnswer;
  /** What a metre of density altitude does; null: the air of some pass is not known, and it was not taken out. */
  readonly perMetre: number | null;
  /** Means as they were driven. */
  readonly meanA: number;
  readonly meanB: number;
  /** The passes it stands on, in order, and their stays. */
  readonly passes: readonly ReadPass[];
  readonly stays: number;
  /** Values the inference took, for what would tell next. */
  readonly runs: readonly StudyRun[];
}

export interface StripPair {
  readonly a: ReadPass;
  readonly b: ReadPass;
  readonly apart_m: number;
}

/** Something other than the unit that goes with the sides. Figures are SI. */
export type StripWarning =
  | { readonly code: 'sides_by_day' }
  | { readonly code: 'one_stay' }
  | { readonly code: 'lane'; readonly a: string; readonly b: string }
  | { readonly code: 'mass'; readonly apart_kg: number }
  | { readonly code: 'tyre' | 'launch' | 'coolant' | 'inlet'; readonly apart: number }
  | { readonly code: 'no_air'; readonly passes: number }
  | { readonly code: 'distances'; readonly others: readonly { readonly distance: StripDistance; readonly passes: number }[] };

export interface DistanceEffect {
  readonly distance: StripDistance;
  readonly et_s: MeasuredEffect | Failure;
  readonly trap_mps: MeasuredEffect | Failure | null;
}

/** What the next pass on a side would do in the air of the last. */
export interface NextPass {
  readonly side: SideMark;
  readonly et: Prediction | null;
  readonly trap: Prediction | null;
}

export interface StripAnalysis {
  readonly passes: readonly ReadPass[];
  readonly countA: number;
  readonly countB: number;
  /** The distance that decides: the longest that both sides have driven. */
  readonly distance: StripDistance;
  readonly effects: Readonly<Record<StripMeasure, MeasuredEffect | Failure>>;
  /** The other distances that both sides have driven, each by itself. */
  readonly others: readonly DistanceEffect[];
  /** Seconds from 60 to 330 ft, side B less side A. */
  readonly traction: MeasuredEffect | Failure;
  /** Which part of the course moved for certain; empty: none did. */
  readonly moved: readonly { readonly part: StripPart; readonly better: boolean }[];
  readonly pairs: readonly StripPair[];
  /** Change of power by the trap speed and by the time, as shares with their intervals (ΔP/P = 3·ΔV/V and −3·ΔET/ET). */
  readonly powerBySpeed: { readonly share: number; readonly low: number; readonly high: number } | null;
  readonly powerByTime: { readonly share: number; readonly low: number; readonly high: number } | null;
  readonly warnings: readonly StripWarning[];
  /** What the next pass or stay would tell, of the measure that decides; null where the word stands. */
  readonly next: NextAnswer | null;
  readonly coming: readonly NextPass[];
}

export interface StripThresholds {
  readonly et_s: number;
  readonly trap_mps: number;
  readonly sixty_s: number;
}

export interface StripOptions {
  readonly kind: PowerKind;
  readonly unitId: string | null;
  readonly thresholds?: StripThresholds | undefined;
  readonly costs?: Partial<TestCosts> | undefined;
  /** The shop's own history, by what is measured. */
  readonly history?: { readonly stripTime?: readonly number[]; readonly stripSpeed?: readonly number[] } | undefined;
}
