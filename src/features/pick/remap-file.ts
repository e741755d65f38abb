import { csvText, type CsvForm } from '@/core/export/csv';
import type { RemapMark } from '@/core/flow/remap';

export interface RemapRow {
  readonly opening_pct: number;
  readonly area_m2: number;
  readonly candidate_pct: number;
  readonly mark: RemapMark;
}

const mm2 = (m2: number): number => Number((m2 * 1e6).toFixed(3));
const pct = (p: number): number => Number(p.toFixed(4));

/** The remap as CSV, units in its header. */
export function remapCsv(unit: string, rows: readonly RemapRow[], form: CsvForm = 'plain'): string {
  const fields = ['stock opening (%)', 'effective area (mm2)', `${unit} opening (%)`, 'mark'];
  return csvText([fields, ...rows.map((r) => [r.opening_pct, mm2(r.area_m2), pct(r.candidate_pct), r.mark])], form);
}

/** The remap as JSON, units in its names. */
export function remapJson(job: string, unit: string, rows: readonly RemapRow[]): string {
  const table = rows.map((r) => ({
    stock_opening_pct: r.opening_pct,
    effective_area_mm2: mm2(r.area_m2),
    unit_opening_pct: pct(r.candidate_pct),
    mark: r.mark,
  }));
  return `${JSON.stringify({ kind: 'throttle remap', job, unit, table }, null, 2)}\n`;
}
