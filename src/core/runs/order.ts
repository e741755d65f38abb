import type { StoredRun } from '../documents/run';
import type { SideRun } from './side-run';
import type { DynoRun } from './dyno-run';

/** What the order of runs rests on, the surest first. */
export const ORDER_BASES = [
  'as arranged by hand',
  'times in the files',
  'times of the files',
  'numbers in the names',
  'as they came in',
] as const;
export type OrderBasis = (typeof ORDER_BASES)[number];

export interface Ordered<T> {
  readonly runs: readonly T[];
  readonly basis: OrderBasis;
  /** Nothing says in which order they were driven: no drift is to be read out of it. */
  readonly guessed: boolean;
}

type Orderable = Pick<StoredRun, 'doc'> & Partial<Pick<StoredRun, 'logId' | 'firstRow' | 'fileName'>>;

/** Files whose own times are nearer than this were copied or loaded together. */
const APART_s = 2;

const secondsOf = (text: string | null | undefined): number | null => {
  const ms = text ? Date.parse(text) : NaN;
  return Number.isFinite(ms) ? ms / 1000 : null;
};

/** When a run was run, s, as its file or a person says; null: neither does. */
function stampOf({ doc }: Orderable): number | null {
  const day = doc.takenOn ? secondsOf(`${doc.takenOn}T00:00:00Z`) : null;
  const said = day !== null && doc.takenAt ? secondsOf(`${doc.takenOn}T${doc.takenAt}:00Z`) : null;
  const stamped = secondsOf(doc.came?.stampedAt);
  // A stamp in the file is finer than a time of day in minutes, unless a person has said another since.
  if (stamped !== null && (said === null || Math.abs(stamped - said) < 60)) return stamped;
  return said;
}

export interface NameNumber {
  readonly value: number;
  /** The rest of the name, where the number stands alone in it: it counts runs only beside names of the same rest. */
  readonly stem: string | null;
}

/**
 * The number in a file's name that may count runs: behind the words run, pull or the like, or the only one there is (which
 * may as well be a bore: it needs names that differ in nothing else). Null: there is none, or the name was given here.
 */
export function numberInName(name: string): NameNumber | null {
  if (/^pasted \d+/i.test(name)) return null;
  const bare = name.replace(/\.[A-Za-z0-9]{1,5}$/, '').replace(/\d{4}-\d{2}-\d{2}|\d{8}/g, ' ');
  const said = /(?:run|pull|lauf|no|nr|#|messung|test)[\s._-]*0*(\d{1,4})(?!\d)/i.exec(bare)?.[1];
  if (said !== undefined) return { value: Number(said), stem: null };
  const all = bare.match(/(?<![\d.,])\d{1,4}(?![\d.,]*\d)/g) ?? [];
  return all.length === 1 ? { value: Number(all[0]), stem: bare.replace(all[0], '#').toLowerCase() } : null;
}

/** The number by which a run of several stands among them; null where the names do not count alike. */
function numberAmong(runs: readonly Orderable[]): (run: Orderable) => number | null {
  const found = runs.map((r) => numberInName(r.fileName ?? r.doc.name));
  const stems = new Set(found.map((f) => f?.stem ?? null));
  const alike = stems.size === 1;
  return (run) => (alike ? (found[runs.indexOf(run)]?.value ?? null) : null);
}

/** Keys that order runs of different files: each has one, and no two files share it within `apart`. */
function decides(
  runs: readonly Orderable[],
  keyOf: (run: Orderable) => number | null,
  apart: number,
): ReadonlyMap<Orderable, number> | null {
  const keys = new Map<Orderable, number>();
  for (const run of runs) {
    const value = keyOf(run);
    if (value === null) return null;
    keys.set(run, value);
  }
  const sorted = [...runs].sort((a, b) => keys.get(a)! - keys.get(b)!);
  const tied = sorted.some((r, i) => i > 0 && r.logId !== sorted[i - 1]!.logId && keys.get(r)! - keys.get(sorted[i - 1]!)! < apart);
  return tied ? null : keys;
}

/**
 * Runs in the order they were driven, and what that rests on: as a person arranged them; the times in the files; the times of
 * the files; the numbers in their names; else as they came in, which is a guess. Pulls of one file keep their order in it.
 */
export function inOrder<T extends Orderable>(runs: readonly T[]): Ordered<T> {
  const inFile = (a: Orderable, b: Orderable): number =>
    a.logId !== undefined && a.logId === b.logId ? (a.firstRow ?? 0) - (b.firstRow ?? 0) : 0;
  const by = (keys: ReadonlyMap<Orderable, number>, basis: OrderBasis): Ordered<T> => ({
    runs: [...runs].sort((a, b) => keys.get(a)! - keys.get(b)! || inFile(a, b)),
    basis,
    guessed: false,
  });
  const hand = decides(runs, (r) => r.doc.place ?? null, 1e-9);
  if (hand) return by(hand, 'as arranged by hand');
  const stamps = decides(runs, stampOf, 1e-3);
  if (stamps) return by(stamps, 'times in the files');
  const files = decides(runs, (r) => secondsOf(r.doc.came?.modifiedAt), APART_s);
  if (files) return by(files, 'times of the files');
  const numbers = decides(runs, numberAmong(runs), 0.5);
  if (numbers) return by(numbers, 'numbers in the names');
  // Days at least are known where a date stands in every run; within a day it is as they came.
  const day = (r: T): string => r.doc.takenOn ?? '';
  const minute = (r: T): string =>
    runs.every((o) => o.doc.takenOn !== r.doc.takenOn || o.doc.takenAt !== null) ? (r.doc.takenAt ?? '') : '';
  const came = (r: T): number => r.doc.came?.nth ?? 0;
  const guess = [...runs].sort(
    (a, b) => day(a).localeCompare(day(b)) || minute(a).localeCompare(minute(b)) || came(a) - came(b) || inFile(a, b),
  );
  return { runs: guess, basis: 'as they came in', guessed: runs.length > 1 && new Set(runs.map((r) => r.logId ?? r)).size > 1 };
}

/** Runs in the order they were driven, as far as it is known. */
export const sortedByTime = <T extends Orderable>(runs: readonly T[]): T[] => [...inOrder(runs).runs];

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
  readingError_pct: stored.doc.picture?.error_pct ?? 0,
  order,
  newStay: stored.doc.restrapped,
  start_K: run.inletAirStart_K ?? run.coolantStart_K ?? undefined,
});
