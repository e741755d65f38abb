import { unitByWord } from '../units/units';
import { nameAndUnit, splitRows, type Delimiter } from './layout';

/** A name as people write it: it begins with a letter, and a unit may stand behind it as in a column's head. */
const NAME = String.raw`(\p{L}[\p{L}\p{N} ,./_%°()[\]'’-]{0,50}?)`;
const BEFORE = String.raw`^[^\p{L}\p{N}]*`;
/** Between a name and what it says; within "14:12" stands none. */
const BETWEEN = String.raw`\s*(?:(?<=\p{N})[:=](?!\d)|(?<!\p{N})[:=])\s*`;
const WRITTEN = new RegExp(`${BEFORE}${NAME}${BETWEEN}(.*)$`, 'su');
const ALONE = new RegExp(`${BEFORE}${NAME}$`, 'u');
const LOOSE = new RegExp(String.raw`${BEFORE}(\p{L}[\p{L} .-]{0,40}?)\s+([\d+−-].*)$`, 'su');
/** Where within a line the next name begins. */
const NEXT = /,\s*(?=\p{L}[\p{L} .]*[:=]\s*[^\s\\/])/u;
/** An address or a path has a colon too. */
const PLACE = /^[\\/]/;
/** Cells that say nothing, with which a spreadsheet fills the row of one that does. */
const FILLED = /^[\s;]+|[\s;,]+$/g;
/** A longer line says nothing of this kind; looking through it would take long. */
const LONGEST = 1000;

type Entry = readonly [name: string, text: string];

/** A name and what it says: where only a figure stands there, the unit behind the name is its. */
function entry(head: string, text: string): Entry {
  const { name, unit } = nameAndUnit(head);
  if (unit === '' || unitByWord(unit) === null) return [head.trim(), text];
  return [name, /\p{L}|%/u.test(text) ? text : `${text} ${unit}`];
}

/** "name: value" in one cell; an empty value where it stands in the next. */
function written(cell: string): Entry | null {
  const m = WRITTEN.exec(cell);
  return m && !PLACE.test(m[2]!) ? [m[1]!, m[2]!] : null;
}

/** Names and what they say in cells beside each other, with a unit in a third. */
function beside(cells: readonly string[]): Entry[] {
  const found: Entry[] = [];
  for (let i = 0; i < cells.length; i += 1) {
    const pair = written(cells[i]!);
    if (pair && pair[1] !== '') {
      found.push(entry(...pair));
      continue;
    }
    const head = pair?.[0] ?? ALONE.exec(cells[i]!)?.[1];
    let text = cells[i + 1];
    if (head === undefined || text === undefined) continue;
    // A title with something said in the next cell: that is not what it says.
    const said = pair ? null : written(text);
    if (said && said[1] !== '') {
      found.push([head, '']);
      continue;
    }
    i += 1;
    // Two figures behind one name, from and to perhaps, or a decimal comma taken for one between cells: neither is said.
    while (/^[+−-]?\d/.test(text) && /^[+−-]?[\d.,]+$/.test(cells[i + 1] ?? '')) text = `${text} / ${cells[(i += 1)]!}`;
    const next = cells[i + 1];
    if (next !== undefined && unitByWord(next) !== null) {
      text = `${text} ${next}`;
      i += 1;
    }
    found.push(entry(head, text));
  }
  return found;
}

const cellsOf = (line: string, delimiter: Delimiter): string[] =>
  (splitRows(line, delimiter)[0] ?? []).map((c) => c.trim()).filter((c) => c !== '');

/** A row that is no list of names alone: two cells are one thing said, more of them have figures. */
const saysSomething = (cells: readonly string[]): boolean =>
  cells.length === 2 || cells.slice(1).some((c) => /\d/.test(c) || WRITTEN.test(c));

/** What one line says. */
function entriesOf(whole: string, known: (name: string) => boolean): Entry[] {
  const bare = whole.trim();
  if (bare.length > LONGEST) return [];
  const line = bare.replace(FILLED, '');
  const delimiter = (['\t', ';'] as const).find((d) => line.includes(d));
  if (delimiter === undefined) {
    const pairs = line.split(NEXT).map((part) => written(part.replace(/^"|"$/g, '').trim()));
    if (pairs.some((p) => p !== null) && pairs.every((p) => p === null || (p[1] !== '' && !p[1].startsWith(','))))
      return pairs.flatMap((p) => (p ? [entry(...p)] : []));
    const loose = LOOSE.exec(line);
    if (loose && known(loose[1]!.toLowerCase())) return [[loose[1]!, loose[2]!]];
  }
  const wide = delimiter === undefined && !line.includes(',') ? line.replace(/\s{2,}/g, '\t') : line;
  const cells = cellsOf(wide, delimiter ?? (wide.includes('\t') ? '\t' : ','));
  return cells.length > 1 && saysSomething(cells) ? beside(cells) : [];
}

/**
 * What stands above a table, line by line, as names and what they say: "name: value" or "name = value", several in a row, a cell for
 * each with the unit in a third, or the unit behind the name as in a column's head. Without anything between, only of names that are
 * `known`. Lines with words that are none of it come back as they are.
 */
export function preambleEntries(
  preamble: readonly string[],
  known: (name: string) => boolean,
): { readonly entries: readonly Entry[]; readonly others: readonly string[] } {
  const lines = preamble.map((line) => ({ line, says: entriesOf(line, known) }));
  return {
    entries: lines.flatMap(({ says }) => says),
    others: lines.filter(({ line, says }) => says.length === 0 && /\p{L}/u.test(line)).map(({ line }) => line),
  };
}
