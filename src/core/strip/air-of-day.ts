import type { WeatherReadingDoc } from '../documents/strip';
import { minuteOf } from '../numbers/clock';

/** A reading farther from the pass than this says nothing of its air, minutes. */
const AIR_WITHIN_min = 60;
const DAY_min = 1440;

/**
 * Times of one night as minutes that go on past midnight: the longest stretch without any is where the night begins. Times
 * that nobody said stay null.
 */
export function nightMinutes(times: readonly (string | null)[]): (number | null)[] {
  const known = [...new Set(times.filter((t) => t !== null).map(minuteOf))].sort((a, b) => a - b);
  if (known.length === 0) return times.map(() => null);
  let [start, widest] = [known[0]!, DAY_min - known.at(-1)! + known[0]!];
  for (let i = 1; i < known.length; i += 1) {
    const gap = known[i]! - known[i - 1]!;
    if (gap > widest) [start, widest] = [known[i]!, gap];
  }
  return times.map((t) => (t === null ? null : minuteOf(t) < start ? minuteOf(t) + DAY_min : minuteOf(t)));
}

export interface AirOfPass {
  /** The air at the pass: between two readings in proportion to the time, else the nearest one's. */
  readonly reading: WeatherReadingDoc;
  /** Minutes to the nearest reading. */
  readonly gap_min: number;
  readonly between: boolean;
}

/**
 * The air of a pass out of the readings of its day, both on the night's own clock. Null where the pass has no time of day, or the
 * nearest reading is over an hour away: then nothing is known of it.
 */
export function airOfPass(
  readings: readonly { readonly reading: WeatherReadingDoc; readonly minute: number }[],
  minute: number | null,
): AirOfPass | null {
  if (minute === null || readings.length === 0) return null;
  const sorted = [...readings].sort((a, b) => a.minute - b.minute);
  const after = sorted.findIndex((r) => r.minute >= minute);
  const gap = (r: { minute: number }): number => Math.abs(r.minute - minute);
  const nearest = sorted.reduce((best, r) => (gap(r) < gap(best) ? r : best));
  if (gap(nearest) > AIR_WITHIN_min) return null;
  const [b, a] = [sorted[after], sorted[after - 1]];
  if (!a || !b || b.minute === minute) return { reading: nearest.reading, gap_min: gap(nearest), between: false };
  // Across a long gap only the near one is believed.
  if (b.minute - a.minute > 2 * AIR_WITHIN_min) return { reading: nearest.reading, gap_min: gap(nearest), between: false };
  const share = (minute - a.minute) / (b.minute - a.minute);
  const mix = (of: 'p_Pa' | 'T_K' | 'rh'): number => a.reading[of] + share * (b.reading[of] - a.reading[of]);
  const rhGuessed = a.reading.rhGuessed || b.reading.rhGuessed;
  const reading = { ...nearest.reading, p_Pa: mix('p_Pa'), T_K: mix('T_K'), rh: mix('rh'), rhGuessed };
  return { reading, gap_min: gap(nearest), between: true };
}

/** Passes of every visit in the order of their night; those without a time of day stay where they are. */
export function nightOrder<T extends { readonly visitId: string; readonly doc: { readonly at: string | null } }>(
  passes: readonly T[],
): T[] {
  const visits = [...new Set(passes.map((p) => p.visitId))];
  return visits.flatMap((visit) => {
    const own = passes.filter((p) => p.visitId === visit);
    const minutes = nightMinutes(own.map((p) => p.doc.at));
    return own
      .map((p, i) => ({ p, i, minute: minutes[i]! }))
      .sort((a, b) => (a.minute !== null && b.minute !== null ? a.minute - b.minute : 0) || a.i - b.i)
      .map(({ p }) => p);
  });
}
