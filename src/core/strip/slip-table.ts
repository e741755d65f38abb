import Papa from 'papaparse';
import { parseQuantity } from '../units/quantity';
import type { MeasureName } from '../units/measures';
import { stripPassDoc, weatherReadingDoc, type StripPassDoc, type WeatherReadingDoc } from '../documents/strip';
import { NO_SLIP, slipIssues, type SlipField } from './slip';

/** What stood in a table and could not be taken, with its line (the header is line 1). */
export interface TableProblem {
  readonly line: number;
  readonly column: string;
  readonly cell: string;
  readonly why: string;
}

export interface ReadTable<T> {
  readonly found: readonly T[];
  readonly problems: readonly TableProblem[];
  /** Columns of the header that mean nothing here. */
  readonly ignored: readonly string[];
}

type Words = readonly [test: RegExp, field: string, measure: MeasureName | 'text' | 'clock'];

const plain = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[“”"']/g, '')
    .replace(/\s+/g, ' ')
    .trim();

const PASS_COLUMNS: readonly Words[] = [
  [/^(r\/?t|reaction)/, 'reaction_s', 'time'],
  [/(1\/8|eighth|201|660).*(mph|km\/?h|speed|trap)/, 'v201_mps', 'roadSpeed'],
  [/(1\/4|quarter|402|1320).*(mph|km\/?h|speed|trap)/, 'v402_mps', 'roadSpeed'],
  [/^(60|18) ?(ft|m|\b)/, 't18_s', 'time'],
  [/^(330|100) ?(ft|m|\b)/, 't100_s', 'time'],
  [/^(1\/8|eighth|201|660)/, 't201_s', 'time'],
  [/^(1000|305) ?(ft|m|\b)/, 't305_s', 'time'],
  [/^(1\/4|quarter|402|1320|et\b)/, 't402_s', 'time'],
  [/^(mph|km\/?h|speed|trap)/, 'v402_mps', 'roadSpeed'],
  [/^(time|at|clock)\b/, 'at', 'clock'],
  [/^side|^unit|^throttle/, 'side', 'text'],
  [/^lane/, 'lane', 'text'],
  [/^coolant|^water/, 'coolant_K', 'temperature'],
  [/^(inlet|intake|iat)/, 'inlet_K', 'temperature'],
  [/^(tyre|tire)/, 'tyre_Pa', 'plenum'],
  [/^launch/, 'launch_rpm', 'rpm'],
  [/^(between|changed)/, 'between', 'text'],
  [/^note/, 'note', 'text'],
];

const WEATHER_COLUMNS: readonly Words[] = [
  [/^(time|at|clock)\b/, 'at', 'clock'],
  [/^(temp|air|t\b)/, 'T_K', 'temperature'],
  [/^(press|baro|p\b|qfe)/, 'p_Pa', 'barometer'],
  [/^(hum|rh|r\.h)/, 'rh', 'share'],
];

/** A unit in brackets or after a comma in a column's name. */
const unitOf = (name: string): string =>
  /[[(]([^\])]+)[\])]/.exec(name)?.[1] ?? /\b(mph|km\/?h|hpa|mbar|kpa|psi|bar|inhg)\b/i.exec(name)?.[1] ?? '';

function clock(cell: string): string | null {
  const m = /^(\d{1,2})[:.h](\d{2})(?::\d{2})?\s*([ap]m)?$/i.exec(cell.trim());
  if (!m) return null;
  const hour = (Number(m[1]) % (m[3] ? 12 : 24)) + (m[3]?.toLowerCase() === 'pm' ? 12 : 0);
  return Number(m[2]) > 59 ? null : `${String(hour).padStart(2, '0')}:${m[2]}`;
}

function cells(
  header: readonly string[],
  rows: readonly (readonly string[])[],
  words: readonly Words[],
): {
  rows: { line: number; values: Record<string, string | number> }[];
  problems: TableProblem[];
  ignored: string[];
  nameOf: (field: string) => string;
} {
  const taken = new Set<string>();
  const columns = header.map((name) => {
    const hit = words.find(([test, field]) => !taken.has(field) && test.test(plain(name)));
    if (hit) taken.add(hit[1]);
    return hit ? { field: hit[1], measure: hit[2], unit: unitOf(name) } : null;
  });
  const problems: TableProblem[] = [];
  const out = rows.map((row, r) => {
    const values: Record<string, string | number> = {};
    columns.forEach((column, k) => {
      const cell = (row[k] ?? '').trim();
      if (!column || cell === '' || cell === '-' || cell === '—') return;
      const bad = (why: string): void => void problems.push({ line: r + 2, column: header[k]!, cell, why });
      if (column.measure === 'text') values[column.field] = cell;
      else if (column.measure === 'clock') {
        const at = clock(cell);
        if (at === null) bad('This is not a time of day, such as 14:05.');
        else values[column.field] = at;
      } else {
        const parsed = parseQuantity(/[a-z%°]/i.test(cell) ? cell : `${cell} ${column.unit}`.trim(), column.measure, 'metric');
        if (parsed.ok) values[column.field] = parsed.si;
        else bad('This is not a figure with a unit that fits here.');
      }
    });
    return { line: r + 2, values };
  });
  return {
    rows: out,
    problems,
    ignored: header.filter((name, k) => columns[k] === null && name.trim() !== ''),
    nameOf: (field) => header[columns.findIndex((c) => c?.field === field)] ?? field,
  };
}

