import { knotCurve } from '../numbers/curve';
import { isFailure } from '../failure';

/** A stretch of engine speeds over which one inlet does better or worse than the other. */
export interface WaveStretch {
  readonly from_rpm: number;
  readonly to_rpm: number;
  /** Mean of the ratio less one over the stretch. */
  readonly share: number;
}

/** A difference below this is none: the model's own grid moves a ratio by as much. */
export const NO_DIFFERENCE = 0.005;

/**
 * Stretches over which a ratio of filling stays above or below one by more than what counts as no difference, the strongest
 * first. `ratio` may have holes (null: not reckoned or not settled).
 */
export function waveStretches(rpm: readonly number[], ratio: readonly (number | null)[]): WaveStretch[] {
  const found: { from: number; to: number; sum: number; n: number; sign: number }[] = [];
  let open: (typeof found)[number] | null = null;
  rpm.forEach((n, i) => {
    const r = ratio[i];
    if (r === null || r === undefined || !Number.isFinite(r)) return;
    const off = r - 1;
    const sign = Math.abs(off) < NO_DIFFERENCE ? 0 : Math.sign(off);
    if (open && open.sign === sign) {
      open.to = n;
      open.sum += off;
      open.n += 1;
    } else {
      open = sign === 0 ? null : { from: n, to: n, sum: off, n: 1, sign };
      if (open) found.push(open);
    }
  });
  return found
    .map((s) => ({ from_rpm: s.from, to_rpm: s.to, share: s.sum / s.n, weight: Math.abs(s.sum) }))
    .sort((a, b) => b.weight - a.weight)
    .map(({ from_rpm, to_rpm, share }) => ({ from_rpm, to_rpm, share }));
}

/** What an inlet is to be best at. */
export const WAVE_PURPOSES = ['peak', 'band', 'low'] as const;
export type WavePurpose = (typeof WAVE_PURPOSES)[number];

/** Points at which a stretch of the curve is read for its mean. */
const MEAN_POINTS = 25;

/**
 * What a curve of filling is worth for a purpose: its largest torque's filling over the speeds, the mean over the band that
 * is used between shifts, or the mean below the band. Null where the curve does not reach there.
 */
export function waveScore(
  rpm: readonly number[],
  filling: readonly number[],
  purpose: WavePurpose,
  band_rpm: readonly [number, number],
): number | null {
  const curve = knotCurve({ rpm, value: filling });
  if (isFailure(curve) || filling.some((v) => !Number.isFinite(v))) return null;
  const [lowest, highest] = [rpm[0]!, rpm.at(-1)!];
  // Power goes with filling times speed: the peak is that of power.
  if (purpose === 'peak') return Math.max(...rpm.map((n, i) => filling[i]! * n)) / highest;
  const [lo, hi] =
    purpose === 'band' ? [Math.max(band_rpm[0], lowest), Math.min(band_rpm[1], highest)] : [lowest, Math.min(band_rpm[0], highest)];
  if (!(hi > lo)) return null;
  let sum = 0;
  for (let i = 0; i < MEAN_POINTS; i += 1) sum += curve(lo + ((hi - lo) * i) / (MEAN_POINTS - 1));
  return sum / MEAN_POINTS;
}

/**
 * An order in which a row of places is best worked through: the ends first, then always the middle of the widest gap, so that
 * a coarse picture stands early.
 */
export function coarseFirst(count: number): number[] {
  if (count <= 2) return Array.from({ length: count }, (_, i) => i);
  const order = [0, count - 1];
  const gaps: [number, number][] = [[0, count - 1]];
  while (order.length < count) {
    gaps.sort((a, b) => b[1] - b[0] - (a[1] - a[0]) || a[0] - b[0]);
    const [a, b] = gaps.shift()!;
    const mid = (a + b) >> 1;
    if (mid === a || mid === b) continue;
    order.push(mid);
    gaps.push([a, mid], [mid, b]);
  }
  return order;
}
