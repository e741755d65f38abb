import { failure, type Failure } from '../failure';
import { GAMMA, R_DRY } from './constants';

/** √γ·M·(1+(γ−1)/2·M²)^(−3) at M = 1: the largest flow function a section passes (airflow basis §4). */
export const CHOKED_FLOW_FUNCTION = Math.sqrt(GAMMA) / 1.2 ** 3;

const ROOT_GAMMA = Math.sqrt(GAMMA);
/** Newton converges quadratically where the slope is healthy: a step this small leaves an error of its square. */
const MACH_STEP_SMALL = 1e-8;
const SLOPE_HEALTHY = 0.05;
/** Close to M = 1 the root is double and each step only halves the error: there the step itself is the error. */
const MACH_STEP_CHOKING = 1e-15;
const MACH_STEPS = 80;

/**
 * Subsonic Mach number of `x` = ṁ·√(R_d·T₀)/(A·p₀)/√γ, or NaN where the section is choked.
 *
 * With γ = 1.4 the exponent −(γ+1)/(2(γ−1)) is −3, so M = x·(1+0.2·M²)³ and the residual is convex below the root:
 * Newton started on the series' first terms (never above the root, all being positive) climbs to it without a bracket
 * and without a power function.
 */
export function machOf(x: number): number {
  if (!(x < 1 / 1.728)) return NaN;
  const xx = x * x;
  let m = x * (1 + xx * (0.6 + 0.84 * xx));
  for (let i = 0; i < MACH_STEPS; i += 1) {
    const s = 1 + 0.2 * m * m;
    const slope = 1 - 1.2 * x * m * s * s;
    if (slope <= 0) break;
    const step = (x * s * s * s - m) / slope;
    m += step;
    if (Math.abs(step) <= (slope > SLOPE_HEALTHY ? MACH_STEP_SMALL : MACH_STEP_CHOKING) * m) break;
  }
  return m;
}

/**
 * Dynamic head over stagnation pressure, 1 − (1+0.2·M²)^(−3.5), without the cancellation at small M:
 * s^3.5 − 1 = (s⁷ − 1)/(s^3.5 + 1), and s⁷ − 1 is a polynomial in u = s − 1.
 */
export function headShare(mach: number): number {
  const u = 0.2 * mach * mach;
  const s = 1 + u;
  const s35 = s * s * s * Math.sqrt(s);
  const poly = 7 + u * (21 + u * (35 + u * (35 + u * (21 + u * (7 + u)))));
  return (u * poly) / ((s35 + 1) * s35);
}

/** Square of the flow function over √γ beyond which a section is choked. */
export const CHOKED_X2 = 1 / 1.728 ** 2;

/**
 * q/p₀ as a power series in X = x². With M² = X·(1+0.2·M²)⁶ Lagrange's inversion gives the coefficients in closed form,
 * (0.7/n)·C(6n − 4.5, n − 1)·0.2^(n−1); each term is X/0.335 of the one before at most.
 */
const HEAD_SERIES = Array.from({ length: 16 }, (_, k) => {
  const n = k + 1;
  let binomial = 1;
  for (let j = 0; j < n - 1; j += 1) binomial *= (6 * n - 4.5 - j) / (j + 1);
  return (0.7 / n) * binomial * 0.2 ** (n - 1);
});
const [H1, H2, H3, H4, H5, H6, H7, H8, H9, H10, H11, H12, H13, H14, H15, H16] = HEAD_SERIES as [
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
];
/** Up to here eight, or sixteen, terms of the series leave less than 1e-12 of the sum. */
const SERIES_SHORT = 0.011;
const SERIES_LONG = 0.06;

/** q/p₀ of a section at X = (ṁ·√(R_d·T₀)/(A·p₀))²/γ, NaN where it is choked: the series where it is exact, else Newton. */
export function headOfSquare(X: number): number {
  if (X < SERIES_SHORT) return X * (H1 + X * (H2 + X * (H3 + X * (H4 + X * (H5 + X * (H6 + X * (H7 + X * H8)))))));
  if (X < SERIES_LONG) {
    const tail = H9 + X * (H10 + X * (H11 + X * (H12 + X * (H13 + X * (H14 + X * (H15 + X * H16))))));
    return X * (H1 + X * (H2 + X * (H3 + X * (H4 + X * (H5 + X * (H6 + X * (H7 + X * (H8 + X * tail))))))));
  }
  return X < CHOKED_X2 ? headShare(machOf(Math.sqrt(X))) : NaN;
}

/** Dynamic head q, Pa, of ṁ (kg/s) through `area_m2` at stagnation `p0_Pa`, `rootRT` = √(R_d·T₀); NaN where choked. */
export function dynamicHead(massFlow_kgps: number, area_m2: number, p0_Pa: number, rootRT: number): number {
  const x = (massFlow_kgps * rootRT) / (area_m2 * p0_Pa) / ROOT_GAMMA;
  return p0_Pa * headOfSquare(x * x);
}

export interface DuctState {
  readonly mach: number;
  readonly p_Pa: number;
  readonly q_Pa: number;
}

/** One section of duct at a flow. Returns `choked` where more is asked than M = 1 passes. Airflow basis §4. */
export function ductState(massFlow_kgps: number, area_m2: number, p0_Pa: number, T0_K: number): DuctState | Failure {
  if (!(area_m2 > 0) || !(p0_Pa > 0) || !(T0_K > 0) || !(massFlow_kgps >= 0)) return failure('bad_input');
  const mach = machOf((massFlow_kgps * Math.sqrt(R_DRY * T0_K)) / (area_m2 * p0_Pa) / ROOT_GAMMA);
  if (Number.isNaN(mach)) return failure('choked');
  const q_Pa = p0_Pa * headShare(mach);
  return { mach, q_Pa, p_Pa: p0_Pa - q_Pa };
}

/** Largest mass flow, kg/s, of a section (M = 1). Airflow basis §4. */
export function ductCapacity(area_m2: number, p0_Pa: number, T0_K: number): number {
  return (CHOKED_FLOW_FUNCTION * area_m2 * p0_Pa) / Math.sqrt(R_DRY * T0_K);
}
