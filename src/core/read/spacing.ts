/** How a text without one separator is cut into cells: at runs of blanks, tabs and bars, or at fixed places of every line. */
export type Spacing = { readonly kind: 'runs' } | { readonly kind: 'places'; readonly cuts: readonly number[] };

const BORDER = /^[\s|+:=_-]*$/;
const MIX = /[ \t|]+/;

/** Without the blanks and bars at its ends. Step by step: a pattern would begin anew at each blank of a long run. */
function strip(line: string): string {
  const border = /[\s|]/;
  let [from, to] = [0, line.length];
  while (from < to && border.test(line[from]!)) from += 1;
  while (to > from && border.test(line[to - 1]!)) to -= 1;
  return line.slice(from, to);
}
const figures = (cells: readonly string[]): number => cells.filter((c) => /^[+-]?[\d.,:]+(?:e[+-]?\d+)?$/i.test(c) && /\d/.test(c)).length;

/** A line of dashes under or over a table. */
const isBorder = (line: string): boolean => line.trim() !== '' && BORDER.test(line) && /[-=_]{2}/.test(line);

/**
 * How a text of columns set with blanks is cut, from its first lines; null where it is not such a text. Places are taken
 * where cells are missing in some lines: runs of blanks would then move the figures behind them into other columns.
 */
export function findSpacing(head: string): Spacing | null {
  const lines = head.split('\n').filter((l) => l.trim() !== '' && !isBorder(l));
  const data = lines.filter((l) => {
    const cells = strip(l).split(MIX);
    return cells.length >= 2 && figures(cells) >= Math.max(2, 0.6 * cells.length);
  });
  if (data.length < 3 || data.length < 0.3 * lines.length) return null;
  const widths = new Set(data.map((l) => strip(l).split(MIX).length));
  if (widths.size === 1) return { kind: 'runs' };
  if (data.some((l) => /[\t|]/.test(l))) return { kind: 'runs' };
  const cuts = commonBlanks(data);
  return cuts.length === 0 ? { kind: 'runs' } : { kind: 'places', cuts };
}

/** Places at which every line has a blank, one for each stretch of them between two columns. */
function commonBlanks(lines: readonly string[]): number[] {
  const length = Math.max(...lines.map((l) => l.length));
  const blank = (at: number): boolean => lines.every((l) => (l[at] ?? ' ') === ' ');
  const cuts: number[] = [];
  let inside = false;
  for (let at = 0; at < length; at += 1) {
    if (!blank(at)) inside = true;
    else if (inside) {
      cuts.push(at);
      inside = false;
    }
  }
  return cuts.filter((c) => lines.some((l) => l.slice(c).trim() !== ''));
}

/** A line with its cells apart by tabs. Names keep single blanks where two or more part them. */
export function spacedLine(line: string, spacing: Spacing): string {
  if (line.trim() === '' || isBorder(line)) return '';
  if (spacing.kind === 'places') {
    const ends = [...spacing.cuts, line.length];
    return ends.map((end, i) => line.slice(i === 0 ? 0 : ends[i - 1]!, end).trim()).join('\t');
  }
  const bare = strip(line);
  const cells = bare.split(MIX);
  if (figures(cells) * 2 >= cells.length) return cells.join('\t');
  // Words: bars, tabs or two blanks part them; where there are none, single blanks do.
  const wide = bare.split(/\s*[|\t]\s*|\s{2,}/);
  return (wide.length > 1 ? wide : namesOf(bare)).join('\t');
}

/** Names parted by single blanks, a unit in brackets kept with its name. */
const namesOf = (line: string): string[] =>
  line
    .replace(/(?<!\s)\s+([([][^)\]]{0,60}[)\]])/g, '\u00a0$1')
    .split(' ')
    .map((n) => n.replace('\u00a0', ' '));
