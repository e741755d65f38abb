import { unitByWord } from '../units/units';

/** A name as people write it: it begins with a letter; a unit may stand in brackets behind it. */
const NAME = String.raw`(\p{L}[\p{L}\p{N} ./_%°-]{0,40}?)\s*(?:[([]\s*([^)\]]{1,12}?)\s*[)\]])?`;
/** Between a name and what it says; within "14:12" stands none. */
const BETWEEN = String.raw`\s*(?:(?<=\p{N})[:=](?!\d)|(?<!\p{N})[:=])`;
const WRITTEN = new RegExp(String.raw`^[^\p{L}\p{N}]*${NAME}${BETWEEN}\s*(.*)$`, 'su');
const ALONE = new RegExp(String.raw`^[^\p{L}\p{N}]*${NAME}$`, 'u');
const LOOSE = new RegExp(String.raw`^[^\p{L}\p{N}]*(\p{L}[\p{L} .-]{0,40}?)\s+([\d+−-].*)$`, 'su');
/** A longer line says nothing of this kind; looking through it would take long. */
const LONGEST = 1000;

/** An address or a path has a colon too. */
const PLACE = /^[\\/]/;
/** What a name says: where only a figure stands there, the unit behind the name is its. */
const withUnit = (text: string, unit: string | undefined): string =>
  unit !== undefined && !/\p{L}|%/u.test(text) ? `${text} ${unit}` : text;

type Entry = readonly [string, string];

/** "name: value" in one cell; an empty value where it stands in the next. */
function written(cell: string): Entry | null {
  const m = WRITTEN.exec(cell);
  return m && !PLACE.test(m[3]!) ? [m[1]!, m[3] === '' ? '' : withUnit(m[3]!, m[2])] : null;
}

/** Names and what they say in cells beside each other, with a unit in a third. */
function beside(cells: readonly string[]): Entry[] {
  const found: Entry[] = [];
  for (let i = 0; i < cells.length; i += 1) {
    const pair = written(cells[i]!);
    if (pair && pair[1] !== '') {
      found.push(pair);
      continue;
    }
    const m = pair ? WRITTEN.exec(cells[i]!) : ALONE.exec(cells[i]!);
    let text = cells[i + 1];
    if (!m || text === undefined) continue;
    i += 1;
    // A decimal comma that was taken for one between cells.
    if (/^[+−-]?\d+$/.test(text) && /^\d+$/.test(cells[i + 1] ?? '')) text = `${text},${cells[(i += 1)]!}`;
    const next = cells[i + 1];
    if (next !== undefined && unitByWord(next) !== null) {
      text = `${text} ${next}`;
      i += 1;
    }
    found.push([m[1]!, withUnit(text, m[2])]);
  }
  return found;
}

const cellsOf = (line: string, between: RegExp): string[] =>
  line
    .split(between)
    .map((c) => c.trim().replace(/^"(.*)"$/, '$1'))
    .filter((c) => c !== '');

/** A row that is no list of names alone: two or three cells are one thing said, more of them have figures. */
const saysSomething = (cells: readonly string[]): boolean =>
  cells.length === 2 || cells.slice(1).some((c) => /\d/.test(c) || WRITTEN.test(c));

/** What one line says. */
function entriesOf(whole: string, known: (name: string) => boolean): Entry[] {
  const line = whole.trim();
  if (line.length > LONGEST) return [];
  if (/[\t;]/.test(line)) {
    const cells = cellsOf(line, /[\t;]/);
    return saysSomething(cells) ? beside(cells) : [];
  }
  const parts = line.split(new RegExp(String.raw`,\s*(?=\p{L}[\p{L} .]*[:=]\s*[^\s\\/])`, 'u'));
  const pairs = parts.map((part) => written(part.replace(/^"|"$/g, '').trim())).filter((p) => p !== null);
  const cells = cellsOf(line, /,/);
  if (pairs.length > 0) return pairs.every(([, text]) => text !== '' && !text.startsWith(',')) ? pairs : beside(cells);
  const loose = LOOSE.exec(line);
  if (loose && known(loose[1]!.toLowerCase())) return [[loose[1]!, loose[2]!]];
  return cells.length > 1 && saysSomething(cells) ? beside(cells) : [];
}

/**
 * What stands above a table, line by line, as names and what they say: "name: value" or "name = value", several in a row, a cell for
 * each with the unit in a third, or the unit in brackets behind the name. Without anything between, only of names that are `known`.
 * Lines with words that are none of it come back as they are.
 */
export function preambleEntries(
  preamble: readonly string[],
  known: (name: string) => boolean,
): { readonly entries: readonly (readonly [string, string])[]; readonly others: readonly string[] } {
  const lines = preamble.map((line) => ({ line, says: entriesOf(line, known) }));
  return {
    entries: lines.flatMap(({ says }) => says).map(([name, text]) => [name.trim(), text] as const),
    others: lines.filter(({ line, says }) => says.length === 0 && /\p{L}/u.test(line)).map(({ line }) => line),
  };
}
