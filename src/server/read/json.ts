import { chosenTable, fault, type InnerTable, type OpenResult } from './rows';

type Json = unknown;
const isRecord = (v: Json): v is Record<string, Json> => typeof v === 'object' && v !== null && !Array.isArray(v);
const isScalar = (v: Json): boolean => v === null || typeof v === 'number' || typeof v === 'string' || typeof v === 'boolean';
const cell = (v: Json): string => (v === null || v === undefined || typeof v === 'object' ? '' : String(v));

/** A record with its inner records laid flat: {"air":{"map":99}} has the column "air map". */
function flat(record: Record<string, Json>, above = ''): [string, Json][] {
  return Object.entries(record).flatMap(([key, value]): [string, Json][] => {
    const name = above === '' ? key : `${above} ${key}`;
    // A figure with its unit beside it.
    if (isRecord(value) && 'value' in value && isScalar(value['value']))
      return [[typeof value['unit'] === 'string' ? `${name} (${value['unit']})` : name, value['value']]];
    return isRecord(value) ? flat(value, name) : [[name, value]];
  });
}

function fromRecords(name: string, list: readonly Record<string, Json>[]): InnerTable {
  const names = new Map<string, number>();
  const rows = list.map((record) => {
    const row: string[] = [];
    for (const [key, value] of flat(record)) {
      if (!names.has(key)) names.set(key, names.size);
      row[names.get(key)!] = cell(value);
    }
    return row;
  });
  const width = names.size;
  return { name, rows: [[...names.keys()], ...rows.map((r) => Array.from({ length: width }, (_, i) => r[i] ?? ''))] };
}

function fromColumns(name: string, columns: readonly (readonly [string, readonly Json[]])[]): InnerTable {
  const length = Math.max(...columns.map(([, values]) => values.length));
  const rows = Array.from({ length }, (_, i) => columns.map(([, values]) => cell(values[i])));
  return { name, rows: [columns.map(([n]) => n), ...rows] };
}

const named = (record: Record<string, Json>, keys: readonly string[]): string =>
  String(keys.map((k) => record[k]).find((v) => typeof v === 'string' && v !== '') ?? '');

/** Every table that a document holds, with the path to it as its name. */
function tablesIn(value: Json, path: string, found: InnerTable[], depth = 0): void {
  if (depth > 6) return;
  const name = path === '' ? 'the document' : path;
  if (Array.isArray(value)) {
    const list = value as readonly Json[];
    if (list.length >= 2 && list.every(isRecord)) {
      const records = list as readonly Record<string, Json>[];
      // Channels, each with its name and its values.
      const series = records.map((r): [string, readonly Json[]] | null => {
        const values = Object.values(r).find((v): v is Json[] => Array.isArray(v) && v.length > 2 && v.every(isScalar));
        const title = named(r, ['name', 'channel', 'signal', 'label', 'title', 'id']);
        const unit = named(r, ['unit', 'units']);
        return values && title ? [unit ? `${title} (${unit})` : title, values] : null;
      });
      if (series.every((s) => s !== null)) found.push(fromColumns(name, series as [string, readonly Json[]][]));
      else if (records.some((r) => Object.values(r).some(isScalar))) found.push(fromRecords(name, records));
    } else if (list.length >= 2 && list.every((r) => Array.isArray(r) && r.every(isScalar)))
      found.push({ name, rows: (list as readonly Json[][]).map((r) => r.map(cell)) });
    list.slice(0, 50).forEach((v, i) => (isRecord(v) ? tablesIn(v, `${path}[${i + 1}]`, found, depth + 1) : undefined));
    return;
  }
  if (!isRecord(value)) return;
  const arrays = Object.entries(value).filter((e): e is [string, Json[]] => Array.isArray(e[1]) && e[1].length > 2 && e[1].every(isScalar));
  const units = isRecord(value['units']) ? value['units'] : {};
  if (arrays.length >= 2)
    found.push(
      fromColumns(
        name,
        arrays.map(([n, v]) => [typeof units[n] === 'string' ? `${n} (${units[n]})` : n, v] as const),
      ),
    );
  // Channels by their names, each with its figures and perhaps its unit.
  const channels = Object.entries(value).flatMap(([n, v]): [string, readonly Json[]][] => {
    const figures = isRecord(v) ? (v['values'] ?? v['data'] ?? v['samples']) : null;
    const unit = isRecord(v) ? named(v, ['unit', 'units']) : '';
    return Array.isArray(figures) && figures.length > 2 && figures.every(isScalar) ? [[unit ? `${n} (${unit})` : n, figures]] : [];
  });
  if (channels.length >= 2) found.push(fromColumns(name, channels));
  const header = value['columns'] ?? value['header'] ?? value['fields'];
  const data = value['data'] ?? value['rows'] ?? value['values'];
  if (Array.isArray(header) && Array.isArray(data) && data.every(Array.isArray)) {
    const names = header.map((h: Json) =>
      isRecord(h) ? named(h, ['name', 'label', 'title']) + (h['unit'] ? ` (${cell(h['unit'])})` : '') : cell(h),
    );
    found.push({ name, rows: [names, ...(data as Json[][]).map((r) => r.map(cell))] });
    return;
  }
  for (const [key, inner] of Object.entries(value)) tablesIn(inner, path === '' ? key : `${path} ${key}`, found, depth + 1);
}

/** A JSON document, or one a line. */
export function openJson(text: string, choice: string | null): OpenResult {
  const lines = text.split('\n').filter((l) => l.trim() !== '');
  let document: Json;
  let container = 'a JSON document';
  try {
    document = JSON.parse(text) as Json;
  } catch {
    container = 'JSON, a record a line';
    try {
      document = lines.map((l) => JSON.parse(l) as Json);
    } catch {
      return fault('a JSON document', 'damaged');
    }
  }
  const found: InnerTable[] = [];
  tablesIn(document, '', found);
  return chosenTable(container, found, choice);
}