export type SideByName = (name: string) => StripPassDoc['side'];

/**
 * Slips from a table: a header that names the marks (60 ft, 330, 1/8, 1/8 mph, 1000, 1/4 or ET, mph, or their metres) and a
 * row a pass. A row that cannot be a pass is not taken and says why; columns that mean nothing are named.
 */
export function passesFromTable(
  header: readonly string[],
  rows: readonly (readonly string[])[],
  sideOf: SideByName,
): ReadTable<StripPassDoc> {
  const read = cells(header, rows, PASS_COLUMNS);
  const problems = [...read.problems];
  const found = read.rows.flatMap(({ line, values }): StripPassDoc[] => {
    const { side, lane, at, coolant_K, inlet_K, tyre_Pa, launch_rpm, between, note, ...slip } = values;
    if (Object.keys(slip).length === 0) return [];
    const full = { ...NO_SLIP, ...slip } as Record<SlipField, number | null>;
    const [issue] = slipIssues(full).filter((i) => i.level === 'refused');
    if (issue) {
      problems.push({
        line,
        column: read.nameOf(issue.field),
        cell: String(full[issue.field]),
        why: 'Times rise with distance, and speeds are possible ones: this slip’s are not.',
      });
      return [];
    }
    const l = String(lane ?? '').toLowerCase();
    const parsed = stripPassDoc.safeParse({
      schema: 1,
      at,
      side: side === undefined ? null : sideOf(String(side)),
      lane: l.startsWith('l') ? 'left' : l.startsWith('r') ? 'right' : '',
      slip: full,
      ...(coolant_K !== undefined && { coolant_K }),
      ...(inlet_K !== undefined && { inlet_K }),
      ...(tyre_Pa !== undefined && { tyre_Pa }),
      ...(launch_rpm !== undefined && { launch_rpm }),
      between: String(between ?? ''),
      note: String(note ?? ''),
    });
    if (parsed.success) return [parsed.data];
    const [first] = parsed.error.issues;
    problems.push({ line, column: read.nameOf(String(first?.path.at(-1) ?? '')), cell: '', why: first?.message ?? 'not a pass' });
    return [];
  });
  return { found, problems, ignored: read.ignored };
}

/** A day's air from a table with a time, a temperature, a pressure and a humidity; units in the names or the cells. */
export function weatherFromTable(header: readonly string[], rows: readonly (readonly string[])[]): ReadTable<WeatherReadingDoc> {
  const read = cells(header, rows, WEATHER_COLUMNS);
  const problems = [...read.problems];
  const found = read.rows.flatMap(({ line, values }): WeatherReadingDoc[] => {
    if (Object.keys(values).length === 0) return [];
    const rh = typeof values['rh'] === 'number' && values['rh'] > 1 ? values['rh'] / 100 : (values['rh'] ?? 0);
    const parsed = weatherReadingDoc.safeParse({ ...values, rh, from: 'file' });
    if (parsed.success) return [parsed.data];
    const [first] = parsed.error.issues;
    const missing = first?.path[0] === undefined || values[String(first.path[0])] === undefined;
    problems.push({
      line,
      column: read.nameOf(String(first?.path[0] ?? '')),
      cell: String(values[String(first?.path[0])] ?? ''),
      why: missing ? 'A reading has a time, a temperature and a pressure.' : (first?.message ?? 'not a reading'),
    });
    return [];
  });
  return { found, problems, ignored: read.ignored };
}

/** A table as it is pasted or as it stands in a small file: tabs, semicolons or commas, found by themselves. */
export function tableOf(text: string): { header: string[]; rows: string[][] } {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy', delimitersToGuess: ['\t', ';', ','] });
  const [header = [], ...rows] = parsed.data;
  return { header, rows };
}
