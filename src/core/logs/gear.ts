import type { GearboxDoc } from '../documents/job';

/** A gear found in a log: what engine speed over road speed came to, and its number where the gearbox is known. */
export interface FoundGear {
  /** Turns of the engine for a metre of road, 1/m. */
  readonly turnsPerMetre: number;
  readonly gear: number | null;
}

/** A gear is believed within this of what the gearbox says. */
const GEAR_WITHIN = 0.06;

/** Turns of the engine for a metre of road in each gear; empty where final drive or tyre is not known. */
export function gearTable({ ratios, final, tyre_m }: GearboxDoc): number[] {
  return final === null || tyre_m === null ? [] : ratios.map((r) => (r * final) / tyre_m);
}

/** Which gear a ratio of engine to road speed speaks of. */
export function gearOf(turnsPerMetre: number, gearbox: GearboxDoc): FoundGear {
  const table = gearTable(gearbox);
  const off = (t: number): number => Math.abs(Math.log(turnsPerMetre / t));
  const best = table.reduce((k, t, i) => (k < 0 || off(t) < off(table[k]!) ? i : k), -1);
  return { turnsPerMetre, gear: best >= 0 && off(table[best]!) < GEAR_WITHIN ? best + 1 : null };
}
