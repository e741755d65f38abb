import { failure, type Failure } from '../failure';

/** Crank angle of a whole four-stroke cycle, rad. */
export const CYCLE_rad = 4 * Math.PI;
/** Length of one cylinder's induction event, rad of crank: 240°. Airflow basis §11. */
export const INDUCTION_EVENT_rad = (240 * Math.PI) / 180;
/** A plenum of this many displacements halves what is left of the pulsation. Airflow basis §11. */
const HALVING_PLENUM = 1.5;

export interface Pulsation {
  /** F = mean(ṁ²)/mean(ṁ)²: multiplies every loss of the pulsating flow. */
  readonly factor: number;
  readonly peakToMean: number;
  /** F behind a plenum. */
  readonly blendedFactor?: number;
}

/** Evenly spaced starts of n cylinders' induction events, rad. */
export const evenStarts = (cylinders: number): number[] => Array.from({ length: cylinders }, (_, i) => (i * CYCLE_rad) / cylinders);

/** ∫ of two half-sines of length L, one `apart` after the other, over where they overlap. */
function overlap(apart: number, L: number): number {
  if (apart >= L) return 0;
  const w = Math.PI / L;
  return 0.5 * ((L - apart) * Math.cos(w * apart) + Math.sin(w * apart) / w);
}

/** Largest value of the summed half-sines: between two neighbouring starts or ends the sum is one sine, with a known top. */
function peakOf(starts: readonly number[], L: number): number {
  const w = Math.PI / L;
  const wrap = (x: number): number => ((x % CYCLE_rad) + CYCLE_rad) % CYCLE_rad;
  const edges = [...new Set(starts.flatMap((s) => [wrap(s), wrap(s + L)]))].sort((a, b) => a - b);
  let peak = 0;
  edges.forEach((from, i) => {
    const to = i + 1 < edges.length ? edges[i + 1]! : edges[0]! + CYCLE_rad;
    const middle = 0.5 * (from + to);
    // Sum of sin(w·(θ − s)) over the events running in this stretch, as a·sin(wθ') + b·cos(wθ') with θ' = θ − from.
    let a = 0;
    let b = 0;
    for (const s of starts) {
      const into = wrap(middle - s);
      if (into >= L) continue;
      const atFrom = w * (into - (middle - from));
      a += Math.cos(atFrom);
      b += Math.sin(atFrom);
    }
    const at = (x: number): number => a * Math.sin(w * x) + b * Math.cos(w * x);
    const top = Math.atan2(a, b) / w;
    peak = Math.max(peak, at(0), at(to - from));
    if (top > 0 && top < to - from) peak = Math.max(peak, at(top));
  });
  return peak;
}

/**
 * How unsteady the flow is that a throttle sees: each induction event a half-sine, those that share it summed, wrapping
 * round the cycle. Behind a plenum it is blended toward 1 by the plenum's volume. Airflow basis §11.
 */
export function pulsationFactor(input: {
  readonly startAngles_rad: readonly number[];
  readonly eventLength_rad?: number | undefined;
  readonly plenum_m3?: number | undefined;
  readonly displacement_m3?: number | undefined;
}): Pulsation | Failure {
  const L = input.eventLength_rad ?? INDUCTION_EVENT_rad;
  const starts = input.startAngles_rad;
  if (starts.length === 0 || !(L > 0) || L > CYCLE_rad) return failure('bad_input', { reason: 'induction_event' });
  let square = 0;
  for (const a of starts) {
    for (const b of starts) {
      const apart = (((b - a) % CYCLE_rad) + CYCLE_rad) % CYCLE_rad;
      square += apart === 0 ? overlap(0, L) : overlap(apart, L) + overlap(CYCLE_rad - apart, L);
    }
  }
  const mean = (starts.length * 2 * L) / Math.PI / CYCLE_rad;
  const factor = square / CYCLE_rad / mean ** 2;
  const out = { factor, peakToMean: peakOf(starts, L) / mean };
  if (input.plenum_m3 === undefined) return out;
  if (!(input.plenum_m3 >= 0) || !((input.displacement_m3 ?? 0) > 0)) return failure('bad_input', { reason: 'plenum' });
  return { ...out, blendedFactor: 1 + (factor - 1) / (1 + input.plenum_m3 / (HALVING_PLENUM * input.displacement_m3!)) };
}
