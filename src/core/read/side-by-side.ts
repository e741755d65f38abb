import type { ChannelMap } from '../documents/run';
import { factsOf, guessChannels, type FoundColumn } from './guess';
import { RUN_MARK } from './run-mark';

/** The channels of one run of a file in which several stand beside each other. */
export interface RunColumns {
  /** What tells the run from the others; empty where the file holds one. */
  readonly label: string;
  readonly channels: readonly ChannelMap[];
}

/** A run's mark at the beginning or the end of a name: "Run 2 Power", "Power 2", "RPM (run 2)", "2: RPM". */
const MARKED: readonly RegExp[] = [
  new RegExp(String.raw`^(${RUN_MARK})\b[\s:_.-]*(.+)$`, 'i'),
  new RegExp(String.raw`^(.+?)[\s_([-]*(${RUN_MARK})[\])]*$`, 'i'),
  /^(.+?)[\s_#.-]*\(?(\d{1,2})\)?$/,
];

function marked(name: string): { label: string; name: string } | null {
  const front = MARKED[0]!.exec(name);
  if (front) return { label: front[1]!, name: front[2]! };
  const back = MARKED[1]!.exec(name);
  if (back) return { label: back[2]!, name: back[1]! };
  const number = MARKED[2]!.exec(name);
  return number ? { label: `run ${number[2]}`, name: number[1]! } : null;
}

/** Groups of columns by their run's mark, or by names that stand again in the same turn; null where there are none. */
function groupsOf(columns: readonly FoundColumn[]): { label: string; name: string }[] | null {
  const own = columns.filter((c) => c.made === undefined);
  const marks = own.map((c) => marked(c.name));
  const labels = new Set(marks.flatMap((m) => (m ? [m.label.toLowerCase()] : [])));
  if (labels.size >= 2) {
    const perLabel = [...labels].map((l) => marks.filter((m) => m?.label.toLowerCase() === l).map((m) => m!.name.toLowerCase().trim()));
    // Every run has the same columns; else the numbers tell cylinders or sensors apart, not runs.
    if (perLabel[0]!.length >= 2 && perLabel.every((names) => names.join('|') === perLabel[0]!.join('|')))
      return own.map((c, i) => marks[i] ?? { label: '', name: c.name });
  }
  const names = own.map((c) => c.name.toLowerCase().trim());
  const again = names.indexOf(names[0]!, 1);
  if (again < 2 || names.length % again !== 0) return null;
  const repeats = names.every((n, i) => n === names[i % again]);
  return repeats ? own.map((c, i) => ({ label: `run ${Math.floor(i / again) + 1}`, name: c.name })) : null;
}

/**
 * The runs of a file that stand side by side, each with its own columns; the columns without a mark (a shared clock or
 * engine speed) belong to all. One run where the file is not of that kind, or a group has no power or torque of its own.
 */
export function sideBySide(columns: readonly FoundColumn[], channels: readonly ChannelMap[]): RunColumns[] {
  const one: RunColumns[] = [{ label: '', channels }];
  const groups = groupsOf(columns);
  if (!groups) return one;
  const labels = [...new Set(groups.map((g) => g.label).filter((l) => l !== ''))];
  const runs = labels.map((label): RunColumns => {
    const at = groups.flatMap((g, i) => (g.label === label || g.label === '' ? [i] : []));
    const guessed = guessChannels(at.map((i) => ({ ...factsOf(columns[i]!), name: groups[i]!.name })));
    const mapped = channels.map((c): ChannelMap => ({ column: c.column, quantity: 'other', unit: null }));
    guessed.forEach((g, k) => {
      const column = at[k]!;
      mapped[column] = { column, quantity: g.quantity, unit: g.unit, ...(g.power && { power: g.power }) };
    });
    return { label, channels: mapped };
  });
  // A power of its own makes a run: the two banks of an engine beside one power are one run.
  const whole = (r: RunColumns): boolean =>
    r.channels.some((c) => c.quantity === 'rpm') &&
    r.channels.some((c) => groups[c.column]?.label === r.label && (c.quantity === 'power' || c.quantity === 'torque'));
  return runs.length > 1 && runs.every(whole) ? runs : one;
}
