import type { MeasuredCurve } from '../documents/job';
import type { Quantity } from '../documents/run';
import { powerOf } from '../engine/power';
import { columnFacts, guessChannels, type Doubt, type GuessedChannel } from './guess';
import { TableReader } from './reader';
import { columnValues, type ReadColumn } from './result';
import { toSI, unitById, unitByWord, type Dimension } from '../units/units';

export const CURVE_KINDS = ['power', 'boost', 'air'] as const;
export type CurveKind = (typeof CURVE_KINDS)[number];

/** What is odd about a table before it can be a curve. Rows count from 1. */
export type CurveIssue =
  | { readonly code: 'twice'; readonly row: number; readonly first: number; readonly rpm: number }
  | { readonly code: 'falling'; readonly row: number; readonly rpm: number; readonly before: number }
  | { readonly code: 'no_figure'; readonly row: number }
  | { readonly code: 'below_zero'; readonly row: number; readonly value: number };

/** What a table does not say and a curve needs: it is asked, and nothing is taken until it is answered. */
export type CurveQuestion =
  | { readonly code: 'unit'; readonly column: string; readonly dimension: Dimension }
  /** Gauge or absolute pressure. */
  | { readonly code: 'reference'; readonly column: string }
  /** A curve at the wheels: what the drivetrain takes has to be known before it can stand for the engine. */
  | { readonly code: 'loss'; readonly column: string };

/** What a person has said of a table. */
export interface CurveSaid {
  readonly unit?: string | undefined;
  readonly reference?: 'gauge' | 'absolute' | undefined;
  /** Share of the engine's power that does not arrive at the wheels. */
  readonly lossShare?: number | undefined;
  /** The air outside, Pa: taken off an absolute pressure. */
  readonly ambient_Pa?: number | undefined;
}

export interface CurveTable {
  readonly rpmColumn: string;
  readonly valueColumn: string;
  readonly unit: string;
  /** Torque was given: it has been turned into power. */
  readonly fromTorque: boolean;
  /** An absolute pressure was given: the air outside has been taken off. */
  readonly fromAbsolute?: boolean;
  readonly rows: readonly { readonly rpm: number; readonly value: number }[];
  readonly issues: readonly CurveIssue[];
  /** The unit was found by other means than its name; the words for it. */
  readonly doubt?: Doubt | null;
  readonly questions?: readonly CurveQuestion[];
  /** Columns that are not used. */
  readonly unused?: readonly string[];
}

export type CurveRefusal = {
  readonly refused: 'empty' | 'not_a_table' | 'one_column' | 'no_rpm' | 'no_value' | 'too_few' | 'rpm_unit';
  /** Names of the columns that were found. */
  readonly columns: readonly string[];
};

const QUANTITIES: Readonly<Record<CurveKind, readonly Quantity[]>> = {
  power: ['power', 'torque'],
  boost: ['boost', 'manifold pressure'],
  air: ['air mass flow'],
};
const DIMENSIONS: Readonly<Record<CurveKind, Dimension>> = { power: 'power', boost: 'pressure', air: 'massFlow' };

/** The column that is the curve: by its quantity; else the only other one there is. */
function valueColumn(guesses: readonly GuessedChannel[], kind: CurveKind, rpmAt: number): number {
  const wanted = QUANTITIES[kind].map((q) => guesses.findIndex((g) => g.quantity === q)).find((i) => i >= 0);
  if (wanted !== undefined) return wanted;
  const further = kind === 'power' ? guesses.findIndex((g) => g.quantity === 'further power') : -1;
  if (further >= 0) return further;
  return guesses.length === 2 ? 1 - rpmAt : -1;
}

/** The columns of a curve among those of a table. */
interface Pair {
  readonly columns: readonly ReadColumn[];
  readonly rpmAt: number;
  readonly rpmUnit: string;
  readonly valueAt: number;
  readonly guess: GuessedChannel;
  /** Two columns without names: rpm first. */
  readonly nameless: boolean;
}

/** Which column is the speed and which the curve; what is in the way where that cannot be told. */
function pairOf(columns: readonly ReadColumn[], kind: CurveKind): Pair | CurveRefusal {
  const names = columns.map((c) => c.name);
  if (columns.length < 2) return { refused: 'one_column', columns: names };
  const guesses = guessChannels(columns.map((c) => columnFacts(c)));
  const nameless = columns.length === 2 && columns.every((c) => /^column \d+$/.test(c.name) && c.unit === '');
  const rpmAt = nameless ? 0 : guesses.findIndex((g) => g.quantity === 'rpm');
  if (rpmAt < 0) return { refused: 'no_rpm', columns: names };
  const rpmUnit = nameless ? 'rpm' : guesses[rpmAt]!.unit;
  if (rpmUnit === null) return { refused: 'rpm_unit', columns: names };
  const valueAt = nameless ? 1 : valueColumn(guesses, kind, rpmAt);
  if (valueAt < 0) return { refused: 'no_value', columns: names };
  return { columns, rpmAt, rpmUnit, valueAt, guess: guesses[valueAt]!, nameless };
}

