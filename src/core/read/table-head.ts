import { isKnownName } from './guess';
import { findLayout, nameAndUnit, type Layout } from './layout';
import { findSpacing, spacedLine, type Spacing } from './spacing';

/** A text cut at its blanks must hold this much more figures than one cut at a separator before it is taken so. */
const SPACED_MORE = 1.2;

/** The layout by one separator, or of the text cut at its blanks where that holds more; null: no table. */
export function bestLayout(head: string): { readonly layout: Layout; readonly spacing: Spacing | null } | null {
  const parted = findLayout(head);
  const spacing = findSpacing(head);
  const asParted = parted && { layout: parted.layout, spacing: null };
  if (!spacing) return asParted;
  const lines = head.split('\n').map((l) => spacedLine(l, spacing));
  const spaced = findLayout(lines.join('\n'));
  if (!spaced || (parted && parted.layout.columns > 1 && parted.score * SPACED_MORE >= spaced.score)) return asParted;
  // What stands above the table is read as it is: its blanks part words, not cells.
  const preamble = head
    .split('\n')
    .filter((_, i) => lines[i]!.trim() !== '')
    .slice(0, spaced.layout.preamble.length)
    .map((l) => l.trim());
  return { layout: { ...spaced.layout, preamble }, spacing };
}

/** Whether a row is the table's header once more. */
export function isHeaderOf({ headerLine, names, units, columns }: Layout, row: readonly string[]): boolean {
  if (headerLine === null) return false;
  const cells = row.slice(0, columns).map(nameAndUnit);
  return (
    cells.length >= columns - 1 && cells.every((c, i) => names[i]!.endsWith(c.name || names[i]!) && (c.unit === '' || c.unit === units[i]))
  );
}

/** Whether a row of words names quantities we know, and other ones than this table's: what follows is another table. */
export function namesAnother({ headerLine }: Layout, row: readonly string[]): boolean {
  const cells = row.filter((c) => c !== '');
  const known = cells.filter((c) => isKnownName(nameAndUnit(c).name));
  return headerLine !== null && known.length >= 2 && known.length * 2 >= cells.length;
}
