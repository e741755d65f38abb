import type { JobDoc, PartDoc } from '../documents/job';
import type { ThrottleDoc } from '../documents/throttle';
import type { UnitDoc } from '../documents/unit';
import type { Path, PathPart } from '../flow/path';
import { equalAreaBore, throttleWideOpen } from '../flow/throttle';
import { isFailure } from '../failure';

/** What is on the car: the stock unit, or another on the opening as it is or opened to match. */
export interface Fitted {
  readonly throttle: ThrottleDoc;
  readonly opening_m: number;
  readonly bench?: { readonly flow_m3ps: number; readonly depression_Pa: number; readonly entryK: number } | undefined;
}

/** The parts of a job that decide what air does; notes, runs and choices do not. */
export type SizedJob = Pick<JobDoc, 'car' | 'air'>;

export type OpeningChoice = JobDoc['pick']['opening'];

/** The bore that air sees after the throttle: a gasket that stands into the flow is the smaller one. */
export function effectiveOpening(doc: SizedJob): number {
  return Math.min(doc.car.stock.manifoldOpening_m, doc.car.stock.gasketOpening_m);
}

export function stockFitted(doc: SizedJob): Fitted {
  return { throttle: doc.car.stock.throttle, opening_m: effectiveOpening(doc) };
}

/** Round bore with the same gross area as the throttle, m: what the manifold is opened to when it is matched. */
export function grossBore(throttle: ThrottleDoc): number {
  const wide = throttleWideOpen(throttle);
  return isFailure(wide) ? throttle.bore_m : equalAreaBore(wide.grossArea_m2);
}

export function unitFitted(doc: SizedJob, unit: UnitDoc, opening: OpeningChoice): Fitted {
  const asItIs = effectiveOpening(doc);
  const opening_m = opening === 'matched' ? Math.max(asItIs, grossBore(unit.throttle)) : asItIs;
  return { throttle: unit.throttle, opening_m, bench: unit.bench[0] };
}

/** The part as the ladder takes it. */
function corePart(part: PartDoc, fitted: Fitted): PathPart {
  const { id: _id, ...rest } = part;
  const name = part.name ?? part.id;
  if (part.type === 'throttle') {
    const bench = fitted.bench && {
      benchFlow_m3ps: fitted.bench.flow_m3ps,
      benchDepression_Pa: fitted.bench.depression_Pa,
      benchEntryK: fitted.bench.entryK,
    };
    return {
      type: 'throttle',
      name: 'throttle',
      throttle: fitted.throttle,
      join: { ...part.join, edgeRadius_m: openingEdge(part) },
      ...bench,
    };
  }
  if (part.type === 'opening') return { type: 'section', name: 'opening', bore_m: fitted.opening_m, join: part.join };
  return { ...rest, name } as PathPart;
}

const openingEdge = (part: PartDoc): number => part.join?.edgeRadius_m ?? 0;

/** The job's intake with a given unit in it. The radius on the opening's edge counts where the throttle steps down into it. */
export function jobPath(doc: SizedJob, fitted: Fitted): Path {
  const opening = doc.air.parts.find((p) => p.type === 'opening');
  const edgeRadius_m = opening?.type === 'opening' ? opening.edgeRadius_m : 0;
  const parts = doc.air.parts.map((part) =>
    corePart(part.type === 'throttle' ? { ...part, join: { ...part.join, edgeRadius_m } } : part, fitted),
  );
  return { parts };
}
