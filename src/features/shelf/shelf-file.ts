import type { UnitDoc } from '@/core/documents/unit';
import { csvText, type CsvForm } from '@/core/export/csv';
import { recordOf } from '@/core/job/path';
import { fromSI, unitById, type Dimension } from '@/core/units/units';

/** One column of the shelf's CSV: where it goes in a unit, and the unit its figures are in. */
interface Column {
  readonly name: string;
  readonly dimension: Dimension | null;
  readonly unit: string | null;
  readonly get: (u: UnitDoc) => number | string | null | undefined;
}

export const COLUMNS: readonly Column[] = [
  { name: 'name', dimension: null, unit: null, get: (u) => u.name },
  { name: 'shape', dimension: null, unit: null, get: (u) => u.throttle.shape },
  { name: 'bores', dimension: null, unit: null, get: (u) => u.throttle.count },
  { name: 'bore', dimension: 'length', unit: 'mm', get: (u) => u.throttle.bore_m },
  { name: 'width', dimension: 'length', unit: 'mm', get: (u) => u.throttle.width_m },
  { name: 'height', dimension: 'length', unit: 'mm', get: (u) => u.throttle.height_m },
  { name: 'shaft', dimension: 'length', unit: 'mm', get: (u) => u.throttle.shaft_m },
  { name: 'shaft edge', dimension: null, unit: null, get: (u) => u.throttle.edge },
  { name: 'closed angle', dimension: 'angle', unit: 'deg', get: (u) => u.throttle.closedAngle_rad },
  { name: 'gap', dimension: 'length', unit: 'mm', get: (u) => u.throttle.clearance_m },
  { name: 'leak class', dimension: null, unit: null, get: (u) => u.throttle.leak },
  { name: 'controls', dimension: null, unit: null, get: (u) => u.controls },
  { name: 'price', dimension: 'money', unit: 'eur', get: (u) => u.price },
  { name: 'largest manifold bore', dimension: 'length', unit: 'mm', get: (u) => u.largestOpening_m },
  { name: 'bench flow', dimension: 'volumeFlow', unit: 'cfm', get: (u) => recordOf(u.bench)?.flow_m3ps },
  { name: 'bench depression', dimension: 'pressure', unit: 'inH2O', get: (u) => recordOf(u.bench)?.depression_Pa },
  { name: 'bench entry K', dimension: null, unit: null, get: (u) => recordOf(u.bench)?.entryK },
  { name: 'bench', dimension: null, unit: null, get: (u) => recordOf(u.bench)?.bench },
  { name: 'bench kind', dimension: null, unit: null, get: (u) => recordOf(u.bench)?.kind },
  { name: 'note', dimension: null, unit: null, get: (u) => u.note },
];

const headOf = (c: Column): string => (c.unit === null ? c.name : `${c.name} (${unitById(c.unit).label})`);

/** The shelf as CSV: one row a unit, the bench record it is taken by with it, units in the header. */
export function shelfCsv(units: readonly UnitDoc[], form: CsvForm = 'plain'): string {
  const cell = (c: Column, u: UnitDoc): number | string => {
    const v = c.get(u);
    if (v === null || v === undefined) return '';
    return typeof v === 'number' && c.unit !== null ? Number(fromSI(v, unitById(c.unit)).toPrecision(12)) : v;
  };
  return csvText([COLUMNS.map(headOf), ...units.map((u) => COLUMNS.map((c) => cell(c, u)))], form);
}

/** The shelf as JSON: everything, every bench record. Pictures stay where they are. */
export function shelfJson(units: readonly UnitDoc[]): string {
  return `${JSON.stringify({ kind: 'vanner shelf', version: 1, units: units.map((u) => ({ ...u, photo: null })) }, null, 2)}\n`;
}
