import { peakIndex } from '../numbers/peak';
import type { StoredUnit } from '../documents/unit';
import { isFailure } from '../failure';
import { jobModel, sideLadder } from './model';
import type { SizedJob } from './path';

/** What the step from a throttle's bore into the opening as it is costs at peak power, Pa, and at which rpm; null: it cannot be solved. */
export function lipLoss(doc: SizedJob, unit: StoredUnit): { readonly loss_Pa: number; readonly at_rpm: number } | null {
  const model = jobModel(doc, [{ unit, opening: 'as it is' }]);
  if (isFailure(model)) return null;
  const side = model.candidates[0]!;
  if (isFailure(side.solved)) return null;
  const at = peakIndex(side.solved.power_W);
  const ladder = sideLadder(model, side, at);
  if (isFailure(ladder)) return null;
  const throttle = side.path.parts.findIndex((p) => p.type === 'throttle');
  const loss_Pa = side.compiled.rows.reduce((sum, r, i) => (r.junction && r.part === throttle ? sum + ladder.dp_Pa[i]! : sum), 0);
  return { loss_Pa, at_rpm: model.rpm[at]! };
}
