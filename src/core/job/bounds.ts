import type { JobDoc } from '../documents/job';
import { isFailure, type Failure } from '../failure';
import { LEAK_CLEARANCE_m } from '../flow/leak';
import { accessoriesOf, boreByIdle, boreByTipIn, IDLE_DEFAULTS, TIP_IN_LIMIT, type IdleInput } from '../sizing/manners';
import { boreByBench, boreByGasSpeed, boreByLoss, SIZING_LIMITS } from '../sizing/own-loss';
import { POWER_SHARE } from '../sizing/power-left';
import { sizingWindow, type SizingWindow } from '../sizing/window';
import { powerBound } from './knee';
import { allowedLoss, sideLadder, sideStart, sizingUse, throttleRows, type JobModel } from './model';
import type { OpeningChoice } from '../documents/openings';
import { jobPulsation, strokeOf, type SizedJob } from './path';

/** Share of its ideal nozzle that a bore is taken to pass until it was on a bench: middle of the usual 0.80–0.97. */
const BENCH_RATIO = 0.88;

/** The limits a job's sizing holds to, its own or the usual ones. */
export interface JobLimits {
  readonly loss_Pa: number;
  readonly speed_mps: number | null;
  readonly benchRatio: number;
  readonly powerShare: number;
  readonly idleShare: number;
  readonly tipIn: number;
}

export function jobLimits(doc: SizedJob): JobLimits {
  const s = doc.sizing;
  return {
    loss_Pa: allowedLoss(doc),
    speed_mps: s.speed_mps ?? SIZING_LIMITS[sizingUse(doc)].limit_mps,
    benchRatio: s.benchRatio ?? BENCH_RATIO,
    powerShare: s.powerShare ?? POWER_SHARE,
    idleShare: s.idleShare ?? IDLE_DEFAULTS.share,
    tipIn: s.tipIn ?? TIP_IN_LIMIT[doc.car.controls.kind === 'cable' ? 'cable' : 'electronic'],
  };
}

/** The seven bounds on the bore, m; null: not known, or there is none. */
export interface JobBounds {
  readonly loss_m: number | null;
  readonly gasSpeed_m: number | null;
  readonly bench_m: number | null;
  readonly power_m: number | null;
  readonly idle_m: number;
  readonly tipIn_m: number | null;
  readonly fit_m: number | null;
  readonly limits: JobLimits;
  /** Where the throttle works hardest, and the air it sees there. */
  readonly worst: { readonly rpm: number; readonly massFlow_kgps: number; readonly p0_Pa: number; readonly T0_K: number };
  readonly window: SizingWindow;
}

const orNull = <T>(value: T | Failure): T | null => (isFailure(value) ? null : value);

/** The engine speed at which the same throttle would lose most: where ṁ²·T/p is largest. */
function worstPoint(model: JobModel): JobBounds['worst'] {
  let at = 0;
  let most = -Infinity;
  model.rpm.forEach((_, i) => {
    const { p0_Pa, T0_K } = sideStart(model, model.stock, i);
    const weight = (model.demand_kgps[i]! ** 2 * T0_K) / p0_Pa;
    if (weight > most) {
      most = weight;
      at = i;
    }
  });
  const start = sideStart(model, model.stock, at);
  const ladder = sideLadder(model, model.stock, at);
  const { first } = throttleRows(model.stock.compiled);
  const p0_Pa = isFailure(ladder) || first === 0 ? start.p0_Pa : ladder.running_Pa[first - 1]!;
  return { rpm: model.rpm[at]!, massFlow_kgps: model.demand_kgps[at]!, p0_Pa, T0_K: start.T0_K };
}

/** What the idle of a job's engine is worked out from. */
export const idleEngine = ({ engine, weather }: JobDoc['car']): IdleInput => ({
  displacement_m3: engine.displacement_m3,
  stroke_m: strokeOf(engine),
  accessories_W: accessoriesOf(engine.displacement_m3),
  p0_Pa: weather.p_Pa,
  T0_K: weather.T_K,
});

function idleBound(doc: JobDoc['car'], limits: JobLimits, clearance_m: number): number {
  return boreByIdle({
    ...idleEngine(doc),
    idle_rpm: doc.engine.idle_rpm,
    clearance_m,
    count: doc.stock.throttle.count,
    share: limits.idleShare,
  }).bore_m;
}

