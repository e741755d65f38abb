import { meanOf } from '../numbers/moments';

/**
 * Fits figures of an inlet that nobody knows to a measured filling curve, by least squares in its logarithm. The level is free: a
 * measured curve has one of its own (a dyno's losses, a gauge's scale), and what the waves do is in the shape. Source:
 * docs/basis/waves.md §7 (ratios on the measured curve).
 */

/** A figure that may be moved, and how well it is known before anything is measured. */
export interface CalibrationFigure {
  readonly value: number;
  /** Bounds it is held to. */
  readonly least: number;
  readonly most: number;
  /** How far it is moved to see what it does. */
  readonly step: number;
  /** Standard error of what is known of it beforehand; a fit that knows less tells nothing. */
  readonly known: number;
}

export interface Calibrated {
  /** Figures as they fit, those that cannot be told as they were. */
  readonly values: readonly number[];
  /** Standard error of each; null: the curve cannot tell it. */
  readonly errors: readonly (number | null)[];
  /** Speeds that were compared. */
  readonly speeds: number;
  /** Measured over the model's filling, the mean. */
  readonly level: number;
  /** How far the model lies from the measured curve, level apart: root mean square as a share, before and as it fits now. */
  readonly off_before: number;
  readonly off: number;
  /** The largest part of its standing error that a figure was moved by; below SETTLED it is done. */
  readonly moved: number;
}

/** A round that moves nothing by more than this share of its error has settled. */
export const SETTLED = 0.1;
/** No curve is known better than this, as a share: what the model itself and a dyno's shape are off by. Stands in for a fit too good. */
const LEAST_NOISE = 0.004;
/** A shape of fewer points than this is none. */
export const FEWEST_SPEEDS = 4;
/** Figures fitted to fewer points than this many for each are drawn through noise. */
const POINTS_EACH = 3;

/** The figures of every curve that a round needs: as they are, then each moved by its step (inwards at a bound). */
export function calibrationPoints(figures: readonly CalibrationFigure[]): number[][] {
  const base = figures.map((f) => f.value);
  return [base, ...figures.map((f, j) => base.map((v, k) => (k === j ? v + stepOf(f) : v)))];
}

const stepOf = (f: CalibrationFigure): number => (f.value + f.step <= f.most ? f.step : -f.step);

/** What a figure without any effect weighs, as a share of the heaviest: its error comes out enormous instead of undefined. */
const NEXT_TO_NOTHING = 1e-10;

/** Solves A x = b for a small symmetric A that is not negative; also gives A's inverse. */
function solved(A: readonly (readonly number[])[], b: readonly number[]): { x: number[]; inverse: number[][] } {
  const n = b.length;
  const least = NEXT_TO_NOTHING * Math.max(1e-12, ...A.map((row, i) => row[i]!));
  const M = A.map((row, i) => [...row.map((v, k) => (k === i ? v + least : v)), b[i]!, ...row.map((_, k) => (k === i ? 1 : 0))]);
  for (let c = 0; c < n; c += 1) {
    let best = c;
    for (let r = c + 1; r < n; r += 1) if (Math.abs(M[r]![c]!) > Math.abs(M[best]![c]!)) best = r;
    const top = M[best]!;
    M[best] = M[c]!;
    const own = top.map((v) => v / top[c]!);
    M[c] = own;
    for (let r = 0; r < n; r += 1) {
      if (r === c) continue;
      const share = M[r]![c]!;
      M[r] = M[r]!.map((v, k) => v - share * own[k]!);
    }
  }
  return { x: M.map((row) => row[n]!), inverse: M.map((row) => row.slice(n + 1)) };
}

/** Neighbours on a smooth curve are off together: as many of its points as tell something of their own. */
function pointsOfTheirOwn(residual: readonly number[]): number {
  const own = residual.reduce((s, r) => s + r * r, 0);
  const next = residual.slice(1).reduce((s, r, i) => s + r * residual[i]!, 0);
  const share = own > 0 ? Math.min(0.9, Math.max(0, next / own)) : 0;
  return (residual.length * (1 - share)) / (1 + share);
}

const rms = (list: readonly number[]): number => Math.sqrt(list.reduce((s, v) => s + v * v, 0) / list.length);
const centred = (list: readonly number[]): number[] => {
  const mean = meanOf(list);
  return list.map((v) => v - mean);
};

