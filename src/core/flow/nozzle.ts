import { failure, type Failure } from '../failure';
import { GAMMA, R_DRY } from './constants';
import { CHOKED_FLOW_FUNCTION } from './duct';

/** Pressure ratio below which an ideal nozzle is sonic: (2/(γ+1))^(γ/(γ−1)). */
const CRITICAL_RATIO = (2 / (GAMMA + 1)) ** (GAMMA / (GAMMA - 1));

/** Flow function Ψ of an ideal nozzle at pressure ratio r = p/p₀ (0…1). Airflow basis §4. */
export function nozzlePsi(r: number): number {
  if (r <= CRITICAL_RATIO) return CHOKED_FLOW_FUNCTION;
  return Math.sqrt(((2 * GAMMA) / (GAMMA - 1)) * (r ** (2 / GAMMA) - r ** ((GAMMA + 1) / GAMMA)));
}

export interface NozzleFlow {
  readonly massFlow_kgps: number;
  readonly psi: number;
  readonly sonic: boolean;
}

/** Ideal nozzle of `area_m2` from stagnation (p₀, T₀) to back pressure p. Refuses p above p₀. Airflow basis §4. */
export function nozzleMassFlow(area_m2: number, p0_Pa: number, T0_K: number, p_Pa: number): NozzleFlow | Failure {
  if (!(p_Pa <= p0_Pa) || !(p_Pa >= 0) || !(area_m2 >= 0) || !(T0_K > 0)) return failure('bad_input');
  const r = p_Pa / p0_Pa;
  const psi = nozzlePsi(r);
  return { massFlow_kgps: (area_m2 * p0_Pa * psi) / Math.sqrt(R_DRY * T0_K), psi, sonic: r <= CRITICAL_RATIO };
}
