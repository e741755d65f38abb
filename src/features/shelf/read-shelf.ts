import Papa from 'papaparse';
import { issuesOf, type Issue } from '@/core/documents/issue';
import { unitDoc, type UnitDoc } from '@/core/documents/unit';
import { unharmed } from '@/core/export/csv';
import { LEAK_CLEARANCE_m } from '@/core/flow/leak';
import { BLADE_CLEARANCE_m } from '@/core/flow/throttle';
import { headerSplits } from '@/core/units/header';
import type { MeasureName } from '@/core/units/measures';
import { readNumber } from '@/core/units/quantity';
import { groupOfThree } from '@/core/units/usual';
import { fromSI, toSI, unitById, unitByWord } from '@/core/units/units';
import { wantedText } from '@/core/documents/issue-text';
import { INCH_OF_WATER_Pa } from '@/core/units/units';
import { COLUMNS } from './shelf-file';

/** What a column's figures usually are: it decides what a group of three is. */
const MEASURE: Readonly<Record<string, MeasureName>> = {
  bore: 'bore',
  width: 'bore',
  height: 'bore',
  shaft: 'fineLength',
  gap: 'fineLength',
  'largest manifold bore': 'bore',
  price: 'money',
  'bench flow': 'benchFlow',
  'bench depression': 'depression',
};

/** Names that columns had in files written earlier. */
const OLD_NAMES: Readonly<Record<string, string>> = { 'largest opening': 'largest manifold bore' };

export interface GoodRow {
  readonly row: number;
  readonly doc: UnitDoc;
  /** A throttle of this name is on the shelf already. */
  readonly known: boolean;
}
export interface BadRow {
  readonly row: number;
  readonly name: string;
  readonly reasons: readonly string[];
}
export interface ShelfRead {
  readonly good: readonly GoodRow[];
  readonly bad: readonly BadRow[];
  /** Columns that mean nothing here. */
  readonly unknown: readonly string[];
  /** Columns with figures whose header names no unit, and the one they were read in. */
  readonly assumed: readonly { readonly column: string; readonly unit: string }[];
  /** What the file does not say of rows that can be taken, what was taken instead, and in how many of them. */
  readonly usual: readonly { readonly column: string; readonly value: string; readonly rows: number }[];
  /** Nothing can be read at all, and why. */
  readonly refused: string | null;
}

const REFUSED = (why: string): ShelfRead => ({ good: [], bad: [], unknown: [], assumed: [], usual: [], refused: why });

type Heads = ReadonlyMap<string, { readonly at: string; readonly unit: string | null }>;

/** The column that a header names, and what stands behind the name as its unit. */
function columnOf(field: string): [(typeof COLUMNS)[number] | null, string | undefined] {
  const named = (name: string) => {
    const said = name.trim().toLowerCase().replaceAll('_', ' ');
    return COLUMNS.find((c) => c.name.toLowerCase() === (OLD_NAMES[said] ?? said)) ?? null;
  };
  const whole = named(field);
  if (whole) return [whole, undefined];
  const split = headerSplits(field).find((s) => named(s.name) !== null && (s.by === 'brackets' || unitByWord(s.unit) !== null));
  return split ? [named(split.name), split.unit] : [null, undefined];
}

/** Which header each column stands under, and the unit written behind it. */
function headsOf(fields: readonly string[]): { heads: Heads; unknown: string[]; wrong: string[]; bare: { at: string; unit: string }[] } {
  const heads = new Map<string, { at: string; unit: string | null }>();
  const unknown: string[] = [];
  const wrong: string[] = [];
  const bare: { at: string; unit: string }[] = [];
  for (const field of fields) {
    const [column, word] = columnOf(field);
    if (!column) {
      unknown.push(field);
      continue;
    }
    const unit = column.dimension === null ? null : word ? (unitByWord(word, column.dimension)?.id ?? null) : column.unit;
    if (column.dimension !== null && unit === null) wrong.push(`"${field}": "${word}" is not a unit for this`);
    // Money has no unit here: an amount is the shop's own.
    if (unit !== null && !word && column.dimension !== 'money') bare.push({ at: field, unit });
    heads.set(column.name, { at: field, unit });
  }
  return { heads, unknown, wrong, bare };
}

type Cells = Readonly<Record<string, string | undefined>>;

