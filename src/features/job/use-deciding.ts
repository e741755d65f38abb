import { useEffect, useState } from 'react';
import type { StoredUnit } from '@/core/documents/unit';
import { assumptionsOf, decides, type Deciding } from '@/core/job/deciding';
import { leaderOf, type RankedUnit } from '@/core/job/ranking';
import { useJob } from './provider';

/** Typing settles before the assumptions are tried, ms. */
const QUIET_MS = 700;
/** Units that could lead: the best few. */
const MOST_UNITS = 8;

/**
 * The assumption on which the answer hangs, where there is one: each is tried in turn, with a breath between, once typing has
 * settled. Null while none is known.
 */
export function useDeciding(ranked: readonly RankedUnit[]): Deciding | null {
  const doc = useJob((s) => s.doc);
  const leader = leaderOf(ranked);
  const [found, setFound] = useState<{ readonly of: unknown; readonly deciding: Deciding } | null>(null);
  useEffect(() => {
    if (!leader || leader.peakGain_pct === null) return;
    const units: StoredUnit[] = ranked
      .filter((r) => r.misfit === null)
      .slice(0, MOST_UNITS)
      .map((r) => r.unit);
    let waiting: ReturnType<typeof setTimeout>;
    const list = assumptionsOf(doc);
    const next = (i: number): void => {
      const assumption = list[i];
      if (!assumption) return;
      const deciding = decides(doc, units, assumption, leader);
      if (deciding) return setFound({ of: doc, deciding });
      waiting = setTimeout(() => next(i + 1), 0);
    };
    waiting = setTimeout(() => next(0), QUIET_MS);
    return () => clearTimeout(waiting);
  }, [doc, leader, ranked]);
  return found?.of === doc ? found.deciding : null;
}
