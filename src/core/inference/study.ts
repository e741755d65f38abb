import { failure, type Failure } from '../failure';
import type { Components } from './rig';

/** A run as the inference takes it, in time order within its visit. */
export interface StudyRun {
  readonly side: 'A' | 'B';
  readonly value: number;
  /** The day on the rig it belongs to; one for all where it is left out. */
  readonly visit?: string | number | undefined;
  /** Stays of one side that follow one another are told apart by this, or by `newStay`. */
  readonly stay?: string | number | undefined;
  readonly newStay?: boolean | undefined;
  /** Temperature at the start, K: counts only where every run has it. */
  readonly start_K?: number | undefined;
  readonly densityAltitude_m?: number | undefined;
  /** Stretch of road and direction; the outing whose wind it shares. */
  readonly place?: string | undefined;
  readonly wind?: string | undefined;
  /** Variance that the reading of this run's value adds to it, in the unit squared. */
  readonly readingVariance?: number | undefined;
}

export const GROUPS = ['run', 'refit', 'day', 'sideByVisit', 'drift', 'warmup', 'weather', 'place', 'wind', 'reading'] as const;
export type Group = (typeof GROUPS)[number];

/** A column of the model: its entries by run, its group, and its prior sd where that is fixed. */
export interface Column {
  readonly group: Exclude<Group, 'run' | 'reading'>;
  readonly entries: Float64Array;
  /** Prior sd, in the unit; of refit and day the rig's own, scaled by the node's octave. */
  readonly sd: number;
}

/** Runs laid out for the inference: stays found, positions counted, columns made. */
export interface Study {
  readonly runs: readonly StudyRun[];
  readonly n: number;
  /** Value less the mean of all. */
  readonly y: Float64Array;
  readonly isB: Uint8Array;
  /** The stay of every run, and the visit. */
  readonly stay: Int32Array;
  readonly visit: Int32Array;
  readonly stays: number;
  readonly visits: readonly string[];
  /** Visits that had both parts. */
  readonly visitsWithBoth: number;
  readonly twoSided: boolean;
  readonly columns: readonly Column[];
}

export interface Covariate {
  readonly values: readonly number[];
  readonly sd: number;
}

/** No runs, a side that is none, a figure that is none: in this order. `oneSided` allows repeat baselines. */
export function studyFailure(runs: readonly StudyRun[], oneSided = false): Failure | null {
  if (runs.length === 0) return failure('too_few_runs');
  for (const [i, r] of runs.entries())
    if ((r.side !== 'A' && r.side !== 'B') || !Number.isFinite(r.value)) return failure('bad_input', { facts: { run: i } });
  if (!oneSided && runs.every((r) => r.side === runs[0]!.side)) return failure('one_side_only');
  return null;
}

const visitOf = (r: StudyRun): string => String(r.visit ?? 1);

/** The stay of every run: another visit, side or label, or a run that says so, opens a new one. */
export function staysOf(runs: readonly StudyRun[]): Int32Array {
  const out = new Int32Array(runs.length);
  let stay = -1;
  runs.forEach((r, i) => {
    const last = runs[i - 1];
    if (!last || visitOf(last) !== visitOf(r) || last.side !== r.side || last.stay !== r.stay || r.newStay === true) stay += 1;
    out[i] = stay;
  });
  return out;
}

/** Lays runs out as a study. The runs must have passed `studyFailure`. Testing basis §4.2. */
export function studyOf(runs: readonly StudyRun[], sizes: Components, covariates: readonly Covariate[] = []): Study {
  const n = runs.length;
  const mean = runs.reduce((s, r) => s + r.value, 0) / n;
  const stay = staysOf(runs);
  const visits = [...new Set(runs.map(visitOf))];
  const visit = Int32Array.from(runs, (r) => visits.indexOf(visitOf(r)));
  const isB = Uint8Array.from(runs, (r) => (r.side === 'B' ? 1 : 0));
  const position = new Float64Array(n);
  const counted = new Float64Array(visits.length);
  for (let i = 0; i < n; i += 1) position[i] = counted[visit[i]!]!++;
  const stays = stay[n - 1]! + 1;
  const columns: Column[] = [];
  const add = (group: Column['group'], sd: number, entry: (i: number) => number): void => {
    if (sd > 0 || group === 'refit') columns.push({ group, sd, entries: Float64Array.from(runs, (_, i) => entry(i)) });
  };
  for (let s = 0; s < stays; s += 1) add('refit', sizes.refit, (i) => (stay[i] === s ? 1 : 0));
  visits.forEach((_, v) => {
    const inside = (i: number): boolean => visit[i] === v;
    add('day', sizes.day, (i) => (inside(i) ? 1 : 0));
    add('sideByVisit', sizes.sideByVisit, (i) => (inside(i) ? isB[i]! - 0.5 : 0));
    const middle = (counted[v]! - 1) / 2;
    add('drift', sizes.drift, (i) => (inside(i) ? position[i]! - middle : 0));
    add('warmup', sizes.warmup, (i) => (inside(i) ? Math.exp(-position[i]! / 2) : 0));
  });
  const starts = runs.map((r) => r.start_K);
  const all = [...covariates];
  if (starts.every((t): t is number => t !== undefined && Number.isFinite(t))) all.push({ values: starts, sd: sizes.start });
  for (const { values, sd } of all) {
    const middle = values.reduce((s, v) => s + v, 0) / n;
    add('weather', sd, (i) => values[i]! - middle);
  }
  for (const key of ['place', 'wind'] as const) {
    const labels = [...new Set(runs.flatMap((r) => (r[key] === undefined ? [] : [r[key]])))];
    for (const label of labels) add(key, sizes[key], (i) => (runs[i]![key] === label ? 1 : 0));
  }
  const both = visits.filter((_, v) => new Set(runs.filter((_r, i) => visit[i] === v).map((r) => r.side)).size === 2);
  return {
    runs,
    n,
    y: Float64Array.from(runs, (r) => r.value - mean),
    isB,
    stay,
    visit,
    stays,
    visits,
    visitsWithBoth: both.length,
    twoSided: new Set(isB).size === 2,
    columns,
  };
}
