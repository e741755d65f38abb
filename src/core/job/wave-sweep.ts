import type { WaveEngine } from '../waves/input';
import { coarseFirst } from './wave-answer';
import { tried, type InletFigures, type WaveSetup } from './wave-inlet';

/** Runner lengths and engine speeds of a map of filling. */
export interface WaveGrid {
  readonly lengths_m: readonly number[];
  readonly rpm: readonly number[];
}

/** Points of the largest map that is computed at once, the inlet as it is included. */
export const MOST_GRID_POINTS = 4000;
export const gridPoints = ({ lengths_m, rpm }: WaveGrid): number => (lengths_m.length + 1) * rpm.length;

/** The engine at every point of a map, row after row: the inlet as it is first, then each length. */
export function gridTasks(setup: WaveSetup, now: InletFigures, { lengths_m, rpm }: WaveGrid): { engine: WaveEngine; rpm: number }[] {
  return [now.length_m, ...lengths_m].flatMap((length_m) => {
    const figures = tried(now, { length_m, mouthBore_m: null, plenum_m3: null });
    return rpm.map((n) => ({ engine: setup.engineAt(figures, n), rpm: n }));
  });
}

/**
 * The order in which a map is best computed: the inlet as it is, for everything is told beside it; then every length at every
 * other speed, widest gaps first; then what lies between.
 */
export function gridOrder(lengths: number, speeds: number): number[] {
  const rows = coarseFirst(lengths).map((r) => r + 1);
  const columns = coarseFirst(speeds);
  const half = Math.ceil(columns.length / 2);
  const cell = (r: number, c: number): number => r * speeds + c;
  return [
    ...columns.map((c) => cell(0, c)),
    ...rows.flatMap((r) => columns.slice(0, half).map((c) => cell(r, c))),
    ...rows.flatMap((r) => columns.slice(half).map((c) => cell(r, c))),
  ];
}
