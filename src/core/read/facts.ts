import { sortedQuantile } from '../numbers/quantile';
import type { ReadColumn } from './result';

export interface ColumnFacts {
  readonly name: string;
  readonly unit: string;
  /** Cells that are figures. */
  readonly count: number;
  /** Figures below and above which few lie, in the file's unit: a wild sample does not set them. */
  readonly low: number;
  readonly high: number;
  /** Never falls, and rises by nearly equal steps. */
  readonly steady: boolean;
  /** Mean step from row to row. */
  readonly step: number;
  readonly whole: boolean;
  /** A spread of its cells, the same rows in every column of a file; NaN where there is no figure. */
  readonly sample: readonly number[];
  /** It is counted by a clock of its own, not the table's. */
  readonly ownClock?: boolean;
}

/** Samples looked at to know what a column is like. */
const LOOKED_AT = 2000;

/** What a column's figures are like, from a spread of its samples. */
export function columnFacts(column: {
  readonly name: string;
  readonly unit: string;
  readonly count?: number;
  readonly ownClock?: boolean;
  readonly blocks: readonly Float64Array[];
}): ColumnFacts {
  const total = column.blocks.reduce((n, b) => n + b.length, 0);
  const stride = Math.max(1, Math.floor(total / LOOKED_AT));
  const sample: number[] = [];
  let offset = 0;
  for (const block of column.blocks) {
    for (let i = (stride - (offset % stride)) % stride; i < block.length; i += stride) sample.push(block[i]!);
    offset += block.length;
  }
  const some = sample.filter(Number.isFinite);
  const steps = some.slice(1).map((v, i) => v - some[i]!);
  const mean = steps.length > 0 ? (some.at(-1)! - some[0]!) / steps.length : 0;
  const steady = steps.length > 8 && mean > 0 && steps.every((s) => s > 0.2 * mean && s < 5 * mean);
  const sorted = Float64Array.from(some).sort();
  return {
    name: column.name,
    unit: column.unit,
    count: column.count ?? some.length,
    low: sorted.length > 0 ? sortedQuantile(sorted, 0.05) : 0,
    high: sorted.length > 0 ? sortedQuantile(sorted, 0.95) : 0,
    steady,
    step: mean / stride,
    whole: some.length > 0 && some.every((v) => Number.isInteger(v)),
    sample,
    ownClock: column.ownClock === true,
  };
}

/** A column whose rows are elsewhere by now: what is known of it without them. */
export interface SampledColumn extends Omit<ReadColumn, 'blocks'> {
  readonly facts: ColumnFacts;
}
export type FoundColumn = ReadColumn | SampledColumn;

/** Lets a column's rows go: a long recording’s are hundreds of megabytes, and some two thousand samples tell what it is. */
export function sampledColumn(column: ReadColumn): SampledColumn {
  const { blocks: _, ...rest } = column;
  return { ...rest, facts: columnFacts(column) };
}

export const factsOf = (column: FoundColumn): ColumnFacts => ('facts' in column ? column.facts : columnFacts(column));
