import { failure, isFailure, type Failure } from '../failure';
import { R_DRY } from '../flow/constants';
import { CHOKED_FLOW_FUNCTION } from '../flow/duct';
import {
  BLADE_CLEARANCE_m,
  openingAngle,
  throttleFailure,
  THROTTLE_Cd,
  throttleOpenArea,
  throttleWideOpen,
  type Throttle,
} from '../flow/throttle';
import { frictionPower } from '../engine/power';
import { LARGEST_BORE_m, smallestBore } from './own-loss';

/** What an engine burns to turn itself over: accessories, efficiency, fuel. Airflow basis §9.5. */
export interface IdleInput {
  readonly displacement_m3: number;
  readonly stroke_m?: number | undefined;
  readonly p0_Pa: number;
  readonly T0_K: number;
  readonly accessories_W?: number | undefined;
  readonly indicatedEfficiency?: number | undefined;
  readonly lhv_Jpkg?: number | undefined;
  readonly afr?: number | undefined;
}

export const IDLE_DEFAULTS = { accessories_W: 1000, indicatedEfficiency: 0.25, lhv_Jpkg: 44e6, afr: 14.7, share: 0.6, rpm: 750 } as const;
/** Accessories of a whole car's engine go with its size, but never below a fuel pump and an ignition. Airflow basis §8. */
export const accessoriesOf = (displacement_m3: number): number => Math.max(150, (1000 * displacement_m3) / 0.003);
/** Above this engine speed a leak is no idle any more. */
const IDLE_FLOOR_LIMIT_rpm = 6000;

/** Air, kg/s, that keeps the engine turning at `rpm` with nothing to drive but itself. Airflow basis §9.5. */
export function idleAir(e: IdleInput, rpm: number): number {
  const power = frictionPower(e.displacement_m3, rpm, e.stroke_m) + (e.accessories_W ?? IDLE_DEFAULTS.accessories_W);
  const efficiency = e.indicatedEfficiency ?? IDLE_DEFAULTS.indicatedEfficiency;
  return power / ((efficiency * (e.lhv_Jpkg ?? IDLE_DEFAULTS.lhv_Jpkg)) / (e.afr ?? IDLE_DEFAULTS.afr));
}

/** Air, kg/s, past shut blades: edge length × clearance × C_d as a sonic nozzle from ambient. Airflow basis §9.5. */
export function closedLeak(perimeter_m: number, clearance_m: number, Cd: number, p0_Pa: number, T0_K: number): number {
  return (Cd * perimeter_m * clearance_m * p0_Pa * CHOKED_FLOW_FUNCTION) / Math.sqrt(R_DRY * T0_K);
}

/** Largest bore, m, whose shut leak is within a share of the idle air. Airflow basis §9.5. */
export function boreByIdle(
  e: IdleInput & {
    idle_rpm?: number | undefined;
    count?: number | undefined;
    clearance_m?: number | undefined;
    share?: number | undefined;
  },
): { bore_m: number; idleAir_kgps: number } {
  const idleAir_kgps = idleAir(e, e.idle_rpm ?? IDLE_DEFAULTS.rpm);
  const perMetre = closedLeak(1, e.clearance_m ?? BLADE_CLEARANCE_m, THROTTLE_Cd, e.p0_Pa, e.T0_K);
  const perimeter = ((e.share ?? IDLE_DEFAULTS.share) * idleAir_kgps) / perMetre;
  return { bore_m: perimeter / (Math.PI * (e.count ?? 1)), idleAir_kgps };
}

/** Leak of a shut throttle and the rpm below which the engine cannot fall on it. `no_idle` above 6,000 rpm. Airflow basis §9.5. */
export function idleFloor(
  e: IdleInput & { throttle: Throttle; bypass_kgps?: number | undefined },
): { leak_kgps: number; floor_rpm: number } | Failure {
  const wide = throttleWideOpen(e.throttle);
  if (isFailure(wide)) return wide;
  const t = e.throttle;
  const leak_kgps = closedLeak(wide.perimeter_m, t.clearance_m ?? BLADE_CLEARANCE_m, t.Cd ?? THROTTLE_Cd, e.p0_Pa, e.T0_K);
  const fed = leak_kgps + (e.bypass_kgps ?? 0);
  if (fed <= idleAir(e, 0)) return { leak_kgps, floor_rpm: 0 };
  if (fed > idleAir(e, IDLE_FLOOR_LIMIT_rpm)) return failure('no_idle');
  let a = 0;
  let b = IDLE_FLOOR_LIMIT_rpm;
  while (b - a > 1e-10 * b) {
    const x = 0.5 * (a + b);
    if (x <= a || x >= b) break;
    if (idleAir(e, x) >= fed) b = x;
    else a = x;
  }
  return { leak_kgps, floor_rpm: b };
}

export type Actuation = 'cable' | 'electronic';
/** How much more area than stock the first tenth of the pedal may open. Airflow basis §9.6. */
export const TIP_IN_LIMIT: Readonly<Record<Actuation, number>> = { cable: 1.35, electronic: 2.2 };

/** Area, m², that the first 10 % of throttle travel opens. */
export function tipInGain(t: Throttle): number {
  return throttleOpenArea(t, openingAngle(t, 10));
}

/** Largest bore, m, whose first 10 % opens no more than the limit times the stock's. Airflow basis §9.6. */
export function boreByTipIn(
  stock: Throttle,
  candidate: Omit<Throttle, 'bore_m'> | undefined,
  limit: number,
): { bore_m: number; stockGain_m2: number } | Failure {
  const refused = throttleFailure(stock);
  if (refused) return refused;
  const stockGain_m2 = tipInGain(stock);
  const shape: Throttle = candidate ?? { shape: 'single', shaft_m: stock.shaft_m };
  const smallest = (shape.shaft_m ?? 0) + 1e-4;
  const over = (bore_m: number): boolean => tipInGain({ ...shape, bore_m }) > limit * stockGain_m2;
  const bore = smallestBore(over, smallest, LARGEST_BORE_m);
  return bore === null ? failure('no_bore', { reason: 'tip_in' }) : { bore_m: bore, stockGain_m2 };
}
