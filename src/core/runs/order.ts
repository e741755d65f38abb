import type { StoredRun } from '../documents/run';
import type { SideRun } from '../compare/sides';
import type { DynoRun } from './dyno-run';

/**
 * Runs in the order they were driven: by date, then by time of day where every run of that day says it, else as they came
 * in.
 */
export function sortedByTime<T extends Pick<StoredRun, 'doc'>>(runs: readonly T[]): T[] {
  const clocked = (date: string | null): boolean => runs.every((r) => r.doc.takenOn !== date || r.doc.takenAt !== null);
  const keys = new Map(runs.map((r) => [r, `${r.doc.takenOn ?? ''} ${clocked(r.doc.takenOn) ? r.doc.takenAt : ''}`]));
  return [...runs].sort((x, y) => (keys.get(x)! < keys.get(y)! ? -1 : keys.get(x)! > keys.get(y)! ? 1 : 0));
}

/** The day at the dyno a run belongs to: as named, else its date. */
export const visitOf = (doc: Pick<StoredRun['doc'], 'visit' | 'takenOn'>): string => doc.visit.trim() || (doc.takenOn ?? '');

export interface ReadyRun {
  readonly stored: StoredRun;
  readonly run: DynoRun;
}

/** A prepared run as the comparison takes it. */
export const sideRun = ({ stored, run }: ReadyRun, order: number): SideRun => ({
  rpm: run.rpm,
  power_W: run.power_W,
  visit: visitOf(stored.doc),
  carriedSmoothing_rpm: stored.doc.carriedSmoothing_rpm,
  order,
});