/** A cell as a figure in SI: undefined where it is empty, a reason where it is no number. */
function figure(cells: Cells, heads: Heads, name: string, reasons: string[]): number | undefined {
  const head = heads.get(name);
  const text = (head ? cells[head.at] : undefined)?.trim() ?? '';
  if (!head || text === '') return undefined;
  const bare = text.replace(/^\p{Sc}\s*/u, '');
  const unit = head.unit === null ? null : unitById(head.unit);
  const two = unit ? groupOfThree(bare, MEASURE[name] ?? 'ratio', () => unit) : null;
  const read = two ?? readNumber(bare);
  const number = read && read.rest === '' ? read.value : NaN;
  if (!Number.isFinite(number)) {
    reasons.push(`${name}: "${text}" is not a number`);
    return undefined;
  }
  return unit === null ? number : toSI(number, unit);
}

/** A row as a throttle, or why it is none; `usual`: the columns it says nothing under, for which the usual was taken. */
function unitOf(cells: Cells, heads: Heads): { doc: UnitDoc | null; reasons: string[]; name: string; usual: string[] } {
  const reasons: string[] = [];
  const usual: string[] = [];
  const num = (name: string): number | undefined => figure(cells, heads, name, reasons);
  const word = (name: string): string => {
    const head = heads.get(name);
    return unharmed((head ? cells[head.at] : undefined)?.trim() ?? '');
  };
  const or = <T>(name: string, said: T | undefined, otherwise: T): T => {
    if (said === undefined) usual.push(name);
    return said ?? otherwise;
  };
  const wordOr = (name: string, otherwise: string): string => or(name, word(name).toLowerCase() || undefined, otherwise);
  const flow = num('bench flow');
  const bench =
    flow === undefined
      ? []
      : [
          {
            flow_m3ps: flow,
            depression_Pa: or('bench depression', num('bench depression'), 28 * INCH_OF_WATER_Pa),
            entryK: or('bench entry K', num('bench entry K'), 0.04),
            bench: word('bench') || 'imported',
            kind: wordOr('bench kind', 'reading'),
          },
        ];
  const width = num('width');
  const height = num('height');
  const shape = wordOr('shape', 'single');
  const leak = wordOr('leak class', 'production');
  const name = word('name');
  const raw = {
    schema: 1,
    name,
    throttle: {
      shape,
      bore_m: num('bore') ?? (shape === 'oval' && width && height ? Math.sqrt(width * height) : undefined),
      count: num('bores') ?? (shape === 'twin' ? 2 : 1),
      ...(shape === 'oval' && { width_m: width, height_m: height }),
      shaft_m: or('shaft', num('shaft'), 0.008),
      edge: wordOr('shaft edge', 'round'),
      closedAngle_rad: or('closed angle', num('closed angle'), (7 * Math.PI) / 180),
      clearance_m: or(
        'gap',
        num('gap'),
        leak in LEAK_CLEARANCE_m ? LEAK_CLEARANCE_m[leak as keyof typeof LEAK_CLEARANCE_m] : BLADE_CLEARANCE_m,
      ),
      leak,
    },
    controls: wordOr('controls', 'cable'),
    price: num('price') ?? null,
    largestOpening_m: num('largest manifold bore') ?? null,
    bench,
    note: word('note'),
  };
  const parsed = unitDoc.safeParse(raw);
  if (parsed.success && reasons.length === 0) return { doc: parsed.data, reasons, name, usual };
  const issues = parsed.success ? [] : issuesOf(parsed.error, raw).map(reasonOf);
  return { doc: null, reasons: [...reasons, ...issues], name, usual: [] };
}

/** What stands under a column for a throttle, in the column's unit. */
function valueText({ get, unit }: Pick<(typeof COLUMNS)[number], 'get' | 'unit'>, doc: UnitDoc): string {
  const value = get(doc);
  return typeof value === 'number' && unit !== null ? inUnit(value, unit) : String(value);
}

const order = (column: string): number => COLUMNS.findIndex((c) => c.name === column);

const inUnit = (si: number, unit: string): string => `${Number(fromSI(si, unitById(unit)).toPrecision(4))} ${unitById(unit).label}`;

const FIELD: Readonly<Record<string, string>> = {
  bore_m: 'bore',
  width_m: 'width',
  height_m: 'height',
  shaft_m: 'shaft',
  clearance_m: 'gap',
  closedAngle_rad: 'closed angle',
  largestOpening_m: 'largest manifold bore',
  count: 'bores',
  edge: 'shaft edge',
  leak: 'leak class',
  flow_m3ps: 'bench flow',
  depression_Pa: 'bench depression',
  entryK: 'bench entry K',
};
/** An issue as a reason under the column's name, in the column's unit. */
function reasonOf(issue: Issue): string {
  const last = issue.path.split('.').at(-1)!;
  const name = FIELD[last] ?? (last === '' ? 'row' : last);
  const unit = COLUMNS.find((c) => c.name === name)?.unit;
  const say = (si: number): string => (unit ? inUnit(si, unit) : String(si));
  if (issue.missing) return `${name}: missing`;
  const words = issue.wanted ? wantedText(issue.wanted, say) : issue.message;
  // Reasons stand beside one another, parted by semicolons.
  return `${name}: ${words.replace(/\.$/, '')}`;
}