/**
 * One round of the fit: `filling[0]` is the model's curve with the figures as they are, `filling[j + 1]` with figure j moved (see
 * `calibrationPoints`), all at the speeds of `measured`; null where it is missing or has not settled, which leaves the speed out.
 * A figure whose standard error comes out no smaller than what is known beforehand is left as it is and told so; the others are
 * fitted again without it. Null: too few speeds to say anything.
 */
export function calibrationRound(
  figures: readonly CalibrationFigure[],
  measured: readonly number[],
  filling: readonly (readonly (number | null)[])[],
): Calibrated | null {
  const at = measured.flatMap((m, i) => (m > 0 && filling.every((W) => W[i] !== null && W[i]! > 0) ? [i] : []));
  if (at.length < FEWEST_SPEEDS) return null;
  const log = (W: readonly (number | null)[], i: number): number => Math.log(W[i]!);
  const gap = at.map((i) => Math.log(measured[i]!) - log(filling[0]!, i));
  const mean = meanOf(gap);
  const before = centred(gap);
  // The level is taken out of every column, so it is fitted with the rest without standing among it.
  const columns = figures.map((f, j) => centred(at.map((i) => (log(filling[j + 1]!, i) - log(filling[0]!, i)) / stepOf(f))));
  const values = figures.map((f) => f.value);
  const errors: (number | null)[] = figures.map(() => null);
  let fitted = figures.map((_, j) => j).slice(0, Math.floor(at.length / POINTS_EACH));
  let off = rms(before);
  let moved = 0;
  while (fitted.length > 0) {
    const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((s, v, i) => s + v * b[i]!, 0);
    // In units of what is known beforehand: figures of any size and unit weigh alike.
    const scaled = fitted.map((j) => columns[j]!.map((v) => v * figures[j]!.known));
    const fit = solved(
      scaled.map((a) => scaled.map((b) => dot(a, b))),
      scaled.map((a) => dot(a, before)),
    );
    const residual = before.map((r, i) => r - fit.x.reduce((s, x, k) => s + x * scaled[k]![i]!, 0));
    const noise = Math.max(LEAST_NOISE, rms(residual) * Math.sqrt(at.length / Math.max(1, at.length - fitted.length - 1)));
    const alike = at.length / Math.max(1, pointsOfTheirOwn(residual));
    const se = fitted.map((_, k) => noise * Math.sqrt(Math.max(0, fit.inverse[k]![k]!) * alike));
    const worst = se.reduce((w, e, k) => (e > se[w]! ? k : w), 0);
    if (!(se[worst]! < 1)) {
      fitted = fitted.filter((_, k) => k !== worst);
      continue;
    }
    fitted.forEach((j, k) => {
      const f = figures[j]!;
      values[j] = Math.min(f.most, Math.max(f.least, f.value + fit.x[k]! * f.known));
      errors[j] = se[k]! * f.known;
      moved = Math.max(moved, Math.abs(values[j]! - f.value) / errors[j]!);
    });
    off = rms(residual);
    break;
  }
  return { values, errors, speeds: at.length, level: Math.exp(mean), off_before: rms(before), off, moved };
}

/** Less than this a gauge on a manifold does not tell from none, Pa. */
const LEAST_DROP_Pa = 400;

/**
 * What a manifold's pressure says in place of filling: the root of how far it lies below open air. It goes with what flows, and the
 * model has the same of its own plenum, gulps and all; how well throttle and path pass is in the level, as a measured curve's own
 * level is. Null: too little to tell.
 */
export const rootOfDrop = (drop_Pa: number): number | null => (drop_Pa >= LEAST_DROP_Pa ? Math.sqrt(drop_Pa) : null);

/**
 * Speeds to compare at: where the curve was measured, at most `most` of them spread evenly. Between its points a curve is only drawn:
 * more speeds than points would count what was never measured.
 */
export function calibrationSpeeds(measured_rpm: readonly number[], [low, high]: readonly [number, number], most: number): number[] {
  const inside = measured_rpm.filter((n) => n >= low && n <= high);
  if (inside.length <= most) return inside;
  return Array.from({ length: most }, (_, i) => inside[Math.round((i * (inside.length - 1)) / (most - 1))]!);
}
