import type { UnitDoc } from '@/core/documents/unit';
import { isFailure } from '@/core/failure';
import { benchCeiling, benchMoveToDepression } from '@/core/flow/bench';
import { equalAreaBore, throttleWideOpen, THROTTLE_Cd } from '@/core/flow/throttle';
import { CHAIN_DEPRESSION_Pa } from '@/core/job/restriction';
import { recordOf, wholeFlow } from '@/core/job/path';
import { closedLeak } from '@/core/sizing/manners';
import { BENCH_PRESSURE_Pa, BENCH_TEMPERATURE_K } from '@/core/flow/constants';

/** What follows from a unit's geometry and its first bench record. SI. */
export interface UnitFacts {
  /** Round bore of the same gross area, m. */
  readonly equalBore_m: number;
  readonly gross_m2: number;
  readonly net_m2: number;
  readonly perimeter_m: number;
  readonly K: number;
  readonly leak_kgps: number;
  /** Its bench figure at 28 inH₂O; null without a record. */
  readonly at28_m3ps: number | null;
  /** Share of the ideal nozzle; null without a record, above 1 where it cannot be. */
  readonly ratio: number | null;
}

export function unitFacts(u: UnitDoc): UnitFacts | null {
  const wide = throttleWideOpen(u.throttle);
  if (isFailure(wide)) return null;
  const equalBore_m = equalAreaBore(wide.grossArea_m2);
  const record = recordOf(u.bench);
  const flow = record ? wholeFlow(u, record) : null;
  const moved = record && flow !== null ? benchMoveToDepression(flow, record.depression_Pa, CHAIN_DEPRESSION_Pa) : null;
  const ceiling = record && flow !== null ? benchCeiling(flow, record.depression_Pa, equalBore_m) : null;
  return {
    equalBore_m,
    gross_m2: wide.grossArea_m2,
    net_m2: wide.netArea_m2,
    perimeter_m: wide.perimeter_m,
    K: wide.K,
    leak_kgps: closedLeak(wide.perimeter_m, u.throttle.clearance_m, THROTTLE_Cd, BENCH_PRESSURE_Pa, BENCH_TEMPERATURE_K),
    at28_m3ps: moved === null || isFailure(moved) ? null : moved.flow_m3ps,
    ratio: ceiling?.ratio ?? null,
  };
}
