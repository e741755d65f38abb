import { SWEEP_FALLBACK_rpm } from './sweep';

/** A pull of a file: its first and last row, both included. */
export interface RowSpan {
  readonly first: number;
  readonly last: number;
}

/** A rise counts as a pull of its own from this many rpm, and from this share of the file's widest. */
const LEAST_SPAN_rpm = 1000;
const LEAST_SHARE = 0.4;
/** More rises than this are a log of a day, not a file of pulls: it stays whole. */
export const MOST_PULLS = 40;

interface Rise {
  readonly low: number;
  readonly high: number;
  readonly span: number;
}

/** Every stretch in which engine speed rises (30 rpm of fall-back allowed), from its lowest row to its highest. */
function rises(rpm: ArrayLike<number>): Rise[] {
  const found: Rise[] = [];
  let low = -1;
  let high = -1;
  const close = (): void => {
    if (low >= 0 && high > low) found.push({ low, high, span: rpm[high]! - rpm[low]! });
  };
  for (let i = 0; i < rpm.length; i += 1) {
    const n = rpm[i]!;
    if (!Number.isFinite(n)) continue;
    if (low < 0 || n < rpm[high]! - SWEEP_FALLBACK_rpm) {
      close();
      low = i;
      high = i;
    } else if (n <= rpm[low]! && high === low) {
      low = i;
      high = i;
    } else if (n > rpm[high]!) high = i;
  }
  close();
  return found;
}

/**
 * The pulls a dyno file holds, as rows: cut where the header stands again, and midway between one rise of engine speed and
 * the next. A file with one pull, or none to be seen, stays whole.
 */
export function splitPulls(rpm: ArrayLike<number>, sections: readonly number[] = []): RowSpan[] {
  const whole: RowSpan[] = [{ first: 0, last: rpm.length - 1 }];
  if (rpm.length === 0) return [];
  const all = rises(rpm);
  const widest = all.reduce((m, r) => Math.max(m, r.span), 0);
  const pulls = all.filter((r) => r.span >= LEAST_SPAN_rpm && r.span >= LEAST_SHARE * widest);
  if (pulls.length < 2 || pulls.length > MOST_PULLS) return whole;
  const cuts = pulls.slice(1).map((next, k) => {
    const before = pulls[k]!;
    return sections.find((s) => s > before.high && s <= next.low) ?? Math.ceil((before.high + next.low) / 2);
  });
  return pulls.map((_, k) => ({ first: k === 0 ? 0 : cuts[k - 1]!, last: k === pulls.length - 1 ? rpm.length - 1 : cuts[k]! - 1 }));
}