/**
 * The window for one bore of the stock's make on a manifold bored to match: loss, gas speed, bench flow and power left from below,
 * at the worst rpm of the range; idle, tip-in and fit from above. Individual throttles are sized on the pulsating flow:
 * losses carry its factor, speed its peak. Airflow basis §9, §11.
 */
export function jobBounds(doc: SizedJob, model: JobModel, opening: OpeningChoice = 'matched'): JobBounds {
  const limits = jobLimits(doc);
  const { shaft_m, edge, clearance_m, count, closedAngle_rad, shape } = doc.car.stock.throttle;
  const pulsation = jobPulsation(doc);
  const worst = worstPoint(model);
  const problem = {
    massFlow_kgps: worst.massFlow_kgps,
    p0_Pa: worst.p0_Pa,
    T0_K: worst.T0_K,
    shaft_m,
    edge,
    count,
    use: sizingUse(doc),
    limit_Pa: limits.loss_Pa / (pulsation && pulsation.eventShare === null ? pulsation.own : 1),
    ...(pulsation?.eventShare != null && { eventShare: pulsation.eventShare }),
    ...(limits.speed_mps !== null && { limit_mps: limits.speed_mps }),
  };
  const loss_m = orNull(boreByLoss(problem));
  const gasSpeed_m =
    limits.speed_mps === null
      ? null
      : orNull(boreByGasSpeed({ ...problem, massFlow_kgps: worst.massFlow_kgps * (pulsation?.ownPeakToMean ?? 1) }));
  const bench_m = orNull(boreByBench({ ...problem, limit_Pa: limits.loss_Pa / (pulsation?.own ?? 1), benchRatio: limits.benchRatio }));
  const power_m = powerBound(doc, model, opening, limits.powerShare);
  const idle_m = idleBound(doc.car, limits, clearance_m);
  const tipped = boreByTipIn(
    doc.car.stock.throttle,
    { shape: shape === 'oval' ? 'single' : shape, count, shaft_m, closedAngle_rad },
    limits.tipIn,
  );
  const tipIn_m = orNull(tipped)?.bore_m ?? null;
  const fit_m = doc.sizing.fit_m;
  const window = sizingWindow(
    { loss: loss_m, gasSpeed: gasSpeed_m, bench: bench_m, power: power_m },
    { idle: idle_m, tipIn: tipIn_m, fit: fit_m },
  );
  return { loss_m, gasSpeed_m, bench_m, power_m, idle_m, tipIn_m, fit_m, limits, worst, window };
}

/** Something that would open an empty window, and the bound it would move. */
export interface Remedy {
  readonly kind: 'electronic control' | 'sealed blade' | 'more loss allowed' | 'larger flange';
  /** Where the bound would then be, m; null: it would be gone. */
  readonly bound_m: number | null;
}

/** Larger shares of the allowed loss tried, one after the other. */
const LOOSER = [1.25, 1.5, 2, 3];

/** What would open an empty window: each remedy that moves the bound in the way past the other one. */
export function windowRemedies(doc: SizedJob, model: JobModel, bounds: JobBounds): Remedy[] {
  const { lower_m, upper_m, lowerBy, upperBy, empty } = bounds.window;
  if (!empty || lower_m === null || upper_m === null) return [];
  const out: Remedy[] = [];
  if (upperBy === 'tipIn' && doc.car.controls.kind === 'cable') {
    const { stock } = doc.car;
    const moved = orNull(boreByTipIn(stock.throttle, { shape: 'single', shaft_m: stock.throttle.shaft_m }, TIP_IN_LIMIT.electronic));
    if (moved && moved.bore_m >= lower_m) out.push({ kind: 'electronic control', bound_m: moved.bore_m });
  }
  if (upperBy === 'idle' && doc.car.stock.throttle.clearance_m > LEAK_CLEARANCE_m.sealed) {
    const moved = idleBound(doc.car, bounds.limits, LEAK_CLEARANCE_m.sealed);
    if (moved > upper_m) out.push({ kind: 'sealed blade', bound_m: moved });
  }
  if (upperBy === 'fit') out.push({ kind: 'larger flange', bound_m: null });
  if (lowerBy === 'loss' || lowerBy === 'bench') {
    for (const by of LOOSER) {
      const looser = jobBounds({ ...doc, air: { ...doc.air, allowedLoss_Pa: bounds.limits.loss_Pa * by } }, model);
      if (looser.window.empty) continue;
      out.push({ kind: 'more loss allowed', bound_m: looser.window.lower_m });
      break;
    }
  }
  return out;
}
