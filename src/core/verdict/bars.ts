import type { SideComparison } from '../compare/sides';
import { isFailure } from '../failure';
import { STRIP_MEASURES, type StripAnalysis, type StripMeasure } from '../strip/analysis';

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
  if (comparison) {
    const t = comparison.threshold_pct;
    const { estimate, low, high } = comparison.deciding.answer;
    bars.push({ of: 'dyno', middle: estimate / t, low: low / t, high: high / t });
  }
  for (const measure of STRIP_MEASURES) {
    const found = strip?.effects[measure];
    if (!found || isFailure(found)) continue;
    // Times are better the shorter they are.
    const t = (measure === 'trap_mps' ? 1 : -1) * strips[measure];
    const [x, y] = [found.answer.low / t, found.answer.high / t];
    bars.push({ of: measure, middle: found.answer.estimate / t, low: Math.min(x, y), high: Math.max(x, y) });
  }
  return bars;
}

/** Half of the scale a picture of bars needs: whole multiples, at least two. */
export const barReach = (bars: readonly EffectBar[]): number =>
  Math.max(2, Math.ceil(bars.reduce((m, b) => Math.max(m, Math.abs(b.low), Math.abs(b.high)), 0)));
