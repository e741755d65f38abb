import { peakGain } from '../numbers/peak';
import type { UnitDoc } from '../documents/unit';
import { solveCandidate } from '../engine/induction';
import { isFailure } from '../failure';
import { compilePath } from '../flow/compile';
import type { JobModel } from './model';
import { jobPath, unitFitted, type SizedJob } from './path';

/**
 * What a throttle brings at peak over stock, %, as a function of the opening (m) it bolts to: what each bite out of the manifold
 * is worth. Null where that chokes.
 */
export function gainOfOpening(doc: SizedJob, model: JobModel, unit: UnitDoc): (opening_m: number) => number | null {
  const fitted = unitFitted(doc, unit, 'as it is');
  return (opening_m) => {
    const compiled = compilePath(jobPath(doc, { ...fitted, opening_m }));
    const solved = isFailure(compiled) ? compiled : solveCandidate(model.reference, compiled);
    return isFailure(solved) ? null : peakGain(solved.power_W, model.reference.result.power_W);
  };
}
