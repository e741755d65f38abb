'use client';

import { createContext, useContext, useMemo } from 'react';
import type { JobPlace } from '@/core/documents/place';
import type { StoredUnit } from '@/core/documents/unit';
import { fitFacts } from '@/core/fit/facts';
import { judgeFit, type Facts, type FitCheck, type FitRule } from '@/core/fit/rule';
import { FIT_RULES } from '@/core/fit/rules';
import type { MeasureName } from '@/core/units/measures';
import { valueAt } from '@/features/job/paths';
import { useJob, useShelf } from '@/features/job/provider';
import { issueText } from '@/core/documents/issue-text';
import { usePrefs } from '@/ui/theme/prefs';

/** Rules of the shop's own, for everything on the stop. */
export const ShopRules = createContext<readonly FitRule[]>([]);

/** The unit chosen for this job, wherever it lies on the shelf. */
export function useChosenUnit(): StoredUnit | undefined {
  const chosen = useJob((s) => s.doc.pick.chosen);
  return useShelf().find((u) => u.id === chosen);
}

/** What is known of the throttle on this car, and every check that counts for it. */
export function useFitChecks(unit: StoredUnit): { facts: Facts; checks: FitCheck[] } {
  const car = useJob((s) => s.doc.car);
  const fit = useJob((s) => s.doc.fit);
  const pick = useJob((s) => s.doc.pick);
  const marks = useJob((s) => s.doc.marks);
  const own = useContext(ShopRules);
  return useMemo(() => {
    const facts = fitFacts({ car, fit, pick, marks }, unit.doc);
    return { facts, checks: judgeFit([...FIT_RULES, ...own], facts, fit.mounting.have) };
  }, [car, fit, pick, marks, unit, own]);
}

/** A piece of the job that is edited as a whole; what does not stand yet is kept, with what is wrong, by its place within the piece. */
export function useDocPart<T>(path: JobPlace): {
  value: T;
  set: (value: T) => void;
  issueAt: (path: string, measure?: MeasureName) => string | undefined;
} {
  const stands = useJob((s) => valueAt(s.doc, path)) as T;
  const pending = useJob((s) => s.pending[path]);
  const write = useJob((s) => s.set);
  const { pack } = usePrefs();
  return {
    value: pending ? (pending.value as T) : stands,
    set: (value) => write(path, value),
    issueAt: (inner, measure = 'count') => (pending?.path === `${path}.${inner}` ? issueText(pending, measure, pack) : undefined),
  };
}
