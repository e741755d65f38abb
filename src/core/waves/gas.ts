/**
 * The gas of the unsteady inlet: one perfect gas everywhere, fresh and burnt alike, they differ in temperature only.
 * Units: Pa, K, kg, m, s, J. Source: docs/basis/waves.md §1.
 */
// Taken out of Math once: these run millions of times.
const { sqrt } = Math;

export const GAMMA = 1.4;
/** Specific gas constant, J/(kg·K). */
export const R_GAS = 287.058;
/** Specific heats at constant pressure and volume, J/(kg·K). */
export const C_P = (GAMMA * R_GAS) / (GAMMA - 1);
export const C_V = R_GAS / (GAMMA - 1);

/** Pressure ratio at which a nozzle chokes. */
export const CHOKED_RATIO = (2 / (GAMMA + 1)) ** (GAMMA / (GAMMA - 1));
/** The same as the seventh root of the ratio: what the ends of ducts reckon in. */
export const CHOKED_ROOT = sqrt(2 / (GAMMA + 1));

/** Speed of sound, m/s. */
export const soundSpeed = (T_K: number): number => sqrt(GAMMA * R_GAS * T_K);

/**
 * Flow function Ψ of an ideal nozzle by the seventh root of its pressure ratio, r^(1/7): with γ = 1.4 every power of the
 * ratio in it is a whole one, so an end of a duct needs no more than one root a step. Constant once choked, 0 at r ≥ 1.
 */
export function psiOfRoot(root: number): number {
  if (root >= 1) return 0;
  const y = root < CHOKED_ROOT ? CHOKED_ROOT : root;
  const y2 = y * y;
  const y4 = y2 * y2;
  return sqrt(7 * y4 * y4 * y2 * (1 - y2));
}

/** Flow through an ideal nozzle of `area_m2` from a stagnation state to a pressure, kg/s. Never negative. */
export function nozzleFlow(area_m2: number, p0_Pa: number, T0_K: number, to_Pa: number): number {
  if (to_Pa >= p0_Pa) return 0;
  return ((area_m2 * p0_Pa) / sqrt(R_GAS * T0_K)) * psiOfRoot((to_Pa / p0_Pa) ** (1 / 7));
}
