import { peakIndex, peakOf } from '../numbers/peak';
import type { ThrottleDoc } from '../documents/throttle';
import type { StoredUnit } from '../documents/unit';
import { thirdOf } from '../numbers/thirds';
import { isFailure } from '../failure';
import { LEAK_CLEARANCE_m } from '../flow/leak';
import { throttleWideOpen } from '../flow/throttle';
import { idleFloor, tipInGain, TIP_IN_LIMIT } from '../sizing/manners';
import { sizingVerdict, VERDICT_GAIN_pct, type SizingVerdict } from '../sizing/window';
import { idleEngine, jobBounds, type JobBounds, type JobLimits } from './bounds';
import { chokingOf, sideLadder, throttleLoss, type CandidateSide, type Choking, type JobModel } from './model';
import { grossBore } from '../documents/openings';
import type { SizedJob } from './path';

/** A gain that reads 0.0 kW is none: what is left of it is the arithmetic's, and a price over it says nothing. */
const LEAST_GAIN_W = 50;

/** What stands against a unit besides its size: another control, another signal family, another number of bores, its flange. */
export type Misfit = 'control' | 'signal' | 'bores' | 'flange';

/**
 * The word on a throttle: that of its bore, or that it loses power, that its gap has to be measured before its idle can be told, or
 * that nothing at all could be solved.
 */
export type RankedVerdict = SizingVerdict | 'costs power' | 'measure the gap' | 'chokes';

export interface RankedUnit {
  readonly side: CandidateSide;
  readonly unit: StoredUnit;
  readonly verdict: RankedVerdict;
  /** Where its path chokes, and what part. */
  readonly choking: Choking | null;
  /** Largest loss anywhere in the range, %; 0: none. */
  readonly largestLoss_pct: number | null;
  /** Gain in peak power against stock, % and W. */
  readonly peakGain_pct: number | null;
  readonly peakGain_W: number | null;
  /** Mean gain by thirds of the rpm range, %. */
  readonly thirds_pct: readonly [number, number, number] | null;
  readonly largestGain_pct: number | null;
  readonly idleFloor_rpm: number | null;
  /** The same floor with the tightest and the widest usual blade clearance: how much the answer hangs on it. */
  readonly idleFloorRange_rpm: readonly [number | null, number | null];
  /** What throttle and manifold bore lose at the engine speed of stock's peak power, Pa. */
  readonly loss_Pa: number | null;
  /** Area opened by the first tenth of the pedal against stock's. */
  readonly tipInRatio: number;
  readonly tipInLimit: number;
  /** Why it cannot be bolted on and driven, whatever its bore; null where nothing is known against it. */
  readonly misfit: Misfit | null;
  readonly price: number | null;
  /** Price per gained watt at peak; null without a price or a gain that shows. */
  readonly pricePerW: number | null;
}

const orNull = <T>(value: T): Exclude<T, { error: unknown }> | null =>
  isFailure(value) ? null : (value as Exclude<T, { error: unknown }>);

/** A cable cannot be remapped, on either side of the change. */
const tipInLimitOf = (doc: SizedJob, unit: StoredUnit, limits: JobLimits): number =>
  doc.sizing.tipIn ?? (unit.doc.controls !== 'cable' && doc.car.controls.kind !== 'cable' ? limits.tipIn : TIP_IN_LIMIT.cable);

function thirdsOf(rpm: readonly number[], stock: readonly number[], other: readonly number[]): [number, number, number] {
  const sums = [0, 1, 2].map(() => ({ a: 0, b: 0 }));
  rpm.forEach((n, i) => {
    const band = sums[thirdOf(n, rpm[0]!, rpm.at(-1)!)]!;
    band.a += stock[i]!;
    band.b += other[i]!;
  });
  return sums.map(({ a, b }) => 100 * (b / a - 1)) as [number, number, number];
}

function floorOf(doc: SizedJob, throttle: ThrottleDoc, clearance_m: number): number | null {
  const floor = idleFloor({ ...idleEngine(doc.car), throttle: { ...throttle, clearance_m } });
  return orNull(floor)?.floor_rpm ?? null;
}

function misfitOf(doc: SizedJob, side: CandidateSide, unit: StoredUnit): Misfit | null {
  const { controls, throttle } = unit.doc;
  const own = doc.car.controls.kind;
  if ((controls === 'cable') !== (own === 'cable')) return 'control';
  if (controls !== own) return 'signal';
  const individual = doc.car.stock.throttle.shape === 'individual';
  if ((throttle.shape === 'individual') !== individual || (individual && throttle.count !== doc.car.stock.throttle.count)) return 'bores';
  const limit = fitLimit(doc, side, unit);
  return limit !== null && grossBore(throttle) > limit ? 'flange' : null;
}

/** Largest bore this throttle can be bolted on with, m: the job's own limit, and the flange's where the opening is to match. */
function fitLimit(doc: SizedJob, side: CandidateSide, unit: StoredUnit): number | null {
  const flange = side.opening === 'matched' ? unit.doc.largestOpening_m : null;
  const limits = [doc.sizing.fit_m, flange].filter((x): x is number => x !== null);
  return limits.length === 0 ? null : Math.min(...limits);
}