/** How the figures of the curve's column are meant; what is not known of it is asked. */
function meaningOf({ columns, valueAt, guess, nameless }: Pair, kind: CurveKind, said: CurveSaid) {
  const column = columns[valueAt]!;
  const torque = guess.quantity === 'torque' && kind === 'power';
  const dimension: Dimension = torque ? 'torque' : DIMENSIONS[kind];
  const own =
    guess.unit !== null && unitById(guess.unit).dimension === dimension ? unitById(guess.unit) : unitByWord(column.unit, dimension);
  const unit = said.unit !== undefined ? unitById(said.unit) : nameless ? null : own;
  const reference =
    said.reference ?? (guess.quantity === 'manifold pressure' ? 'absolute' : guess.doubt === 'gauge or absolute' ? null : 'gauge');
  const wheels = kind === 'power' && (guess.power?.at === 'wheels' || guess.power?.at === 'hub');
  const questions: CurveQuestion[] = [
    ...(unit === null ? [{ code: 'unit', column: column.name, dimension } as const] : []),
    ...(kind === 'boost' && reference === null ? [{ code: 'reference', column: column.name } as const] : []),
    ...(wheels && said.lossShare === undefined ? [{ code: 'loss', column: column.name } as const] : []),
  ];
  return { column, torque, unit, wheels, questions, fromAbsolute: kind === 'boost' && reference === 'absolute' };
}

/**
 * A pasted or dropped table as a measured curve over engine speed: power (or torque, turned into power), gauge boost, or
 * air mass flow. Columns are known by their names and units, by the reader that files of runs go through; a nameless pair is
 * rpm first. What is odd is listed row by row and nothing is thrown away: `mendCurve` then says what becomes of it. What is
 * not known is asked. SI.
 */
export function readCurve(text: string, kind: CurveKind, said: CurveSaid = {}): CurveTable | CurveRefusal {
  if (text.trim() === '') return { refused: 'empty', columns: [] };
  const reader = new TableReader();
  reader.push(new TextEncoder().encode(text.endsWith('\n') ? text : `${text}\n`));
  const read = reader.finish();
  if (read.refused !== null) return { refused: 'not_a_table', columns: [] };
  const columns = read.columns.filter((c) => c.count > 0);
  const pair = pairOf(columns, kind);
  if ('refused' in pair) return pair;
  const { rpmAt, rpmUnit, valueAt, guess } = pair;
  const { column, torque, unit, wheels, questions, fromAbsolute } = meaningOf(pair, kind, said);
  const values = columnValues(column);
  const speeds = columnValues(columns[rpmAt]!);
  const rows = Array.from(speeds, (n, i) => {
    const rpm = toSI(n, unitById(rpmUnit));
    const si = unit === null ? NaN : toSI(values[i]!, unit) - (fromAbsolute ? (said.ambient_Pa ?? STANDARD_Pa) : 0);
    const power = torque ? powerOf(si, rpm) : si;
    return { rpm, value: wheels ? power / (1 - (said.lossShare ?? 0)) : power };
  });
  const names = columns.map((c) => c.name);
  if (unit !== null && rows.filter((r) => Number.isFinite(r.rpm) && Number.isFinite(r.value)).length < (kind === 'boost' ? 1 : 2))
    return { refused: 'too_few', columns: names };
  return {
    rpmColumn: columns[rpmAt]!.name,
    valueColumn: column.name,
    unit: unit?.label ?? '',
    fromTorque: torque,
    fromAbsolute,
    rows,
    issues: unit === null ? [] : issuesOf(rows),
    doubt: said.unit === undefined ? guess.doubt : null,
    questions,
    unused: names.filter((_, i) => i !== rpmAt && i !== valueAt),
  };
}

/** The air outside where the day's is not given, Pa. */
const STANDARD_Pa = 101_325;

function issuesOf(rows: CurveTable['rows']): CurveIssue[] {
  const issues: CurveIssue[] = [];
  const seen = new Map<number, number>();
  let highest = -Infinity;
  rows.forEach(({ rpm, value }, i) => {
    const row = i + 1;
    if (!Number.isFinite(rpm) || !Number.isFinite(value)) {
      issues.push({ code: 'no_figure', row });
      return;
    }
    if (value < 0) issues.push({ code: 'below_zero', row, value });
    const first = seen.get(rpm);
    if (first !== undefined) issues.push({ code: 'twice', row, first, rpm });
    else if (rpm < highest) issues.push({ code: 'falling', row, rpm, before: highest });
    seen.set(rpm, first ?? row);
    highest = Math.max(highest, rpm);
  });
  return issues;
}

/** Longest curve kept: more points than a reference needs. */
const MOST_POINTS = 2000;

/** The table as a curve: rows without a figure left out, sorted by rpm, equal rpm averaged; very long ones thinned evenly. */
export function mendCurve(table: CurveTable, source: string): MeasuredCurve {
  const sums = new Map<number, { sum: number; n: number }>();
  for (const { rpm, value } of table.rows) {
    if (!Number.isFinite(rpm) || !Number.isFinite(value)) continue;
    const at = sums.get(rpm) ?? { sum: 0, n: 0 };
    sums.set(rpm, { sum: at.sum + value, n: at.n + 1 });
  }
  const all = [...sums].map(([rpm, { sum, n }]) => ({ rpm, value: sum / n })).sort((a, b) => a.rpm - b.rpm);
  const every = Math.ceil(all.length / MOST_POINTS);
  const kept = all.filter((_, i) => i % every === 0 || i === all.length - 1).slice(0, MOST_POINTS);
  return { rpm: kept.map((p) => p.rpm), value: kept.map((p) => p.value), source, driveRatio: null };
}
