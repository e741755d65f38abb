import Papa from 'papaparse';
import { parseQuantity } from '../units/quantity';
import { MEASURES, type MeasureName, type UnitPack } from '../units/measures';
import { USUAL_AIR } from '../runs/air';
import { AT_SEA } from '../read/rules';
import { headerSplits } from '../units/header';
import { fromSI, unitByWord } from '../units/units';
import { stripPassDoc, weatherReadingDoc, type StripPassDoc, type WeatherReadingDoc } from '../documents/strip';
import { issuesOf, type Issue } from '../documents/issue';
import { issueText } from '../documents/issue-text';
import { NO_SLIP, slipIssues, type SlipField } from '../documents/slip';

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
  /** Columns with figures that name no unit, neither they nor the header, and the one they were read in. */
  readonly assumed: readonly { readonly column: string; readonly unit: string }[];
}

type Words = readonly [test: RegExp, field: string, measure: MeasureName | 'text' | 'clock'];

const plain = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[“”"'′]/g, '')
    .replace(/[½¼⅛]/g, (c) => ({ '½': '1/2', '¼': '1/4', '⅛': '1/8' })[c]!)
    .replace(/\s+/g, ' ')
    .trim();

/** No time at a mark: a speed, or from one speed to another ("60 mph", "100-200 km/h"). */
const NO_MARK = String.raw`(?!.*(?:mph|km\/?h|kph|speed|trap|geschw))(?!\d+ ?(?:-|–|to|bis|à) ?\d)`;
const mark = (name: string): RegExp => new RegExp(`^${NO_MARK}(?:${name})`);
const FOOT = String.raw` ?-?(?:ft|foot|feet|m|\b)`;

const PASS_COLUMNS: readonly Words[] = [
  [/^(r\.?\/?t\b|rea[ck])/, 'reaction_s', 'time'],
  [/(1\/8|eighth|201|660).*(mph|km\/?h|speed|trap)|(mph|km\/?h|speed|trap).*(1\/8|eighth|201|660)/, 'v201_mps', 'roadSpeed'],
  [/(1\/4|quarter|402|1320).*(mph|km\/?h|speed|trap)|(mph|km\/?h|speed|trap).*(1\/4|quarter|402|1320)/, 'v402_mps', 'roadSpeed'],
  [mark(`(?:60|18)${FOOT}`), 't18_s', 'time'],
  [mark(`(?:330|100)${FOOT}`), 't100_s', 'time'],
  [mark(String.raw`1\/8|eighth|201|660`), 't201_s', 'time'],
  [mark(`(?:1000|305)${FOOT}`), 't305_s', 'time'],
  [mark(String.raw`1\/4|quarter|402|1320|et\b|e\.t\.`), 't402_s', 'time'],
  [/^dial/, 'dial_s', 'time'],
  [/^(time|at|clock|uhrzeit|zeit|heure|hora|ora|tijd|tid)\b/, 'at', 'clock'],
  [/^side|^unit|^throttle/, 'side', 'text'],
  [/^(car|driver|no\b|nr\b|number|#|vehicle|name|entry)/, 'car', 'text'],
  [/^lane/, 'lane', 'text'],
  [/^coolant|^water/, 'coolant_K', 'temperature'],
  [/^(inlet|intake|iat)/, 'inlet_K', 'temperature'],
  [/^(tyre|tire)/, 'tyre_Pa', 'plenum'],
  [/^launch/, 'launch_rpm', 'rpm'],
  [/^(between|changed)/, 'between', 'text'],
  [/^note/, 'note', 'text'],
];

/** A speed whose name says no distance belongs to the mark in the column before it. */
const BARE_SPEED = /^(mph|km\/?h|speed|trap|geschw|snelheid|vitesse|velocidad|velocit|hastighet)/;
const SPEED_OF: Readonly<Record<string, string>> = { t201_s: 'v201_mps', t402_s: 'v402_mps' };

/** Not the air's own temperature. */
const NO_AIR = String.raw`(?!.*(?:track|surface|strecke|bahn|water|coolant|oil|dew|taupunkt|press|druck|druk|presi))`;
/** A pressure brought down to the sea is not the one that stands at the strip. */
const NO_STATION = `(?!.*(?:${AT_SEA.source}))`;

const WEATHER_COLUMNS: readonly Words[] = [
  [/^(time|at|clock|uhrzeit|zeit|heure|hora|ora|tijd|tid)\b/, 'at', 'clock'],
  [/^(.* )?(hum|rh\b|r\.h|luftfeuchte|feuchte|luftfeuchtigkeit|luchtvochtig|vochtig|umid)/, 'rh', 'share'],
  [new RegExp(`^${NO_AIR}(?:temp|air|t\\b|luft|lucht|température)`), 'T_K', 'temperature'],
  [new RegExp(`^${NO_STATION}(?:air |luft|lucht)?(?:press|baro|p\\b|qfe|station|druck|druk|presi|ciśn)`), 'p_Pa', 'barometer'],
];

/** A mark told once more in another measure: "1/8 mile (201 m)". */
const A_DISTANCE = /^(?:\d+ ?[-–] ?)?\d+(?:[.,/]\d+)? ?(?:m|ft|feet|foot|mi|miles?|')?$/i;

/**
 * The unit behind a column's name, in whichever way it stands there: "coolant F" and "coolant/F" are in °F, while the foot of
 * "60 ft" is a mark, as a time is not in feet. Brackets that hold none are given as they stand: whoever wrote them meant something.
 */
function unitOf(name: string, measure: Words[2]): string {
  if (measure === 'text' || measure === 'clock') return '';
  const { dimension } = MEASURES[measure];
  const splits = headerSplits(name);
  const said = splits.find((s) => unitByWord(s.unit, dimension) !== null)?.unit;
  // A speed's unit may stand before its mark: "mph 1/4".
  return said ?? /\b(mph|km\/?h)\b/i.exec(name)?.[1] ?? splits.find((s) => s.by === 'brackets' && !A_DISTANCE.test(s.unit))?.unit ?? '';
}

function clock(cell: string): string | null {
  const m = /^(\d{1,2})[:.h](\d{2})(?::\d{2})?\s*([ap]m)?$/i.exec(cell.trim());
  if (!m) return null;
  const hour = (Number(m[1]) % (m[3] ? 12 : 24)) + (m[3]?.toLowerCase() === 'pm' ? 12 : 0);
  return Number(m[2]) > 59 ? null : `${String(hour).padStart(2, '0')}:${m[2]}`;
}

interface Column {
  readonly field: string;
  readonly measure: Words[2];
  readonly unit: string;
}

/** What the columns of a header are; a bare speed belongs to the distance beside it. */
function columnsOf(header: readonly string[], words: readonly Words[]): (Column | null)[] {
  const taken = new Set<string>();
  let mark: string | null = null;
  const columns = header.map((raw): Column | null => {
    const name = plain(raw);
    const hit = words.find(([test, field]) => !taken.has(field) && test.test(name));
    if (hit) {
      taken.add(hit[1]);
      if (hit[1].startsWith('t')) mark = hit[1];
      return { field: hit[1], measure: hit[2], unit: unitOf(raw, hit[2]) };
    }
    // A mark that is not kept still ends the one before it: its speed is not that one's.
    if (/^\d/.test(name)) mark = null;
    if (words !== PASS_COLUMNS || !BARE_SPEED.test(name)) return null;
    const field: string | undefined = mark === null ? undefined : SPEED_OF[mark];
    if (field === undefined || taken.has(field)) return null;
    taken.add(field);
    return { field, measure: 'roadSpeed', unit: unitOf(raw, 'roadSpeed') };
  });
  // A table with one speed, beside no mark of its own: it is that over the line.
  const speeds = header.flatMap((raw, k) => (BARE_SPEED.test(plain(raw)) ? [k] : []));
  const [only] = speeds;
  if (words !== PASS_COLUMNS || speeds.length !== 1 || only === undefined || columns[only] !== null) return columns;
  const besideMark = columns[only - 1]?.field.startsWith('t') ?? false;
  if (!besideMark && taken.has('t402_s') && !taken.has('v402_mps'))
    columns[only] = { field: 'v402_mps', measure: 'roadSpeed', unit: unitOf(header[only]!, 'roadSpeed') };
  return columns;
}

/** Why a cell is no figure of its column: where the header's own brackets are the reason, they are named. */
const noFigure = (figure: string, column: Column, pack: UnitPack): string =>
  column.unit !== '' && column.measure !== 'text' && column.measure !== 'clock' && parseQuantity(figure, column.measure, pack).ok
    ? `“${column.unit}” in the header is not a unit that fits here.`
    : 'This is not a figure with a unit that fits here.';

/** Whether figures without a unit are shares of one and no per cents: none is over one, and one of them is no whole number. */
function areShares(column: readonly string[]): boolean {
  const figures = column.filter((c) => c.trim() !== '').map((c) => Number(c.trim().replace(',', '.')));
  return figures.every((x) => Number.isNaN(x) || x <= 1) && figures.some((x) => x > 0 && x < 1);
}

function cells(
  header: readonly string[],
  rows: readonly (readonly string[])[],
  words: readonly Words[],
  pack: UnitPack,
): {
  rows: { line: number; values: Record<string, string | number>; raw: Record<string, string> }[];
  problems: TableProblem[];
  ignored: string[];
  assumed: { column: string; unit: string }[];
  nameOf: (field: string) => string;
  why: (field: string, issue: Issue) => string;
} {
  const columns = columnsOf(header, words);
  const problems: TableProblem[] = [];
  const bare = new Map<number, string>();
  const shares = columns.map(
    (column, k) => column?.measure === 'share' && column.unit === '' && areShares(rows.map((row) => row[k] ?? '')),
  );
  const out = rows.map((row, r) => {
    const values: Record<string, string | number> = {};
    const raw: Record<string, string> = {};
    columns.forEach((column, k) => {
      const cell = (row[k] ?? '').trim();
      if (!column || cell === '' || /^[-—–]+$/.test(cell)) return;
      raw[column.field] = cell;
      const bad = (why: string): void => void problems.push({ line: r + 2, column: header[k]!, cell, why });
      if (column.measure === 'text') values[column.field] = cell;
      else if (column.measure === 'clock') {
        const at = clock(cell);
        if (at === null) bad('This is not a time of day, such as 14:05.');
        else values[column.field] = at;
      } else {
        // A foul is printed with a word or a mark behind it.
        const figure = column.field === 'reaction_s' ? cell.replace(/\s*(\*|red|foul)$/i, '') : cell;
        const parsed = parseQuantity(/[a-z%°]/i.test(figure) ? figure : `${figure} ${column.unit}`.trim(), column.measure, pack);
        // Seconds and turns a minute are what everybody means.
        if (parsed.ok && parsed.bare && column.measure !== 'time' && column.measure !== 'rpm')
          bare.set(k, shares[k] ? 'shares of one' : parsed.unit.label);
        if (parsed.ok) values[column.field] = parsed.bare && shares[k] ? fromSI(parsed.si, parsed.unit) : parsed.si;
        else bad(noFigure(figure, column, pack));
      }
    });
    return { line: r + 2, values, raw };
  });
  return {
    rows: out,
    problems,
    ignored: header.filter((name, k) => columns[k] === null && name.trim() !== ''),
    assumed: [...bare].sort(([a], [b]) => a - b).map(([k, unit]) => ({ column: header[k]!, unit })),
    nameOf: (field) => header[columns.findIndex((c) => c?.field === field)] ?? field,
    why: (field, issue) => {
      const measure = columns.find((c) => c?.field === field)?.measure;
      return measure === undefined || measure === 'text' || measure === 'clock' ? issue.message : issueText(issue, measure, pack);
    },
  };
}

export type SideByName = (name: string) => StripPassDoc['side'];

/** Slips read from a table, and the cars in it: of several, none is taken until one is said to be the own. */
export interface ReadSlips extends ReadTable<StripPassDoc> {
  readonly cars: readonly string[];
}

const sameCar = (a: string, b: string): boolean => plain(a).replace(/^#/, '') === plain(b).replace(/^#/, '');

/**
 * Slips from a table: a header that names the marks (60 ft, 330, 1/8, 1/8 mph, 1000, 1/4 or ET, mph, or their metres) and a
 * row a pass; or a slip as it is printed, a line a mark and a column a lane. A speed without a distance belongs to the mark
 * beside it. Of several cars the one called `car` is taken; without that they are only named. A row that cannot be a pass is
 * not taken and says why; columns that mean nothing are named.
 */
export function passesFromTable(
  header0: readonly string[],
  rows0: readonly (readonly string[])[],
  sideOf: SideByName,
  { car = null, pack = 'metric' }: { readonly car?: string | null; readonly pack?: UnitPack } = {},
): ReadSlips {
  const { header, rows } = upright(header0, rows0);
  const read = cells(header, rows, PASS_COLUMNS, pack);
  const cars = [...new Set(read.rows.flatMap(({ values }) => (typeof values['car'] === 'string' ? [values['car']] : [])))];
  const own = car ?? null;
  if (cars.length > 1 && (own === null || !cars.some((c) => sameCar(c, own))))
    return { found: [], problems: [], ignored: read.ignored, assumed: [], cars };
  const mine = cars.length > 1 ? read.rows.filter(({ values }) => sameCar(String(values['car'] ?? ''), own!)) : read.rows;
  const problems = read.problems.filter((p) => mine.some((m) => m.line === p.line));
  const found = mine.flatMap(({ line, values, raw }): StripPassDoc[] => {
    const { side, lane, at, coolant_K, inlet_K, tyre_Pa, launch_rpm, between, note, dial_s, car: _car, ...slip } = values;
    if (Object.keys(slip).length === 0) return [];
    const full = { ...NO_SLIP, ...slip } as Record<SlipField, number | null>;
    const [issue] = slipIssues(full).filter((i) => i.level === 'refused');
    if (issue) {
      problems.push({
        line,
        column: read.nameOf(issue.field),
        cell: raw[issue.field] ?? '',
        why: 'Times rise with distance, and speeds are possible ones: this slip’s are not.',
      });
      return [];
    }
    const l = String(lane ?? '').toLowerCase();
    const parsed = stripPassDoc.safeParse({
      schema: 1,
      at,
      side: side === undefined ? null : sideOf(String(side)),
      lane: l.startsWith('l') || l === '1' ? 'left' : l.startsWith('r') || l === '2' ? 'right' : '',
      slip: full,
      ...(dial_s !== undefined && { dial_s }),
      ...(coolant_K !== undefined && { coolant_K }),
      ...(inlet_K !== undefined && { inlet_K }),
      ...(tyre_Pa !== undefined && { tyre_Pa }),
      ...(launch_rpm !== undefined && { launch_rpm }),
      between: String(between ?? ''),
      note: String(note ?? ''),
    });
    if (parsed.success) return [parsed.data];
    for (const issue of issuesOf(parsed.error)) {
      const field = issue.path.split('.').at(-1)!;
      problems.push({ line, column: read.nameOf(field), cell: raw[field] ?? '', why: read.why(field, issue) });
    }
    return [];
  });
  return { found, problems, ignored: read.ignored, assumed: read.assumed, cars };
}

/** A slip as it is printed has its marks under each other: it is turned, so that every lane is a row. */
function upright(header: readonly string[], rows: readonly (readonly string[])[]): { header: string[]; rows: string[][] } {
  const all = [header, ...rows].filter((r) => r.some((c) => c.trim() !== ''));
  const isMark = (name: string): boolean =>
    PASS_COLUMNS.some(([test, , measure]) => (measure === 'time' || measure === 'roadSpeed') && test.test(plain(name)));
  const across = header.filter(isMark).length;
  const down = all.filter((r) => isMark(r[0] ?? '') || BARE_SPEED.test(plain(r[0] ?? ''))).length;
  if (down < 3 || down <= across) return { header: [...header], rows: rows.map((r) => [...r]) };
  const width = Math.max(...all.map((r) => r.length));
  const [first, ...rest] = all;
  // Blanks before the first title are gone where cells are parted by blanks.
  const top = first!.length === width - 1 ? ['', ...first!] : first;
  // The line above the marks names the lanes or the cars.
  const titled = !isMark(top![0] ?? '') && !/[\d.]{3,}/.test(top!.slice(1).join(''));
  const lines = titled ? rest : all;
  const lanes = titled && top!.slice(1).some((c) => /^(left|right|l|r)$/i.test(c.trim()));
  const names = [titled ? (lanes ? 'Lane' : 'Car') : 'Lane', ...lines.map((r) => r[0] ?? '')];
  const columns = Array.from({ length: width - 1 }, (_, k) => [
    titled ? (top![k + 1] ?? '') : String(k + 1),
    ...lines.map((r) => r[k + 1] ?? ''),
  ]);
  return { header: names, rows: columns.filter((c) => c.slice(1).some((v) => v.trim() !== '')) };
}

/**
 * A day's air from a table with a time, a temperature, a pressure and a humidity; units in the names or the cells. Where no humidity
 * stands the usual one is taken, and the reading marked.
 */
export function weatherFromTable(
  header: readonly string[],
  rows: readonly (readonly string[])[],
  pack: UnitPack = 'metric',
): ReadTable<WeatherReadingDoc> {
  const read = cells(header, rows, WEATHER_COLUMNS, pack);
  const problems = [...read.problems];
  const found = read.rows.flatMap(({ line, values, raw }): WeatherReadingDoc[] => {
    if (Object.keys(values).length === 0) return [];
    const rhGuessed = values['rh'] === undefined;
    const parsed = weatherReadingDoc.safeParse({ rh: USUAL_AIR.rh, ...values, rhGuessed, from: 'file' });
    if (parsed.success) return [parsed.data];
    const [first] = issuesOf(parsed.error);
    const field = first?.path.split('.').at(0) ?? '';
    const missing = !first || values[field] === undefined;
    problems.push({
      line,
      column: missing ? '' : read.nameOf(field),
      cell: raw[field] ?? '',
      why: missing ? 'A reading has a time, a temperature and a pressure.' : read.why(field, first),
    });
    return [];
  });
  return { found, problems, ignored: read.ignored, assumed: read.assumed };
}

/** A table as it is pasted or as it stands in a small file: tabs, semicolons or commas, found by themselves. */
export function tableOf(text: string): { header: string[]; rows: string[][] } {
  const bare = text.replace(/^\uFEFF/, '');
  // A text set with blanks: its cells are parted by two or more, or by bars.
  const spaced = !/[\t;]/.test(bare) && bare.split('\n').filter((l) => /\S\s{2,}\S|\s\|\s/.test(l)).length >= 2;
  const lines = spaced ? bare.replace(/^[ |]+|(?<![ |])[ |]+$/gm, '').replace(/ *\| *| {2,}/g, '\t') : bare;
  const parsed = Papa.parse<string[]>(lines, { skipEmptyLines: 'greedy', delimitersToGuess: ['\t', ';', ','] });
  const [header = [], ...rows] = parsed.data;
  return { header, rows };
}