function rankUnit(doc: SizedJob, model: JobModel, bounds: JobBounds, side: CandidateSide, unit: StoredUnit): RankedUnit {
  const throttle = unit.doc.throttle;
  const tipInLimit = tipInLimitOf(doc, unit, bounds.limits);
  const tipInRatio = tipInGain(throttle) / tipInGain(doc.car.stock.throttle);
  const stock = model.reference.result.power_W;
  const peakAt = peakIndex(stock);
  const ladder = sideLadder(model, side, peakAt);
  const base = {
    side,
    unit,
    idleFloor_rpm: floorOf(doc, throttle, throttle.clearance_m),
    idleFloorRange_rpm: [floorOf(doc, throttle, LEAK_CLEARANCE_m.sealed), floorOf(doc, throttle, LEAK_CLEARANCE_m.turned)] as const,
    loss_Pa: isFailure(ladder) ? null : throttleLoss(side.compiled, ladder),
    tipInRatio,
    tipInLimit,
    misfit: misfitOf(doc, side, unit),
    choking: chokingOf(model, side),
    price: unit.doc.price,
  };
  if (isFailure(side.solved) || side.gain_pct === null) {
    return {
      ...base,
      verdict: base.misfit ? 'does not fit' : 'chokes',
      peakGain_pct: null,
      peakGain_W: null,
      thirds_pct: null,
      largestGain_pct: null,
      largestLoss_pct: null,
      pricePerW: null,
    };
  }
  const stockPeak = stock[peakAt]!;
  const peakGain_W = peakOf(side.solved.power_W) - stockPeak;
  const largestGain_pct = peakOf(side.gain_pct);
  const largestLoss_pct = Math.max(0, -Math.min(...side.gain_pct));
  // The leak's own edge decides at idle: two small bores leak more than one of their area.
  const idleRude = closedEdge(throttle) > closedEdgeAllowed(doc, bounds);
  const gapKnown = throttle.leak === 'measured';
  // Tip-in and idle depend on shape, shaft and gap, not on the bore alone: the throttle's own figures decide.
  const word = sizingVerdict({
    bore_m: grossBore(throttle),
    largestGain_pct,
    air_m: bounds.window.lower_m,
    idle_m: idleRude && gapKnown ? 0 : null,
    tipIn_m: tipInRatio > tipInLimit ? 0 : null,
    fit_m: fitLimit(doc, side, unit),
  });
  return {
    ...base,
    verdict: base.misfit ? 'does not fit' : wordWith(word, largestLoss_pct, idleRude && !gapKnown),
    largestLoss_pct,
    peakGain_pct: (100 * peakGain_W) / stockPeak,
    peakGain_W,
    thirds_pct: thirdsOf(model.rpm, stock, side.solved.power_W),
    largestGain_pct,
    pricePerW: base.price !== null && peakGain_W >= LEAST_GAIN_W ? base.price / peakGain_W : null,
  };
}

/** A throttle that gains nowhere may still lose, and one whose gap is only assumed cannot be told to be too big for it. */
function wordWith(word: SizingVerdict, largestLoss_pct: number, gapDecides: boolean): RankedVerdict {
  if (word === 'not the restriction') return largestLoss_pct >= VERDICT_GAIN_pct.notTheRestriction ? 'costs power' : word;
  return gapDecides && (word === 'worth buying' || word === 'worth testing') ? 'measure the gap' : word;
}

/** Edge length times gap of a shut throttle, m²: what leaks. */
function closedEdge(t: ThrottleDoc): number {
  const wide = throttleWideOpen(t);
  return isFailure(wide) ? Infinity : wide.perimeter_m * t.clearance_m;
}

/** The same for the largest bore that the idle bound lets stand. */
const closedEdgeAllowed = (doc: SizedJob, bounds: JobBounds): number =>
  Math.PI * bounds.idle_m * doc.car.stock.throttle.count * doc.car.stock.throttle.clearance_m;

const VERDICT_ORDER: readonly RankedUnit['verdict'][] = [
  'worth buying',
  'worth testing',
  'measure the gap',
  'not the restriction',
  'too big for its manners',
  'costs power',
  'does not fit',
  'chokes',
];

/** The throttles of a model in the order to look at them: by verdict, then by gain. */
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

/** Gains this close, in percent of peak power, are one and the same to the driver. */
const SAME_GAIN_pct = 0.3;

/** The throttle to put forward: of those with the best verdict whose gains a driver could not tell apart, the cheapest. */
export function leaderOf(ranked: readonly RankedUnit[]): RankedUnit | undefined {
  const [first] = ranked;
  if (!first || first.peakGain_pct === null) return first;
  const peers = ranked.filter((r) => r.verdict === first.verdict && (r.peakGain_pct ?? -Infinity) >= first.peakGain_pct! - SAME_GAIN_pct);
  return peers.reduce((best, r) => ((r.price ?? Infinity) < (best.price ?? Infinity) ? r : best), first);
}
