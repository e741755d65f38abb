import { cutText } from '@/core/cut-text';
import { tabbed, type Opened } from './rows';

/** A name, a mark, a figure and perhaps its unit: "rpm=2000", "Power: 38.3 kW". */
const PAIR =
  /([\p{L}_][\p{L}\d_ .%°/()-]{0,40}?)\s*[=:]\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)(?![\d:])\s*([\p{L}%°][\p{L}%°/²³·^-]{0,11}(?=[\s,;|\]]|$)(?!\s*[=:]))?/giu;
/** What may stand before the first name: the moment, in brackets or without. */
const MOMENT =
  /^[\s[(<]*((?:\d{4}-\d{2}-\d{2}[ T])?\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?|\d+(?:\.\d+)?)\s*(m?s)?\s*[\])>]*[\s,;:|>-]*(?=\p{L}|_)/u;
/** Lines looked at before it is decided, and how many of them must be of the kind. */
const LOOKED_AT = 50;
const FEWEST = 3;
const MOST_NAMES = 600;
const LONGEST_LINE = 4000;

interface Line {
  readonly moment: string | null;
  readonly momentUnit: string;
  readonly pairs: readonly { readonly name: string; readonly figure: string; readonly unit: string }[];
  /** What is in the line besides. */
  readonly rest: string;
}

function lineOf(text: string): Line | null {
  if (text.length > LONGEST_LINE) return null;
  const moment = MOMENT.exec(text);
  const body = moment ? text.slice(moment[0].length) : text;
  const pairs = [...body.matchAll(PAIR)].map((m) => ({ name: m[1]!.trim(), figure: m[2]!, unit: m[3] ?? '' }));
  if (pairs.length === 0) return null;
  const rest = body.replace(PAIR, '').replace(/[\s,;|{}[\]"]+/g, '');
  return { moment: moment?.[1] ?? null, momentUnit: moment?.[2] ?? '', pairs, rest };
}

const namesOf = (line: Line): string => line.pairs.map((p) => p.name).join('\u0000');
/** A line of nothing but named figures, two of them or one with its moment. */
const isPlain = (line: Line): boolean => line.rest === '' && line.pairs.length + (line.moment === null ? 0 : 1) >= 2;

/** Whether a text is lines of named figures, the same names again and again. */
export function pairsHead(head: string): boolean {
  const texts = head.split('\n', LOOKED_AT + 1).filter((l) => l.trim() !== '');
  const whole = texts.length > FEWEST ? texts.slice(0, -1) : texts;
  // Cheaper than to take each line apart: most files have no such mark in most lines.
  if (whole.filter((l) => /\p{L}[^=:]{0,40}[=:]\s*[+-]?[\d.]/u.test(l)).length < Math.max(FEWEST, 0.8 * whole.length)) return false;
  const lines = whole.flatMap((l) => lineOf(l) ?? []).filter(isPlain);
  const common = new Map<string, number>();
  for (const line of lines) common.set(namesOf(line), (common.get(namesOf(line)) ?? 0) + 1);
  return Math.max(0, ...common.values()) >= Math.max(FEWEST, 0.5 * whole.length);
}

/** Lines of named figures as a table with a column a name; lines that are nothing of the kind are told. */
export function openPairs(text: string): Opened | null {
  const columns = new Map<string, { at: number; unit: string }>();
  const rows: string[][] = [];
  const left: string[] = [];
  let moments = 0;
  let momentUnit = '';
  for (const raw of text.split('\n')) {
    if (raw.trim() === '') continue;
    const line = lineOf(raw);
    if (!line || (!isPlain(line) && !line.pairs.some((p) => columns.has(p.name)))) {
      left.push(raw.trim());
      continue;
    }
    const row: string[] = [line.momentUnit === (momentUnit || line.momentUnit) ? (line.moment ?? '') : `${line.moment} ${line.momentUnit}`];
    if (line.moment !== null) moments += 1;
    momentUnit ||= line.momentUnit;
    for (const { name, figure, unit } of line.pairs) {
      const known = columns.get(name) ?? { at: columns.size + 1, unit };
      if (!columns.has(name) && columns.size >= MOST_NAMES) return null;
      columns.set(name, known);
      // In another unit than before it is a figure of something else: it stays a word among the figures, and is told.
      row[known.at] = unit !== '' && known.unit !== unit ? `${figure} ${unit}` : figure;
    }
    rows.push(row);
  }
  if (rows.length < 2 || columns.size === 0) return null;
  const named = [...columns].map(([name, { unit }]) => (unit ? `${name} (${unit})` : name));
  const from = moments > 0 ? 0 : 1;
  const header = [momentUnit ? `Time (${momentUnit})` : 'Time', ...named].slice(from);
  const table = rows.map((r) => Array.from({ length: columns.size + 1 }, (_, i) => r[i] ?? '').slice(from));
  return {
    refused: null,
    container: 'a list of named figures, a moment a line',
    text: tabbed([header, ...table]),
    unread:
      left.length > 0 ? [`${left.length} ${left.length === 1 ? 'line' : 'lines'} of words, the first “${cutText(left[0]!, 60)}”`] : [],
  };
}
