import { isFailure } from '../failure';
import { equalAreaBore, throttleWideOpen } from '../flow/throttle';
import type { JobDoc } from './job';
import type { ThrottleDoc } from './throttle';

export type OpeningChoice = JobDoc['pick']['opening'];

/** The bore that air sees after the throttle: a gasket that stands into the flow is the smaller one. */
export function effectiveOpening(doc: Pick<JobDoc, 'car'>): number {
  return Math.min(doc.car.stock.manifoldOpening_m, doc.car.stock.gasketOpening_m);
}

/** Round bore with the same gross area as the throttle, m: what the manifold is opened to when it is matched. */
export function grossBore(throttle: ThrottleDoc): number {
  if (throttle.shape === 'individual') return throttle.bore_m;
  const wide = throttleWideOpen(throttle);
  return isFailure(wide) ? throttle.bore_m : equalAreaBore(wide.grossArea_m2);
}

/** The opening a bore ends up on: as it is, or taken to match as far as the manifold's metal lets it. */
export function openingFor(doc: Pick<JobDoc, 'car'>, bore_m: number, opening: OpeningChoice): number {
  const asItIs = effectiveOpening(doc);
  return opening === 'matched' ? Math.max(asItIs, Math.min(bore_m, doc.car.stock.openingLimit_m ?? Infinity)) : asItIs;
}
