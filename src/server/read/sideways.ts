import { cutText } from '@/core/cut-text';
import { cellNumber } from '@/core/read/cell';
import { isKnownName } from '@/core/read/guess';
import { nameAndUnit, splitRows } from '@/core/read/layout';
import { readUnitWord } from '@/core/read/unit-words';
import { tabbed, type Opened } from './rows';

const DELIMITERS = ['\t', ';', ',', '|'] as const;
/** A row with fewer cells than these is a line of words with a figure or two. */
const FEWEST_CELLS = 6;
const MOST_CHANNELS = 2000;
/** Lines that may stand above it. */
const MOST_ABOVE = 60;
/** So many figures behind one name are no row of a table that stands upright, even where only its first line is in hand. */
const SURELY = 400;

const isFigure = (cell: string): boolean => Number.isFinite(cellNumber(cell, '.')) || Number.isFinite(cellNumber(cell, ','));

interface Channel {
  readonly header: string;
  readonly cells: readonly string[];
  readonly known: boolean;
}

/** A line that is a channel: its name, perhaps its unit, and figures to the end. */
function channelOf(cells: readonly string[]): Channel | null {
  const [first = '', second = ''] = cells.map((c) => c.trim());
  if (cells.length < FEWEST_CELLS || first === '' || isFigure(first)) return null;
  const unit = second !== '' && !isFigure(second) && readUnitWord(second) !== null ? second : null;
  const rest = cells.slice(unit === null ? 1 : 2).map((c) => c.trim());
  while (rest.at(-1) === '') rest.pop();
  if (rest.length < FEWEST_CELLS - 2 || rest.filter((c) => c === '' || isFigure(c)).length < 0.9 * rest.length) return null;
  return { header: unit === null ? first : `${first} (${unit})`, cells: rest, known: isKnownName(nameAndUnit(first).name) };
}

type Delimiter = (typeof DELIMITERS)[number];
const cellsOf = (line: string, delimiter: Delimiter): string[] => splitRows(line, delimiter)[0] ?? [];
/** Most lines are told apart by their beginning and their separators alone. */
const mayBe = (line: string, delimiter: Delimiter): boolean =>
  /^\s*"?[^\d\s.,;+-]/.test(line) && line.split(delimiter, FEWEST_CELLS).length === FEWEST_CELLS;

interface Sideways {
  readonly from: number;
  readonly channels: readonly Channel[];
}

/** The channels that lie in rows, from the first of them to the last of an unbroken stretch; null: the text holds no such table. */
function stretch(lines: readonly string[], delimiter: Delimiter): Sideways | null {
  const at = (i: number): Channel | null => (mayBe(lines[i]!, delimiter) ? channelOf(cellsOf(lines[i]!, delimiter)) : null);
  const from = lines.slice(0, MOST_ABOVE).findIndex((_, i) => at(i) !== null);
  if (from < 0) return null;
  const channels: Channel[] = [];
  for (let i = from; i < lines.length && channels.length < MOST_CHANNELS; i += 1) {
    const channel = at(i);
    if (!channel) break;
    channels.push(channel);
  }
  const known = channels.filter((c) => c.known).length;
  const distinct = new Set(channels.map((c) => c.header)).size === channels.length;
  // Rows of figures below it are a table that stands upright, with some sums above it.
  const below = lines.slice(from + channels.length).some((l) => cellsOf(l, delimiter).filter(isFigure).length >= 2);
  return distinct && known >= 2 && known * 2 >= channels.length && !below ? { from, channels } : null;
}

const MOST_TOLD = 5;
/** Lines below the table, the first of them in their own words. */
function told(below: readonly string[]): string[] {
  const more = below.length - MOST_TOLD;
  const first = below.slice(0, MOST_TOLD).map((l) => `“${cutText(l.trim(), 60)}”, below the table`);
  return more > 0 ? [...first, `${more} more ${more === 1 ? 'line' : 'lines'} below it`] : first;
}

/** A head as long as this, in characters, is the beginning of more: its last line may be cut off. */
const CUT_FROM = 30_000;

/** Whether a text begins with a table that lies on its side, as far as its first lines tell. */
export function sidewaysHead(head: string): boolean {
  const lines = head.split('\n').filter((l) => l.trim() !== '');
  const whole = head.length < CUT_FROM ? lines : lines.slice(0, -1);
  if (DELIMITERS.some((d) => stretch(whole, d) !== null)) return true;
  // Of long rows not even two are in hand.
  return whole.length <= 1 && DELIMITERS.some((d) => isLongRow(cellsOf(lines[0] ?? '', d)));
}

const isLongRow = (cells: readonly string[]): boolean => cells.length > SURELY && channelOf(cells.slice(0, -1))?.known === true;

/** A table that lies on its side, set upright: a column a channel. Null where it is none after all. */
export function openSideways(text: string): Opened | null {
  const lines = text.split('\n').filter((l) => l.trim() !== '');
  for (const delimiter of DELIMITERS) {
    const found = stretch(lines, delimiter);
    if (!found) continue;
    const { from, channels } = found;
    const longest = channels.reduce((n, c) => Math.max(n, c.cells.length), 0);
    const rows = Array.from({ length: longest }, (_, i) => channels.map((c) => c.cells[i] ?? ''));
    return {
      refused: null,
      container: `a table that lies on its side (${channels.length} channels in rows, of ${longest} figures)`,
      text: tabbed([...lines.slice(0, from).map((l) => [l.trim()]), channels.map((c) => c.header), ...rows]),
      unread: told(lines.slice(from + channels.length)),
    };
  }
  return null;
}
