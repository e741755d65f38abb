import { failure, isFailure, type Failure } from '../failure';
import { BENCH_DENSITY_kgpm3, BENCH_PRESSURE_Pa, BENCH_TEMPERATURE_K, GAMMA, R_DRY } from '../flow/constants';
import { dynamicHead } from '../flow/duct';
import { pulseHead } from '../flow/pulse';
import { junctionK } from '../flow/losses';
import { nozzlePsi } from '../flow/nozzle';
import { throttleWideOpen, type ShaftEdge } from '../flow/throttle';

export type SizingUse = 'na-street' | 'na-race' | 'draw-through' | 'blow-through';

/** What a throttle may lose and how fast air may go through it, by use. Airflow basis §9. */
export const SIZING_LIMITS: Readonly<Record<SizingUse, { limit_Pa: number; limit_mps: number | null }>> = {
  'na-street': { limit_Pa: 1500, limit_mps: 90 },
  'na-race': { limit_Pa: 1000, limit_mps: 90 },
  'draw-through': { limit_Pa: 2000, limit_mps: 75 },
  'blow-through': { limit_Pa: 2000, limit_mps: null },
};

/** No throttle body larger than this is looked for, m. */
export const LARGEST_BORE_m = 0.25;

/** A throttle of unknown bore, the air at its inlet and the round opening it bolts to (none: it is the last part). */
export interface BoreProblem {
  readonly massFlow_kgps: number;
  readonly p0_Pa: number;
  readonly T0_K: number;
  readonly shaft_m?: number | undefined;
  readonly edge?: ShaftEdge | undefined;
  readonly K?: number | undefined;
  readonly count?: number | undefined;
  readonly opening_m?: number | undefined;
  readonly edgeRadius_m?: number | undefined;
  readonly use?: SizingUse | undefined;
  readonly limit_Pa?: number | undefined;
  readonly limit_mps?: number | undefined;
  /** Share of the cycle over which the flow comes as one half-sine: one cylinder's own throttle. Airflow basis §11. */
  readonly eventShare?: number | undefined;
}

const limitsOf = (p: BoreProblem): { limit_Pa: number; limit_mps: number | null } => {
  const byUse = SIZING_LIMITS[p.use ?? 'na-street'];
  return { limit_Pa: p.limit_Pa ?? byUse.limit_Pa, limit_mps: p.limit_mps ?? byUse.limit_mps };
};

function wideOpenAt(p: BoreProblem, bore_m: number): ReturnType<typeof throttleWideOpen> {
  return throttleWideOpen({ shape: 'single', bore_m, count: p.count, shaft_m: p.shaft_m, edge: p.edge, K: p.K });
}

/**
 * What the throttle itself costs, Pa: K·q on the net area, then the bare step into its opening, or, with no opening, the
 * exit head on the gross area. `choked` with `where` throttle, junction or exit. Airflow basis §9.1.
 */
export function ownLoss(p: BoreProblem, bore_m: number): number | Failure {
  const wide = wideOpenAt(p, bore_m);
  if (isFailure(wide)) return wide;
  const rootRT = Math.sqrt(R_DRY * p.T0_K);
  const head = (area_m2: number, p0_Pa: number): number =>
    p.eventShare === undefined
      ? dynamicHead(p.massFlow_kgps, area_m2, p0_Pa, rootRT)
      : p0_Pa * pulseHead(((p.massFlow_kgps * rootRT) / (area_m2 * p0_Pa)) ** 2 / GAMMA, p.eventShare);
  const own = wide.K * head(wide.netArea_m2, p.p0_Pa);
  const after = p.p0_Pa - own;
  if (!(after > 0)) return failure('choked', { where: 'throttle' });
  if (p.opening_m === undefined) {
    const exit = head(wide.grossArea_m2, after);
    return Number.isNaN(exit) ? failure('choked', { where: 'exit' }) : own + exit;
  }
  const opening = (Math.PI / 4) * p.opening_m ** 2;
  const K = junctionK(wide.grossArea_m2, opening, Math.PI / 2, p.edgeRadius_m ?? 0);
  const q = head(Math.min(wide.grossArea_m2, opening), after);
  return Number.isNaN(q) ? failure('choked', { where: 'junction' }) : own + K * q;
}

