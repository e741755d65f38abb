import { csvText, uniqueNames, type CsvCell, type CsvForm } from './csv';
import type { SideExtra } from '../compare/extras';
import type { SideComparison } from '../compare/sides';

const EXTRA_UNIT = {
  'manifold pressure': 'Pa',
  boost: 'Pa',
  depression: 'Pa',
  'inlet air': 'K',
  'air mass flow': 'kg/s',
  lambda: '',
  afr: '',
  throttle: '%',
} as const;

const rounded = (v: number | undefined): number | null => (v === undefined || !Number.isFinite(v) ? null : Number(v.toPrecision(9)));

/** The comparison over engine speed as a table: a row of names, a row of units, SI figures. */
export function comparisonCsv(c: SideComparison, extras: readonly SideExtra[] = [], form: CsvForm = 'plain'): string {
  const columns: [name: string, unit: string, values: (i: number) => number | undefined][] = [
    ['engine speed', 'rpm', (i) => c.grid_rpm[i]],
    ['power, stock', 'W', (i) => c.a_W[i]],
    ['power, new', 'W', (i) => c.b_W[i]],
    ['difference in power', 'W', (i) => c.difference_W[i]],
    ['relative difference', '%', (i) => c.difference_pct[i]],
    ['band, low', '%', (i) => c.band.low_pct[i]],
    ['band, high', '%', (i) => c.band.high_pct[i]],
    ...extras.flatMap((e): [string, string, (i: number) => number | undefined][] => [
      ...(e.a
        ? [[`${e.kind}, stock`, EXTRA_UNIT[e.kind], (i: number) => e.a![i]] as [string, string, (i: number) => number | undefined]]
        : []),
      ...(e.b
        ? [[`${e.kind}, new`, EXTRA_UNIT[e.kind], (i: number) => e.b![i]] as [string, string, (i: number) => number | undefined]]
        : []),
    ]),
  ];
  const rows = c.grid_rpm.map((_, i) => columns.map(([, , value]) => rounded(value(i))));
  return csvText([uniqueNames(columns.map(([n]) => n)), columns.map(([, u]) => u), ...rows], form);
}

export interface ExportChannel {
  readonly name: string;
  readonly unit: string;
  readonly values: ArrayLike<number>;
}

/** Channels of a run as a table with a row of units, as they stood in the file; nothing where there was nothing. */
export function runCsv(channels: readonly ExportChannel[], form: CsvForm = 'plain'): string {
  const rows: CsvCell[][] = [uniqueNames(channels.map((c) => c.name)), channels.map((c) => c.unit)];
  const length = channels[0]?.values.length ?? 0;
  for (let i = 0; i < length; i += 1) rows.push(channels.map((c) => c.values[i]));
  return csvText(rows, form);
}
