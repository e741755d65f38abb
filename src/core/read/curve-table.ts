import type { MeasuredCurve } from '../documents/job';
import type { Quantity } from '../documents/run';
import { powerOf } from '../engine/power';
import { columnFacts, dimensionOf, guessChannels, likelyUnit } from './guess';
import { TableReader } from './reader';
import { columnValues, type ReadColumn } from './result';
import { toSI, unitById, unitByWord, type Unit } from '../units/units';

export const CURVE_KINDS = ['power', 'boost', 'air'] as const;
export type CurveKind = (typeof CURVE_KINDS)[number];

/** What is odd about a table before it can be a curve. Rows count from 1. */
export type CurveIssue =
  | { readonly code: 'twice'; readonly row: number; readonly first: number; readonly rpm: number }
  | { readonly code: 'falling'; readonly row: number; readonly rpm: number; readonly before: number }
  | { readonly code: 'no_figure'; readonly row: number }
  | { readonly code: 'below_zero'; readonly row: number; readonly value: number };

export interface CurveTable {
  readonly rpmColumn: string;
  readonly valueColumn: string;
  readonly unit: string;
  /** Torque was given: it has been turned into power. */
  readonly fromTorque: boolean;
  readonly rows: readonly { readonly rpm: number; readonly value: number }[];
  readonly issues: readonly CurveIssue[];
}

export type CurveRefusal = {
  readonly refused: 'empty' | 'not_a_table' | 'one_column' | 'no_rpm' | 'no_value' | 'too_few';
  /** Names of the columns that were found. */
  readonly columns: readonly string[];
};

const QUANTITIES: Readonly<Record<CurveKind, readonly Quantity[]>> = {
  power: ['power', 'torque'],
  boost: ['manifold pressure'],
  air: ['air mass flow'],
};
const DEFAULT_UNIT: Readonly<Record<CurveKind, string>> = { power: 'kW', boost: 'kPa', air: 'gs' };

const highOf = (c: ReadColumn): number => columnValues(c).reduce((a, b) => (Number.isNaN(b) ? a : Math.max(a, Math.abs(b))), 0);

function unitOf(column: ReadColumn, quantity: Quantity, kind: CurveKind): Unit {
  const dimension = dimensionOf(quantity);
  const named = column.unit && dimension ? unitByWord(column.unit, dimension) : null;
  return named ?? unitById(likelyUnit(quantity, highOf(column)) ?? (quantity === 'torque' ? 'Nm' : DEFAULT_UNIT[kind]));
}

/**
 * A pasted or dropped table as a measured curve over engine speed: power (or torque, turned into power), gauge boost, or
 * air mass flow. Columns are known by their names and units; a nameless pair is rpm first. What is odd is listed row by
 * row and nothing is thrown away: `mendCurve` then says what becomes of it. SI.
 */
export function readCurve(text: string, kind: CurveKind): CurveTable | CurveRefusal {
  if (text.trim() === '') return { refused: 'empty', columns: [] };
  const reader = new TableReader();
  reader.push(new TextEncoder().encode(text.endsWith('\n') ? text : `${text}\n`));
  const read = reader.finish();
  if (read.refused !== null) return { refused: 'not_a_table', columns: [] };
  const columns = read.columns.filter((c) => c.count > 0);
  const names = columns.map((c) => c.name);
  if (columns.length < 2) return { refused: 'one_column', columns: names };
  const guesses = guessChannels(columns.map((c) => columnFacts(c)));
  const nameless = guesses.every((g) => g.quantity === 'other') && columns.length === 2;
  const rpmAt = nameless ? 0 : guesses.findIndex((g) => g.quantity === 'rpm');
  if (rpmAt < 0) return { refused: 'no_rpm', columns: names };
  const wanted = QUANTITIES[kind].map((q) => guesses.findIndex((g) => g.quantity === q)).find((i) => i >= 0);
  const valueAt = nameless ? 1 : (wanted ?? (columns.length === 2 ? 1 - rpmAt : -1));
  if (valueAt < 0) return { refused: 'no_value', columns: names };
  const quantity = guesses[valueAt]!.quantity === 'torque' && kind === 'power' ? 'torque' : QUANTITIES[kind][0]!;
  const column = columns[valueAt]!;
  const unit = unitOf(column, quantity, kind);
  const values = columnValues(column);
  const rows = Array.from(columnValues(columns[rpmAt]!), (rpm, i) => {
    const value = toSI(values[i]!, unit);
    return { rpm, value: quantity === 'torque' ? powerOf(value, rpm) : value };
  });
  const issues = issuesOf(rows);
  if (rows.filter((r) => Number.isFinite(r.rpm) && Number.isFinite(r.value)).length < 2) return { refused: 'too_few', columns: names };
  return { rpmColumn: columns[rpmAt]!.name, valueColumn: column.name, unit: unit.label, fromTorque: quantity === 'torque', rows, issues };
}

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
  return { rpm: kept.map((p) => p.rpm), value: kept.map((p) => p.value), source };
}
