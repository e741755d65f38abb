import { thirdOf } from '../numbers/thirds';
import type { Deciding } from '../documents/kinds';
import type { WrittenPlanDoc } from '../documents/plan';
import { isFailure } from '../failure';
import { peakGain } from '../numbers/peak';
import type { JobModel } from './model';

/** What the model says of a throttle now, to be written down before its runs; null where it says nothing. */
export function predictionOf(model: JobModel, unitId: string): WrittenPlanDoc['predicted'] {
  const side = model.candidates.find((c) => c.id === unitId);
  if (!side || isFailure(side.solved)) return null;
  const stock = model.reference.result.power_W;
  const { bottom, middle, top } = predictedOver(model.rpm, stock, side.solved.power_W);
  return { unitId, peak_pct: peakGain(side.solved.power_W, stock), thirds_pct: [bottom, middle, top] };
}

/** Mean predicted gain over a range of engine speed and by thirds of it, % of stock's mean there. */
export function predictedOver(
  rpm: readonly number[],
  stock_W: readonly number[],
  other_W: readonly number[],
  range: readonly [number, number] = [rpm[0]!, rpm.at(-1)!],
): Record<Exclude<Deciding, 'own'>, number> {
  const gain = (keep: (n: number) => boolean): number => {
    let a = 0;
    let b = 0;
    rpm.forEach((n, i) => {
      if (n < range[0] || n > range[1] || !keep(n)) return;
      a += stock_W[i]!;
      b += other_W[i]!;
    });
    return a > 0 ? 100 * (b / a - 1) : NaN;
  };
  const third = (k: number): number => gain((n) => thirdOf(n, range[0], range[1]) === k);
  return { whole: gain(() => true), bottom: third(0), middle: third(1), top: third(2) };
}
