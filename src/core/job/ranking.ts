import type { StoredUnit } from '../documents/unit';
import { thirdOf } from '../compare/compare';
import { isFailure } from '../failure';
import { boreByIdle, boreByTipIn, idleFloor, tipInGain, TIP_IN_LIMIT } from '../sizing/manners';
import { boreByGasSpeed, boreByLoss } from '../sizing/own-loss';
import { sizingVerdict, sizingWindow, type SizingVerdict, type SizingWindow } from '../sizing/window';
import { allowedLoss, type CandidateSide, type JobModel } from './model';
import { grossBore, type SizedJob } from './path';

export interface RankedUnit {
  readonly side: CandidateSide;
  readonly unit: StoredUnit;
  readonly verdict: SizingVerdict | 'chokes';
  /** Gain in peak power against stock, % and W. */
  readonly peakGain_pct: number | null;
  readonly peakGain_W: number | null;
  /** Mean gain by thirds of the rpm range, %. */
  readonly thirds_pct: readonly [number, number, number] | null;
  readonly largestGain_pct: number | null;
  readonly idleFloor_rpm: number | null;
  /** Area opened by the first tenth of the pedal against stock's. */
  readonly tipInRatio: number;
  readonly tipInLimit: number;
  readonly price: number | null;
  /** Price per gained watt at peak; null without a price or a gain. */
  readonly pricePerW: number | null;
}

export interface JobBounds {
  readonly loss_m: number | null;
  readonly gasSpeed_m: number | null;
  readonly idle_m: number;
  readonly tipIn_m: number | null;
  readonly tipInLimit: number;
  readonly window: SizingWindow;
}

const orNull = <T>(value: T): Exclude<T, { error: unknown }> | null =>
  isFailure(value) ? null : (value as Exclude<T, { error: unknown }>);

const tipInLimitOf = (doc: SizedJob, electronic: boolean): number =>
  TIP_IN_LIMIT[electronic && doc.car.controls.kind !== 'cable' ? 'electronic' : 'cable'];

/**
 * The window for one round bore of the stock's make on a matched opening: loss and gas speed from below, at the worst rpm
 * of the range; idle and tip-in from above. Airflow basis §9.
 */
export function jobBounds(doc: SizedJob, model: JobModel): JobBounds {
  const flow = Math.max(...model.demand_kgps);
  const { shaft_m, edge, clearance_m } = doc.car.stock.throttle;
  const problem = {
    massFlow_kgps: flow,
    p0_Pa: doc.car.weather.p_Pa,
    T0_K: doc.car.weather.T_K,
    shaft_m,
    edge,
    use: doc.car.use === 'race' ? ('na-race' as const) : ('na-street' as const),
    limit_Pa: allowedLoss(doc),
  };
  const loss_m = orNull(boreByLoss(problem));
  const gasSpeed_m = orNull(boreByGasSpeed(problem));
  const idle_m = boreByIdle({
    displacement_m3: doc.car.engine.displacement_m3,
    idle_rpm: doc.car.engine.idle_rpm,
    clearance_m,
    p0_Pa: doc.car.weather.p_Pa,
    T0_K: doc.car.weather.T_K,
  }).bore_m;
  const tipInLimit = tipInLimitOf(doc, true);
  const tipIn_m = orNull(boreByTipIn(doc.car.stock.throttle, undefined, tipInLimit))?.bore_m ?? null;
  return {
    loss_m,
    gasSpeed_m,
    idle_m,
    tipIn_m,
    tipInLimit,
    window: sizingWindow({ loss: loss_m, gasSpeed: gasSpeed_m }, { idle: idle_m, tipIn: tipIn_m }),
  };
}

function thirdsOf(rpm: readonly number[], stock: readonly number[], other: readonly number[]): [number, number, number] {
  const sums = [0, 1, 2].map(() => ({ a: 0, b: 0 }));
  rpm.forEach((n, i) => {
    const band = sums[thirdOf(n, rpm[0]!, rpm.at(-1)!)]!;
    band.a += stock[i]!;
    band.b += other[i]!;
  });
  return sums.map(({ a, b }) => 100 * (b / a - 1)) as [number, number, number];
}

function rankUnit(doc: SizedJob, model: JobModel, bounds: JobBounds, side: CandidateSide, unit: StoredUnit): RankedUnit {
  const throttle = unit.doc.throttle;
  const tipInLimit = tipInLimitOf(doc, unit.doc.controls !== 'cable');
  const tipInRatio = tipInGain(throttle) / tipInGain(doc.car.stock.throttle);
  const floor = orNull(
    idleFloor({ displacement_m3: doc.car.engine.displacement_m3, throttle, p0_Pa: doc.car.weather.p_Pa, T0_K: doc.car.weather.T_K }),
  );
  const base = { side, unit, idleFloor_rpm: floor?.floor_rpm ?? null, tipInRatio, tipInLimit, price: unit.doc.price };
  if (isFailure(side.solved) || side.gain_pct === null) {
    return { ...base, verdict: 'chokes', peakGain_pct: null, peakGain_W: null, thirds_pct: null, largestGain_pct: null, pricePerW: null };
  }
  const stock = model.reference.result.power_W;
  const stockPeak = Math.max(...stock);
  const peakGain_W = Math.max(...side.solved.power_W) - stockPeak;
  const largestGain_pct = Math.max(...side.gain_pct);
  return {
    ...base,
    // Tip-in depends on shape and shaft, not on the bore alone: the unit's own ratio decides, expressed as its bore bound.
    verdict: sizingVerdict({
      bore_m: grossBore(throttle),
      largestGain_pct,
      air_m: bounds.window.lower_m,
      idle_m: bounds.idle_m,
      tipIn_m: tipInRatio > tipInLimit ? 0 : null,
      fit_m: null,
    }),
    peakGain_pct: (100 * peakGain_W) / stockPeak,
    peakGain_W,
    thirds_pct: thirdsOf(model.rpm, stock, side.solved.power_W),
    largestGain_pct,
    pricePerW: base.price !== null && peakGain_W > 0 ? base.price / peakGain_W : null,
  };
}

const VERDICT_ORDER: readonly RankedUnit['verdict'][] = [
  'worth buying',
  'worth testing',
  'not the restriction',
  'too big for its manners',
  'does not fit',
  'chokes',
];

/** The units of a model in the order to look at them: by verdict, then by gain. */
export function rankUnits(doc: SizedJob, model: JobModel, units: readonly StoredUnit[], bounds = jobBounds(doc, model)): RankedUnit[] {
  return model.candidates
    .flatMap((side) => {
      const unit = units.find((x) => x.id === side.id);
      return unit ? [rankUnit(doc, model, bounds, side, unit)] : [];
    })
    .sort(
      (a, b) =>
        VERDICT_ORDER.indexOf(a.verdict) - VERDICT_ORDER.indexOf(b.verdict) ||
        (b.peakGain_pct ?? -Infinity) - (a.peakGain_pct ?? -Infinity),
    );
}
