import { failure, type Failure } from '../failure';
import { BENCH_PRESSURE_Pa, BENCH_TEMPERATURE_K, R_DRY } from './constants';
import { CHOKED_FLOW_FUNCTION, ductCapacity, dynamicHead } from './duct';
import { nozzlePsi } from './nozzle';
import { fallingRoot, fallingRootNear } from '../numbers/root';

/** What a part stood in on the bench, by the loss coefficient of its entry. Airflow basis §7. */
export const ENTRIES = [
  { value: 0.04, label: 'radius plate' },
  { value: 0.5, label: 'bare, sharp edge' },
] as const;

/** The air a bench figure was taken in. */
export interface BenchAir {
  readonly p0_Pa?: number;
  readonly T0_K?: number;
}

/**
 * A volume flow at one depression carried to another through the ideal nozzle, with the hand rule √(Δp₂/Δp₁) beside it.
 * m³/s and Pa. Airflow basis §7.
 */
export function benchMoveToDepression(
  flow_m3ps: number,
  from_Pa: number,
  to_Pa: number,
  air: BenchAir = {},
): { flow_m3ps: number; handRule_m3ps: number } | Failure {
  const p0 = air.p0_Pa ?? BENCH_PRESSURE_Pa;
  if (!(from_Pa > 0) || !(to_Pa > 0) || from_Pa >= p0 || to_Pa >= p0) return failure('bad_input', { reason: 'depression' });
  return {
    flow_m3ps: (flow_m3ps * nozzlePsi(1 - to_Pa / p0)) / nozzlePsi(1 - from_Pa / p0),
    handRule_m3ps: flow_m3ps * Math.sqrt(to_Pa / from_Pa),
  };
}

/** From this share of the ideal nozzle on, a bench figure is doubted. */
const DOUBTFUL_SHARE = 0.97;

export interface BenchCeiling {
  readonly ceiling_m3ps: number;
  readonly ratio: number;
  readonly rating: 'ok' | 'doubtful';
}

/**
 * What the ideal nozzle of the gross bore would pass at this depression, and the figure's share of it. Above 1 the
 * figure cannot be: fails with the ceiling, the ratio and the bore that could pass it. Airflow basis §7.
 */
export function benchCeiling(
  flow_m3ps: number,
  depression_Pa: number,
  bore_m: number,
  count = 1,
  air: BenchAir = {},
): BenchCeiling | (Failure & { ceiling_m3ps?: number; ratio?: number; boreNeeded_m?: number }) {
  const p0 = air.p0_Pa ?? BENCH_PRESSURE_Pa;
  const T0 = air.T0_K ?? BENCH_TEMPERATURE_K;
  if (!(depression_Pa > 0) || depression_Pa >= p0 || !(bore_m > 0)) return failure('bad_input');
  const ceiling_m3ps = count * (Math.PI / 4) * bore_m ** 2 * nozzlePsi(1 - depression_Pa / p0) * Math.sqrt(R_DRY * T0);
  const ratio = flow_m3ps / ceiling_m3ps;
  if (ratio > 1) return { error: 'bench_above_ceiling', ceiling_m3ps, ratio, boreNeeded_m: bore_m * Math.sqrt(ratio) };
  return { ceiling_m3ps, ratio, rating: ratio >= DOUBTFUL_SHARE ? 'doubtful' : 'ok' };
}

export interface BenchFigure {
  readonly flow_m3ps: number;
  readonly depression_Pa: number;
  /** Area the part's own loss is counted on, m². */
  readonly netArea_m2: number;
  /** Area the entry and the exit see, m² (default: the net area). */
  readonly grossArea_m2?: number;
  /** Loss coefficient of the entry the part was tested with: 0.04 radius plate, 0.50 bare. */
  readonly entryK: number;
}

export interface BenchLoss {
  /** Loss coefficient on the net area, never below 0. */
  readonly K: number;
  readonly rawK: number;
  /** Stagnation pressure after the part, Pa. */
  readonly pAfter_Pa: number;
  readonly q_Pa: number;
  /** The figure is above what the bore allows: rawK came out below 0. */
  readonly aboveBore: boolean;
}

/**
 * The part's own loss coefficient from its bench figure: entry loss off the gross area, exit head on the gross area,
 * what is left divided by the dynamic head on the net area. Airflow basis §7.
 */
export function benchLossCoefficient(figure: BenchFigure, air: BenchAir = {}): BenchLoss | Failure {
  const p0 = air.p0_Pa ?? BENCH_PRESSURE_Pa;
  const T0 = air.T0_K ?? BENCH_TEMPERATURE_K;
  const { flow_m3ps, depression_Pa, netArea_m2, entryK } = figure;
  const gross = figure.grossArea_m2 ?? netArea_m2;
  if (!(flow_m3ps > 0) || !(depression_Pa > 0) || depression_Pa >= p0) return failure('bad_input');
  const rootRT = Math.sqrt(R_DRY * T0);
  const m = (flow_m3ps * p0) / (R_DRY * T0);
  const pEntry = p0 - entryK * dynamicHead(m, gross, p0, rootRT);
  const q_Pa = dynamicHead(m, netArea_m2, pEntry, rootRT);
  // p₀' − q(p₀') rises with p₀' from where the section just chokes; its falling form has one root above that.
  const end = p0 - depression_Pa;
  const lowest = Math.max(end, (m * rootRT) / (CHOKED_FLOW_FUNCTION * gross) / (1 - 1e-12));
  const short = (p: number): number => end - p + dynamicHead(m, gross, p, rootRT);
  if (Number.isNaN(q_Pa) || !(short(lowest) >= 0)) return failure('choked');
  const pAfter_Pa = fallingRoot(short, lowest, 4 * Math.max(p0, lowest)).x;
  const rawK = (pEntry - pAfter_Pa) / q_Pa;
  return { K: Math.max(0, rawK), rawK, pAfter_Pa, q_Pa, aboveBore: rawK < 0 };
}

/** The bench figure, m³/s, that a part of this loss coefficient would show: the reverse of benchLossCoefficient. */
export function benchFlow(
  K: number,
  entryK: number,
  netArea_m2: number,
  grossArea_m2: number | undefined,
  depression_Pa: number,
  air: BenchAir = {},
): { flow_m3ps: number } | Failure {
  const p0 = air.p0_Pa ?? BENCH_PRESSURE_Pa;
  const T0 = air.T0_K ?? BENCH_TEMPERATURE_K;
  if (!(depression_Pa > 0) || depression_Pa >= p0 || !(netArea_m2 > 0)) return failure('bad_input');
  const gross = grossArea_m2 ?? netArea_m2;
  const rootRT = Math.sqrt(R_DRY * T0);
  const capacity = ductCapacity(netArea_m2, p0, T0);
  const root = fallingRootNear(
    (m) => {
      const pEntry = p0 - entryK * dynamicHead(m, gross, p0, rootRT);
      const pAfter = pEntry - K * dynamicHead(m, netArea_m2, pEntry, rootRT);
      return (pAfter - dynamicHead(m, gross, pAfter, rootRT) - (p0 - depression_Pa)) / p0;
    },
    capacity / 2,
    0,
    capacity,
    0.2,
  );
  if (root === null || root.stopped === 'wall') return failure('choked');
  return { flow_m3ps: (root.x * R_DRY * T0) / p0 };
}
