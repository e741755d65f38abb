import type { SideComparison } from '../compare/sides';
import { isFailure } from '../failure';
import { STRIP_MEASURES, type StripAnalysis, type StripMeasure } from '../strip/analyse';

/** An effect as a bar: in multiples of what matters, better to the right. */
export interface EffectBar {
  readonly of: 'dyno' | StripMeasure;
  readonly middle: number;
  readonly low: number;
  readonly high: number;
}

/** Every measured effect on one scale, so that a picture shows at once which lie beyond what matters and which reach across nothing. */
export function effectBars(
  comparison: SideComparison | null,
  strip: StripAnalysis | null,
  strips: Readonly<Record<StripMeasure, number>>,
): EffectBar[] {
  const bars: EffectBar[] = [];
  const e = comparison?.deciding.estimate;
  if (comparison && e) {
    const t = comparison.threshold_pct;
    bars.push({ of: 'dyno', middle: comparison.deciding.mean_pct / t, low: e.low / t, high: e.high / t });
  }
  for (const of of STRIP_MEASURES) {
    const found = strip?.effects[of];
    if (!found || isFailure(found)) continue;
    // Times are better the shorter they are.
    const t = (of === 'trap_mps' ? 1 : -1) * strips[of];
    const [x, y] = [found.effect.low / t, found.effect.high / t];
    bars.push({ of, middle: found.effect.effect / t, low: Math.min(x, y), high: Math.max(x, y) });
  }
  return bars;
}

/** Half of the scale a picture of bars needs: whole multiples, at least two. */
export const barReach = (bars: readonly EffectBar[]): number =>
  Math.max(2, Math.ceil(bars.reduce((m, b) => Math.max(m, Math.abs(b.low), Math.abs(b.high)), 0)));