const knownIn = (existing: readonly string[], name: string): boolean => existing.some((n) => n.toLowerCase() === name.toLowerCase());

function readJson(text: string, existing: readonly string[]): ShelfRead {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return REFUSED('This is neither a CSV table nor JSON that can be read: it breaks off or has a stray character.');
  }
  const list = Array.isArray(raw) ? raw : (raw as { units?: unknown } | null)?.units;
  if (!Array.isArray(list)) return REFUSED('This JSON holds no list of throttles. Needed: {"units": [ … ]}, as the export writes it.');
  const good: GoodRow[] = [];
  const bad: BadRow[] = [];
  list.forEach((item: unknown, i) => {
    const parsed = unitDoc.safeParse(typeof item === 'object' && item !== null ? { ...item, photo: null } : item);
    if (parsed.success) good.push({ row: i + 1, doc: parsed.data, known: knownIn(existing, parsed.data.name) });
    else
      bad.push({
        row: i + 1,
        name: String((item as { name?: unknown } | null)?.name ?? ''),
        reasons: issuesOf(parsed.error, item).map(reasonOf),
      });
  });
  return { good, bad, unknown: [], assumed: [], usual: [], refused: null };
}

/** What was taken for what a file leaves out, as it is told: "shaft 8 mm, gap 0.04 mm (3 rows)". */
export function usualText({ good, usual }: Pick<ShelfRead, 'good' | 'usual'>): string {
  return usual
    .map(({ column, value, rows }) => `${column} ${value}${rows === good.length ? '' : ` (${rows} of ${good.length} rows)`}`)
    .join(', ');
}

/**
 * Reads a shelf from CSV or JSON. Every row is either good or bad with its reasons; nothing is taken yet. Columns are known
 * by their names, in any order; a unit behind a name counts, "bore (in)" or "bore_in".
 */
export function readShelf(text: string, existing: readonly string[] = []): ShelfRead {
  const clean = text.replace(/^\uFEFF/, '');
  if (clean.trim() === '') return REFUSED('The file is empty.');
  if (/^\s*[[{]/.test(clean)) return readJson(clean, existing);
  const parsed = Papa.parse<Record<string, string>>(clean, { header: true, skipEmptyLines: 'greedy' });
  const { heads, unknown, wrong, bare } = headsOf(parsed.meta.fields ?? []);
  if (!heads.has('name')) return REFUSED(`No column is called "name". Known columns: ${COLUMNS.map((c) => c.name).join(', ')}.`);
  if (!heads.has('bore') && !heads.has('width')) return REFUSED('No column is called "bore" (or "width" and "height" for ovals).');
  if (wrong.length > 0) return REFUSED(`${wrong.join('; ')}. Write a unit like mm or in behind the name.`);
  const good: GoodRow[] = [];
  const bad: BadRow[] = [];
  const seen = new Set<string>();
  // Where rows differ, by the gap of another leak class say, each value stands for itself.
  const taken = new Map<string, ShelfRead['usual'][number]>();
  parsed.data.forEach((cells, i) => {
    // The header is the file's first line.
    const row = i + 2;
    const { doc, reasons, name, usual } = unitOf(cells, heads);
    const twice = seen.has(name.toLowerCase());
    if (doc && !twice) {
      good.push({ row, doc, known: knownIn(existing, doc.name) });
      for (const { name: column, ...of } of COLUMNS.filter((c) => usual.includes(c.name))) {
        const value = valueText(of, doc);
        const key = `${column} ${value}`;
        taken.set(key, { column, value, rows: (taken.get(key)?.rows ?? 0) + 1 });
      }
    } else bad.push({ row, name, reasons: twice ? [...reasons, 'this name stands in the file already'] : reasons });
    seen.add(name.toLowerCase());
  });
  const assumed = bare.flatMap(({ at, unit }) =>
    parsed.data.some((cells) => (cells[at] ?? '').trim() !== '') ? [{ column: at.trim(), unit: unitById(unit).label }] : [],
  );
  const usual = [...taken.values()].sort((a, b) => order(a.column) - order(b.column));
  return { good, bad, unknown, assumed, usual, refused: null };
}
