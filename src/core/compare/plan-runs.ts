import type { PlanDoc } from '../documents/plan';
import { isFailure } from '../failure';
import type { SideMark } from './permutation';
import { powerWith, runsPerSide } from './planning';

/** What a plan comes to with n runs a side. */
export interface PlannedDay {
  readonly runsPerSide: number;
  /** The sides in the order they are run. */
  readonly sequence: readonly SideMark[];
  /** Times the part is changed on the car. */
  readonly swaps: number;
  readonly minutes: number;
  readonly cost: number;
}

/** The order of runs: the old part before and after the new one, turn and turn about, or one after the other. */
function sequenceOf(order: PlanDoc['order'], n: number): SideMark[] {
  const many = (side: SideMark, k: number): SideMark[] => new Array<SideMark>(k).fill(side);
  switch (order) {
    case 'A-B':
      return [...many('A', n), ...many('B', n)];
    case 'alternating':
      return Array.from({ length: 2 * n }, (_, i) => (i % 2 === 0 ? 'A' : 'B'));
    case 'A-B-A': {
      // One run cannot stand before and after: the old part is then run twice.
      const after = Math.max(1, Math.floor(n / 2));
      return [...many('A', Math.max(1, n - after)), ...many('B', n), ...many('A', after)];
    }
  }
}

export function plannedDay(plan: PlanDoc, n: number): PlannedDay {
  const sequence = sequenceOf(plan.order, n);
  const swaps = sequence.filter((s, i) => i > 0 && s !== sequence[i - 1]).length;
  return {
    runsPerSide: n,
    sequence,
    swaps,
    minutes: sequence.length * plan.minutesPerRun + swaps * plan.minutesPerSwap,
    cost: plan.costPerVisit + sequence.length * plan.costPerRun,
  };
}

/** More runs a side than this are planned by nobody, whatever the scatter asks for. */
const MOST_PLANNED = 12;
const FEWEST_PLANNED = 3;

/**
 * Runs a side a plan should have: enough to tell the effect that is expected (but no less than what matters) from the
 * scatter of single runs, with 80 % chance; three at least, and never more than a long day holds.
 */
export function suggestedRuns(effect_pct: number | null, threshold_pct: number, sd_pct: number): { runs: number; asked: number | null } {
  const effect = Math.max(threshold_pct, Math.abs(effect_pct ?? threshold_pct));
  const needed = runsPerSide({ effect, sd: sd_pct });
  const asked = isFailure(needed) ? null : needed.runsPerSide;
  return { runs: Math.min(MOST_PLANNED, Math.max(FEWEST_PLANNED, asked ?? MOST_PLANNED)), asked };
}

/** Chance of telling an effect with 2 … most runs a side, as a curve for the plan's picture. */
export function chanceCurve(effect_pct: number, sd_pct: number, most = MOST_PLANNED): { runs: number[]; chance: number[] } {
  const runs = Array.from({ length: most - 1 }, (_, i) => i + 2);
  return { runs, chance: runs.map((n) => powerWith(n, effect_pct, sd_pct)) };
}
