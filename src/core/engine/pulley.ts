import { failure, isFailure, type Failure } from '../failure';
import { compilePath } from '../flow/compile';
import type { Path } from '../flow/path';
import { fallingRoot } from '../numbers/root';
import { solveDrawThroughCandidate, solveDrawThroughReference, type DrawThroughEngine } from './draw-through';

/** The belt drive of a blower. Diameters in m. */
export interface PulleyDrive {
  readonly crankPulley_m: number;
  readonly blowerPulley_m: number;
  /** Step-up between belt and rotors (1). */
  readonly step?: number | undefined;
  /** How much larger the lower pulley is than stock's (0.1: 10 %). */
  readonly overdrive?: number | undefined;
}

/** Blower revolutions per crank revolution. Airflow basis §12. */
export function driveRatio(d: PulleyDrive): number {
  return ((d.crankPulley_m * (1 + (d.overdrive ?? 0))) / d.blowerPulley_m) * (d.step ?? 1);
}

/** Ratio of a belt drive and, at a crank speed, the blower's speed against its limit and its ideal flow. Airflow basis §12. */
export function pulleyRatio(
  d: PulleyDrive & {
    readonly rpm?: number | undefined;
    readonly blowerDisplacement_m3?: number | undefined;
    readonly limit_rpm?: number | undefined;
  },
): { ratio: number; blower_rpm?: number; idealFlow_m3ps?: number; withinLimit?: boolean } | Failure {
  if (!(d.crankPulley_m > 0) || !(d.blowerPulley_m > 0) || !((d.step ?? 1) > 0) || !(1 + (d.overdrive ?? 0) > 0)) {
    return failure('bad_input', { reason: 'pulley' });
  }
  const ratio = driveRatio(d);
  if (d.rpm === undefined) return { ratio };
  const blower_rpm = ratio * d.rpm;
  return {
    ratio,
    blower_rpm,
    ...(d.blowerDisplacement_m3 !== undefined && { idealFlow_m3ps: (d.blowerDisplacement_m3 * blower_rpm) / 60 }),
    ...(d.limit_rpm !== undefined && { withinLimit: blower_rpm <= d.limit_rpm }),
  };
}

/** The upper pulley, m, that on the stock lower spins the blower as this one does on an overdriven lower: d/(1+x). */
export function equivalentPulley(blowerPulley_m: number, overdrive: number): number {
  return blowerPulley_m / (1 + overdrive);
}

/** Smallest upper pulley, m, that keeps the blower within its speed at the redline. */
export function smallestPulleyForLimit(
  d: Omit<PulleyDrive, 'blowerPulley_m'> & { readonly redline_rpm: number; readonly limit_rpm: number },
): number {
  return (d.crankPulley_m * (1 + (d.overdrive ?? 0)) * (d.step ?? 1) * d.redline_rpm) / d.limit_rpm;
}

/** Ratios looked for, as multiples of the present one. */
const RATIO_SEARCH = [0.4, 3] as const;

/**
 * The upper pulley that gives a wanted boost (gauge, Pa) at one engine speed: the reference stays at its own ratio, the
 * candidate's is sought. `no_pulley` where no ratio between 0.4 and 3 times the present one gives it. Airflow basis §12.
 */
export function pulleyForBoost(input: {
  readonly solve: DrawThroughEngine & { readonly reference: Path; readonly candidate?: Path | undefined };
  readonly at_rpm: number;
  readonly boost_Pa: number;
  readonly crankPulley_m: number;
  readonly step?: number | undefined;
  readonly overdrive?: number | undefined;
}): { ratio: number; blowerPulley_m: number; blower_rpm: number } | Failure {
  const { solve } = input;
  const at = solve.rpm.indexOf(input.at_rpm);
  if (at < 0) return failure('bad_input', { where: 'at_rpm' });
  const reference = compilePath(solve.reference);
  if (isFailure(reference)) return { ...reference, side: 'reference' };
  const candidate = solve.candidate ? compilePath(solve.candidate) : reference;
  if (isFailure(candidate)) return { ...candidate, side: 'candidate' };
  const ref = solveDrawThroughReference(solve, reference);
  if (isFailure(ref)) return ref;
  const short = (ratio: number): number => {
    const solved = solveDrawThroughCandidate(ref, candidate, ratio);
    // Spun too slowly to make any boost is short of it; choking is beyond what is possible.
    if (isFailure(solved)) return solved.error === 'no_blower_solution' ? solve.ambient.p_Pa : NaN;
    return input.boost_Pa - solved.boost_Pa[at]!;
  };
  const present = solve.blower.ratio;
  const lowest = present * RATIO_SEARCH[0];
  const highest = present * RATIO_SEARCH[1];
  if (!(short(lowest) >= 0) || short(highest) > 0) return failure('no_pulley');
  const root = fallingRoot(short, lowest, highest, 1e-11);
  if (root.stopped === 'wall') return failure('no_pulley');
  const largest = Math.max(...solve.rpm);
  const blowerPulley_m = (input.crankPulley_m * (1 + (input.overdrive ?? 0)) * (input.step ?? 1)) / root.x;
  return { ratio: root.x, blowerPulley_m, blower_rpm: root.x * largest };
}
