'use client';

import { useMemo } from 'react';
import type { StoredUnit } from '@/core/documents/unit';
import { isFailure, type Failure } from '@/core/failure';
import { jobModel, type JobModel } from '@/core/job/model';
import { leftOnTable } from '@/core/job/findings';
import { rankUnits, type RankedUnit } from '@/core/job/ranking';
import { useJob, useShelf } from './provider';

/** The units on show in this job, in the shelf's order. */
export function useShownUnits(): readonly StoredUnit[] {
  const shelf = useShelf();
  const shown = useJob((s) => s.doc.pick.shown);
  return useMemo(() => shelf.filter((u) => shown.includes(u.id)), [shelf, shown]);
}

/** The job solved anew whenever its document changes: stock and the units on show. */
export function useModel(): JobModel | Failure {
  const car = useJob((s) => s.doc.car);
  const air = useJob((s) => s.doc.air);
  const opening = useJob((s) => s.doc.pick.opening);
  const doc = useJob((s) => s.doc);
  const units = useShownUnits();
  // The car, the path and the opening decide; the rest of the document (notes, smoothing) must not solve again.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => jobModel(doc, units.map((unit) => ({ unit, opening }))), [car, air, opening, units]);
}

export function useLeftOnTable(model: JobModel | Failure): number | null {
  const doc = useJob((s) => s.doc);
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => (isFailure(model) ? null : leftOnTable(doc, model)), [model]);
}

export function useRanking(model: JobModel | Failure): readonly RankedUnit[] {
  const doc = useJob((s) => s.doc);
  const units = useShownUnits();
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => (isFailure(model) ? [] : rankUnits(doc, model, units)), [model, units]);
}
