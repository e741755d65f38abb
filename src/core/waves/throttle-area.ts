import { psiOfRoot, R_GAS } from './gas';

/**
 * Effective area, m², of a throttle at a plenum that loses `loss_Pa` of the stagnation pressure before it at a flow (kg/s):
 * what the ladder says of throttle, opening and exit together. Source: docs/basis/waves.md §3.
 */
export function throttleArea(massFlow_kgps: number, p0_Pa: number, T0_K: number, loss_Pa: number): number {
  return (massFlow_kgps * Math.sqrt(R_GAS * T0_K)) / (p0_Pa * psiOfRoot((1 - loss_Pa / p0_Pa) ** (1 / 7)));
}