/** Scan step of the bore searches: fine enough that the loss cannot dip below the limit and out again unseen. */
const SCAN_STEP_m = 0.0005;

/** Bores are found to this, m, unless a screen is content with less. */
const BORE_TOLERANCE_m = 1e-13;

/** Smallest bore at which `ok` first holds, scanning up and then closing in by bisection; null when none does. */
export function smallestBore(ok: (bore_m: number) => boolean, from_m: number, to_m: number, tolerance_m = BORE_TOLERANCE_m): number | null {
  let below = from_m;
  if (ok(below)) return below;
  while (below < to_m) {
    const next = Math.min(to_m, below + SCAN_STEP_m);
    if (ok(next)) return bisectBore(ok, below, next, tolerance_m);
    below = next;
  }
  return null;
}

export function bisectBore(ok: (bore_m: number) => boolean, fails: number, holds: number, tolerance_m: number): number {
  let a = fails;
  let b = holds;
  while (b - a > tolerance_m) {
    const x = 0.5 * (a + b);
    if (x <= a || x >= b) break;
    if (ok(x)) b = x;
    else a = x;
  }
  return b;
}

/** Bores are looked for from just above the shaft's thickness. */
const smallestOf = (p: BoreProblem): number => Math.max(1e-3, (p.shaft_m ?? 0) * (1 + 1e-6) + 1e-6);

/** Smallest bore, m, whose own loss meets the limit; `no_bore` up to 250 mm. Airflow basis §9.1. */
export function boreByLoss(p: BoreProblem): number | Failure {
  const { limit_Pa } = limitsOf(p);
  const bore = smallestBore(
    (d) => {
      const loss = ownLoss(p, d);
      return !isFailure(loss) && loss <= limit_Pa;
    },
    smallestOf(p),
    LARGEST_BORE_m,
  );
  return bore ?? failure('no_bore', { reason: 'loss' });
}

/** Smallest bore, m, in whose net area the mean speed ṁ/(ρ·A) meets the limit. Airflow basis §9.2. */
export function boreByGasSpeed(p: BoreProblem): number | Failure {
  const { limit_mps } = limitsOf(p);
  if (limit_mps === null) return failure('bad_input', { where: 'limit_mps', reason: 'no_speed_limit' });
  const need = p.massFlow_kgps / ((p.p0_Pa / (R_DRY * p.T0_K)) * limit_mps);
  const bore = smallestBore(
    (d) => {
      const wide = wideOpenAt(p, d);
      return !isFailure(wide) && wide.netArea_m2 >= need;
    },
    smallestOf(p),
    LARGEST_BORE_m,
  );
  return bore ?? failure('no_bore', { reason: 'gas_speed' });
}

/**
 * Smallest bore, m, whose bench flow (`benchRatio` of the ideal nozzle), moved to the loss limit, covers the demand
 * carried to bench air, ṁ/√(ρ·ρ_bench). Airflow basis §9.3.
 */
export function boreByBench(p: BoreProblem & { readonly benchRatio: number }): number | Failure {
  const { limit_Pa } = limitsOf(p);
  if (!(p.benchRatio > 0) || !(limit_Pa > 0) || limit_Pa >= BENCH_PRESSURE_Pa) return failure('bad_input');
  const density = p.p0_Pa / (R_DRY * p.T0_K);
  const demand_m3ps = p.massFlow_kgps / Math.sqrt(density * BENCH_DENSITY_kgpm3);
  const perArea = p.benchRatio * nozzlePsi(1 - limit_Pa / BENCH_PRESSURE_Pa) * Math.sqrt(R_DRY * BENCH_TEMPERATURE_K);
  const bore = Math.sqrt(demand_m3ps / (perArea * (Math.PI / 4) * (p.count ?? 1)));
  return bore <= LARGEST_BORE_m ? bore : failure('no_bore', { reason: 'bench' });
}
