import { csvText, uniqueNames, type CsvCell, type CsvForm } from '@/core/export/csv';
import type { ChartSpec } from './figure';

type Series = readonly [name: string, at: (x: number) => number | null];

/** A line's height at any x it is drawn over: between its points it is straight, over a gap there is none. */
function drawnAt(x: readonly number[], y: readonly (number | null | undefined)[]): (at: number) => number | null {
  return (at) => {
    const exact = x.indexOf(at);
    if (exact >= 0) return y[exact] ?? null;
    for (let i = 1; i < x.length; i += 1) {
      const [a, b] = [x[i - 1]!, x[i]!];
      const [p, q] = [y[i - 1] ?? null, y[i] ?? null];
      if (p === null || q === null || !((a < at && at < b) || (b < at && at < a))) continue;
      return p + ((q - p) * (at - a)) / (b - a);
    }
    return null;
  };
}

/** A chart's figures: what heads the columns, and a row for every x. */
export interface FigureTable {
  readonly head: readonly string[];
  readonly rows: readonly (readonly CsvCell[])[];
}

/**
 * A chart as a table: everything that is drawn, with its unit, at every x that anything is drawn at. Bands are their two
 * edges; points, which have names of their own, stand in rows with their names.
 */
export function figureTable(spec: ChartSpec): FigureTable {
  const bands = spec.bands ?? [];
  const points = spec.points ?? [];
  const marks = spec.marks ?? [];
  const series: Series[] = [
    ...spec.lines.map((l): Series => [`${l.label} (${spec.yTitle})`, drawnAt(l.x, l.y)]),
    ...bands.flatMap((b, i): Series[] => {
      const name = bands.length > 1 ? `band ${i + 1}` : 'band';
      return [
        [`${name}, low (${spec.yTitle})`, drawnAt(b.x, b.low)],
        [`${name}, high (${spec.yTitle})`, drawnAt(b.x, b.high)],
      ];
    }),
  ];
  const named = points.length > 0 || marks.length > 0;
  const header = [spec.xTitle, ...series.map(([name]) => name), ...(named ? [`point (${spec.yTitle})`, 'which point'] : [])];
  const xs = [
    ...new Set([...spec.lines.flatMap((l) => l.x), ...bands.flatMap((b) => b.x), ...points.map((p) => p.x), ...marks.map((m) => m.x)]),
  ].sort((a, b) => a - b);
  const rows = xs.flatMap((x): CsvCell[][] => {
    const cells = series.map(([, at]) => at(x));
    const here = [
      ...points.filter((p) => p.x === x).map((p) => [p.y, p.name] as const),
      ...marks.filter((m) => m.x === x).map((m) => [m.y, m.text] as const),
    ];
    if (here.length === 0) return [[x, ...cells, ...(named ? [null, null] : [])]];
    return here.map(([y, name], i) => [x, ...(i === 0 ? cells : cells.map(() => null)), y, name]);
  });
  return { head: uniqueNames(header), rows };
}

export function figureCsv(spec: ChartSpec, form: CsvForm = 'plain'): string {
  const { head, rows } = figureTable(spec);
  return csvText([head, ...rows], form);
}

/** What each line is at an x, by its name; lines that are not drawn there are left out. */
export function valuesAt(spec: ChartSpec, x: number): { readonly label: string; readonly value: number; readonly color: string }[] {
  return spec.lines.flatMap((l) => {
    const value = drawnAt(l.x, l.y)(x);
    return value === null || !Number.isFinite(value) ? [] : [{ label: l.label, value, color: l.color }];
  });
}
