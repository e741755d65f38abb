import type { SideExtra } from './extras';
import type { SideComparison } from './sides';

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

const cell = (v: number | undefined): string => (v === undefined || !Number.isFinite(v) ? '' : String(Number(v.toPrecision(9))));

/** A row of cells; words with a separator in them are quoted. */
export const csvRow = (cells: readonly string[]): string =>
  cells.map((c) => (/[",\n]/.test(c) ? `"${c.replaceAll('"', '""')}"` : c)).join(',');

/** The comparison over engine speed as a table: a row of names, a row of units, SI figures. */
export function comparisonCsv(c: SideComparison, extras: readonly SideExtra[] = []): string {
  const half = c.band?.halfWidth_pct;
  const columns: [name: string, unit: string, values: (i: number) => number | undefined][] = [
    ['engine speed', 'rpm', (i) => c.grid_rpm[i]],
    ['power, stock', 'W', (i) => c.a_W[i]],
    ['power, new', 'W', (i) => c.b_W[i]],
    ['difference', 'W', (i) => c.difference_W[i]],
    ['difference', '%', (i) => c.difference_pct[i]],
    ['band, low', '%', (i) => (half === undefined ? undefined : c.difference_pct[i]! - half)],
    ['band, high', '%', (i) => (half === undefined ? undefined : c.difference_pct[i]! + half)],
    ...extras.flatMap((e): [string, string, (i: number) => number | undefined][] => [
      ...(e.a
        ? [[`${e.kind}, stock`, EXTRA_UNIT[e.kind], (i: number) => e.a![i]] as [string, string, (i: number) => number | undefined]]
        : []),
      ...(e.b
        ? [[`${e.kind}, new`, EXTRA_UNIT[e.kind], (i: number) => e.b![i]] as [string, string, (i: number) => number | undefined]]
        : []),
    ]),
  ];
  const rows = c.grid_rpm.map((_, i) => columns.map(([, , value]) => cell(value(i))).join(','));
  return [csvRow(columns.map(([n]) => n)), csvRow(columns.map(([, u]) => u)), ...rows, ''].join('\n');
}

export interface ExportChannel {
  readonly name: string;
  readonly unit: string;
  readonly values: ArrayLike<number>;
}

/** Channels of a run as a table with a row of units, as they stood in the file; nothing where there was nothing. */
export function runCsv(channels: readonly ExportChannel[]): string {
  const rows = channels[0]?.values.length ?? 0;
  const lines = [csvRow(channels.map((c) => c.name)), csvRow(channels.map((c) => c.unit))];
  for (let i = 0; i < rows; i += 1) lines.push(channels.map((c) => (Number.isFinite(c.values[i]) ? String(c.values[i]) : '')).join(','));
  return `${lines.join('\n')}\n`;
}
