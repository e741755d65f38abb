import { failure, type Failure } from '../failure';

/** Between which points of two holes a caliper was held. */
export type SpanBy = 'centres' | 'inside edges' | 'outside edges' | 'same edges';

/**
 * Distance between the centres of two holes, m, from a caliper reading the way it is taken. `same edges`: from one hole's
 * edge to the other's edge of the same side. Refuses holes that would have to overlap.
 */
export function centreSpan(by: SpanBy, reading_m: number, holeA_m: number, holeB_m: number = holeA_m): number | Failure {
  if (!(reading_m > 0) || !(holeA_m > 0) || !(holeB_m > 0)) return failure('bad_geometry', { reason: 'size_not_positive' });
  const both = (holeA_m + holeB_m) / 2;
  const span = {
    centres: reading_m,
    'inside edges': reading_m + both,
    'outside edges': reading_m - both,
    'same edges': reading_m + (holeA_m - holeB_m) / 2,
  }[by];
  return span > both ? span : failure('bad_geometry', { reason: 'holes_overlap', facts: { span_m: span, holes_m: both } });
}

export interface Reading {
  readonly mean_m: number;
  /** Largest less smallest of the readings, m: how far they can be trusted. */
  readonly spread_m: number;
  readonly count: number;
}

/** Readings that differ by more than this were not taken of the same thing, or not square to it. */
export const READING_SPREAD_m = 0.0003;

/** Several readings of one thing as one figure. */
export function averageReading(readings_m: readonly number[]): Reading | Failure {
  if (readings_m.length === 0 || !readings_m.every((r) => r > 0)) return failure('bad_input', { reason: 'reading' });
  const mean_m = readings_m.reduce((a, b) => a + b, 0) / readings_m.length;
  return { mean_m, spread_m: Math.max(...readings_m) - Math.min(...readings_m), count: readings_m.length };
}
