import type { GearboxDoc } from '../documents/job';

/** The engine speeds used between changes, a band a gear: from what a change falls back to up to the change, rpm. */
export function usedBands({ ratios }: Pick<GearboxDoc, 'ratios'>, shift_rpm: number): [number, number][] {
  return ratios.slice(1).map((ratio, i) => [shift_rpm * (ratio / ratios[i]!), shift_rpm]);
}
