'use client';

import { useMemo } from 'react';
import type { StoredUnit } from '@/core/documents/unit';
import type { Deciding } from '@/core/documents/kinds';
import { isFailure } from '@/core/failure';
import { jobModel, type CandidateSide, type JobModel } from '@/core/job/model';
import { predictedOver } from '@/core/job/predicted';
import { useJob, useShelf } from '@/features/job/provider';
import { useSized } from '@/features/job/use-model';

export interface Predicted {
  readonly unit: StoredUnit;
  readonly model: JobModel;
  readonly side: CandidateSide;
  readonly gain_pct: readonly number[];
  /** Mean gain over the whole range and by thirds of it, %. */
  readonly over: Readonly<Record<Exclude<Deciding, 'own'>, number>>;
}

/** What the model says of one throttle: its gain over engine speed, and its mean over the stretches a comparison decides on. */
export function usePredicted(unitId: string | null): Predicted | null {
  const sized = useSized();
  const opening = useJob((s) => s.doc.pick.opening);
  const unit = useShelf().find((u) => u.id === unitId);
  return useMemo(() => {
    if (!unit) return null;
    const model = jobModel(sized, [{ unit, opening }]);
    if (isFailure(model)) return null;
    const side = model.candidates[0]!;
    if (!side.gain_pct || isFailure(side.solved)) return null;
    return {
      unit,
      model,
      side,
      gain_pct: side.gain_pct,
      over: predictedOver(model.rpm, model.reference.result.power_W, side.solved.power_W),
    };
  }, [sized, opening, unit]);
}
