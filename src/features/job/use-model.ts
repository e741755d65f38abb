'use client';

import { useMemo } from 'react';
import type { StoredUnit } from '@/core/documents/unit';
import { isFailure, type Failure } from '@/core/failure';
import type { JobBounds } from '@/core/job/bounds';
import { candidateSides, jobModel, type JobModel } from '@/core/job/model';
import { leftOnTable } from '@/core/job/knee';
import type { SizedJob } from '@/core/job/path';
import { rankUnits, type RankedUnit } from '@/core/job/ranking';
import { useJob, useShelf } from './provider';

/** The throttles on show in this job, in the shelf's order. */
export function useShownUnits(): readonly StoredUnit[] {
  const shelf = useShelf();
  const shown = useJob((s) => s.doc.pick.shown);
  return useMemo(() => shelf.filter((u) => shown.includes(u.id)), [shelf, shown]);
}

/** The parts of the document that decide what air does: typing a note does not solve anything anew. */
export function useSized(): SizedJob {
  const car = useJob((s) => s.doc.car);
  const air = useJob((s) => s.doc.air);
  const sizing = useJob((s) => s.doc.sizing);
  return useMemo(() => ({ car, air, sizing }), [car, air, sizing]);
}

/** The job solved anew whenever its car, its path or the opening changes: stock and the throttles on show. */
export function useModel(): JobModel | Failure {
  const sized = useSized();
  const opening = useJob((s) => s.doc.pick.opening);
  const units = useShownUnits();
  return useMemo(
    () =>
      jobModel(
        sized,
        units.map((unit) => ({ unit, opening })),
      ),
    [sized, opening, units],
  );
}

export function useLeftOnTable(model: JobModel | Failure): number | null {
  const sized = useSized();
  return useMemo(() => (isFailure(model) ? null : leftOnTable(sized, model)), [sized, model]);
}

/** Every unit of the shelf solved and ranked, on the same reference. */
export function useShelfRanking(model: JobModel, bounds: JobBounds): readonly RankedUnit[] {
  const sized = useSized();
  const shelf = useShelf();
  const opening = useJob((s) => s.doc.pick.opening);
  return useMemo(() => {
    const rest = shelf.filter((u) => !model.candidates.some((c) => c.id === u.id));
    const sides = candidateSides(
      sized,
      model,
      rest.map((unit) => ({ unit, opening })),
    );
    return rankUnits(sized, { ...model, candidates: [...model.candidates, ...sides] }, shelf, bounds);
  }, [sized, shelf, opening, model, bounds]);
}
