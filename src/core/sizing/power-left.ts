import { peakOf } from '../numbers/peak';
import { referenceOf, solveCandidate, type EngineReference, type Solve, type SolveKind } from '../engine/induction';
import { compilePath } from '../flow/compile';
import { failure, isFailure, type Failure } from '../failure';
import type { Path, PathPart, ThrottlePart } from '../flow/path';
import { smallestBore } from './own-loss';

/** Bores are searched between these for the power bound, m. */
const POWER_SEARCH_m = [0.02, 0.2] as const;
export const POWER_SHARE = 0.005;

/** The path with its throttle given another bore; its own bench figure belongs to the old bore and is dropped. */
export function pathWithBore(path: Path, bore_m: number): Path {
  return {
    ...path,
    parts: path.parts.map((part): PathPart => {
      if (part.type !== 'throttle') return part;
      const { benchFlow_m3ps: _f, benchDepression_Pa: _d, benchEntryK: _e, ...rest } = part;
      return { ...rest, throttle: { ...part.throttle, bore_m } };
    }),
  };
}

const peakOnPath = (ref: EngineReference, path: Path): number | null => {
  const compiled = compilePath(path);
  if (isFailure(compiled)) return null;
  const solved = solveCandidate(ref, compiled);
  return isFailure(solved) ? null : peakOf(solved.power_W);
};

/** The path with a throttle that costs nothing: K 0 and the area of the opening it bolts to. `no_opening` without one. */
export function idealPath(path: Path): Path | Failure {
  const at = path.parts.findIndex((part) => part.type === 'throttle');
  const next = path.parts[at + 1];
  if (at < 0 || !next) return failure('no_opening');
  const opening_m2 = facingArea(next);
  if (opening_m2 === null) return failure('no_opening');
  const throttle = path.parts[at] as ThrottlePart;
  const ideal: PathPart = {
    type: 'section',
    name: throttle.name ?? 'throttle',
    area_m2: opening_m2,
    K: 0,
    join: throttle.join,
    pulsationFactor: throttle.pulsationFactor,
  };
  return { ...path, parts: path.parts.map((part, i) => (i === at ? ideal : part)) };
}

/** Peak power, W, on that path. */
export function idealPeak(ref: EngineReference, path: Path): number | Failure {
  const ideal = idealPath(path);
  if (isFailure(ideal)) return ideal;
  return peakOnPath(ref, ideal) ?? failure('choked', { side: 'candidate' });
}

function facingArea(part: PathPart): number | null {
  const circle = (d: number): number => (Math.PI / 4) * d * d;
  if (part.type === 'taper') return circle(part.inBore_m);
  if (part.type === 'pipe') return circle(part.bore_m) * (part.count ?? 1);
  if (part.type === 'throttle' || part.type === 'restrictor') return null;
  return part.area_m2 ?? (part.bore_m === undefined ? null : circle(part.bore_m));
}

/**
 * Smallest bore, m, that leaves less than `share` of the ideal throttle's peak power on the table. `no_opening` where
 * the throttle is the last part, `no_bore` up to 200 mm. Airflow basis §9.4.
 */
export function boreByPower(kind: SolveKind, solve: Solve, share = POWER_SHARE): { bore_m: number; idealPeak_W: number } | Failure {
  const ref = referenceOf(kind, solve);
  if (isFailure(ref)) return ref;
  return boreByPowerOf(ref, solve.candidate, share);
}

export function boreByPowerOf(
  ref: EngineReference,
  candidate: Path,
  share = POWER_SHARE,
): { bore_m: number; idealPeak_W: number } | Failure {
  const ideal = idealPeak(ref, candidate);
  if (isFailure(ideal)) return ideal;
  const enough = (bore_m: number): boolean => {
    const peak = peakOnPath(ref, pathWithBore(candidate, bore_m));
    return peak !== null && peak >= (1 - share) * ideal;
  };
  // Coarse first: each trial is a solve over the whole rpm range.
  let below: number = POWER_SEARCH_m[0];
  for (let bore = below; bore <= POWER_SEARCH_m[1]; bore += 0.004) {
    if (enough(bore)) {
      const found = smallestBore(enough, below, bore);
      return found === null ? failure('no_bore', { reason: 'power' }) : { bore_m: found, idealPeak_W: ideal };
    }
    below = bore;
  }
  return failure('no_bore', { reason: 'power' });
}

/** Peak power against bore (null where it chokes) and the first bore within `share` of the curve's own top. Airflow basis §9. */
export function kneeCurve(
  ref: EngineReference,
  candidate: Path,
  bores_m: readonly number[],
  share = POWER_SHARE,
): { peakPower_W: (number | null)[]; knee_m: number | null } {
  const peakPower_W = bores_m.map((bore) => peakOnPath(ref, pathWithBore(candidate, bore)));
  const top = Math.max(...peakPower_W.map((p) => p ?? -Infinity));
  const at = peakPower_W.findIndex((p) => p !== null && p >= (1 - share) * top);
  return { peakPower_W, knee_m: at < 0 ? null : bores_m[at]! };
}
