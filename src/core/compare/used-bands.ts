import type { GearboxDoc } from '../documents/job';
import type { SideComparison, Stretch } from './sides';

/** The engine speeds used between changes, a band a gear: from what a change falls back to up to the change, rpm. */
export function usedBands({ ratios }: Pick<GearboxDoc, 'ratios'>, shift_rpm: number): [number, number][] {
  return ratios.slice(1).map((ratio, i) => [shift_rpm * (ratio / ratios[i]!), shift_rpm]);
}

/** The band driven between the first two gears that was measured; a person's own bands stand before those of the gearbox. */
export const drivenBand = (c: SideComparison, ownBands: number): Stretch | null =>
  c.own.find((s) => Number(s.id.replace('own-', '')) >= ownBands) ?? null;
