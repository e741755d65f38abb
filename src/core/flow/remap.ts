import { throttleFailure, openingAngle, throttleEffectiveArea, throttleOpenArea, fullAngle, type Throttle } from './throttle';
import type { Failure } from '../failure';

export interface ThrottleTable {
  readonly angle_rad: readonly number[];
  readonly area_m2: readonly number[];
  readonly effectiveArea_m2: readonly number[];
}

/** Angle, open area and effective area at each percent opening. Airflow basis §10. */
export function throttleTable(t: Throttle, opening_pct: readonly number[]): ThrottleTable | Failure {
  const refused = throttleFailure(t);
  if (refused) return refused;
  const angle_rad = opening_pct.map((p) => openingAngle(t, p));
  return {
    angle_rad,
    area_m2: angle_rad.map((x) => throttleOpenArea(t, x)),
    effectiveArea_m2: angle_rad.map((x) => throttleEffectiveArea(t, x)),
  };
}

/** Areas are the same within this share: the same throttle does not come out of its own sums to the last bit. */
const SAME = 1e-6;

export type RemapMark = 'exact' | 'candidate_leaks_more' | 'candidate_too_small';

/**
 * For each stock opening the smallest candidate opening, %, with the same effective area; 0 % where the shut candidate
 * already passes more, 100 % where it never gets there. Airflow basis §10.
 */
export function throttleRemap(
  stock: Throttle,
  candidate: Throttle,
  opening_pct: readonly number[],
): { candidateOpening_pct: number[]; mark: RemapMark[] } | Failure {
  const refused = throttleFailure(stock) ?? throttleFailure(candidate);
  if (refused) return refused;
  const area = (p: number): number => throttleEffectiveArea(candidate, openingAngle(candidate, p));
  const closed = openingAngle(candidate, 0);
  // The area stops growing at the full angle: the smallest opening lies at or before it.
  const fullPct = Math.min(100, (100 * (fullAngle(candidate) - closed)) / (Math.PI / 2 - closed));
  const shut = area(0);
  const full = area(fullPct);
  const candidateOpening_pct: number[] = [];
  const mark: RemapMark[] = [];
  for (const p of opening_pct) {
    const want = throttleEffectiveArea(stock, openingAngle(stock, p));
    if (want < shut * (1 - SAME)) {
      candidateOpening_pct.push(0);
      mark.push('candidate_leaks_more');
    } else if (want > full * (1 + SAME)) {
      candidateOpening_pct.push(100);
      mark.push('candidate_too_small');
    } else {
      candidateOpening_pct.push(bisectRising(area, want, 0, fullPct));
      mark.push('exact');
    }
  }
  return { candidateOpening_pct, mark };
}

/** The area has a square-root start and a flat end, so plain bisection to the last bit is the safe way in. */
function bisectRising(f: (x: number) => number, want: number, low: number, high: number): number {
  let a = low;
  let b = high;
  if (f(a) >= want) return a;
  for (let i = 0; i < 100 && b - a > 1e-13 * b; i += 1) {
    const x = 0.5 * (a + b);
    if (f(x) >= want) b = x;
    else a = x;
  }
  return b;
}
