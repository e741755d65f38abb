import { failure, type Failure } from '../failure';
import { BENCH_PRESSURE_Pa, BENCH_TEMPERATURE_K, R_DRY } from './constants';
import { nozzlePsi } from './nozzle';
import { THROTTLE_Cd } from './throttle';

/** Gap of a shut blade by how it was made, m: sealed against its bore, as made in series, turned by hand. */
export const LEAK_CLEARANCE_m = { sealed: 3e-5, production: 4e-5, turned: 8e-5 } as const;

/**
 * The gap, m, that lets a shut throttle pass this much on a bench: Q·ρ = C_d·perimeter·gap·Ψ·p₀/√(R·T₀). m³/s, Pa, m.
 * Refuses a depression that is none, or a flow or edge that is not above zero.
 */
export function clearanceFromClosedFlow(
  flow_m3ps: number,
  depression_Pa: number,
  perimeter_m: number,
  Cd: number = THROTTLE_Cd,
): number | Failure {
  if (!(flow_m3ps >= 0) || !(depression_Pa > 0) || depression_Pa >= BENCH_PRESSURE_Pa || !(perimeter_m > 0))
    return failure('bad_input', { reason: 'closed_flow' });
  const speed = nozzlePsi(1 - depression_Pa / BENCH_PRESSURE_Pa) * Math.sqrt(R_DRY * BENCH_TEMPERATURE_K);
  return flow_m3ps / (Cd * perimeter_m * speed);
}
