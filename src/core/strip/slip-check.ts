import { TIME_MARKS, type Slip, type SlipField } from '../documents/slip';

/** A figure that stands far from the day's passes, and what it would be with two digits changed about. */
export interface OddFigure {
  readonly field: SlipField;
  readonly typed: string;
  /** Range of the day's passes, as typed. */
  readonly from: string;
  readonly to: string;
  /** The figure with two neighbouring digits changed about that would lie among them; null: none would. */
  readonly swapped: string | null;
}

/** Passes of the day before there is anything to hold a new one against. */
const FEWEST = 2;
/** Farther out than this many times the day's own range, and this much at least, is asked about. */
const TIMES_RANGE = 2;
const LEAST = { time: 0.25, speed: 1.8 } as const;

const FIELDS: readonly SlipField[] = [...TIME_MARKS, 'v201_mps', 'v402_mps'];

/** The ways to change two neighbouring digits of a figure about. */
function swaps(text: string): string[] {
  const places = [...text].flatMap((c, i) => (/\d/.test(c) ? [i] : []));
  return places.slice(1).flatMap((j, k) => {
    const i = places[k]!;
    if (text[i] === text[j]) return [];
    const digits = [...text];
    [digits[i], digits[j]] = [text[j]!, text[i]!];
    return [digits.join('')];
  });
}

/**
 * A slip held against the day's other passes of the same car: a figure far from them is asked about, and where two digits
 * changed about would bring it among them, that is offered. `shown` writes a figure as it is typed, `read` reads it.
 */
export function oddFigures(
  slip: Slip,
  day: readonly Slip[],
  shown: (field: SlipField, value: number) => string,
  read: (field: SlipField, text: string) => number,
): OddFigure[] {
  return FIELDS.flatMap((field): OddFigure[] => {
    const value = slip[field];
    const others = day.flatMap((s) => s[field] ?? []);
    if (value === null || others.length < FEWEST) return [];
    const [low, high] = [Math.min(...others), Math.max(...others)];
    const reach = Math.max(TIMES_RANGE * (high - low), field.startsWith('v') ? LEAST.speed : LEAST.time);
    const among = (v: number): boolean => v >= low - reach / 2 && v <= high + reach / 2;
    if (value >= low - reach && value <= high + reach) return [];
    const typed = shown(field, value);
    const swapped = swaps(typed).find((text) => among(read(field, text))) ?? null;
    return [{ field, typed, from: shown(field, low), to: shown(field, high), swapped }];
  });
}
