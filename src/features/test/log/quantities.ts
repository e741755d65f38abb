import { isSettled } from '@/core/read/guess';
import type { ChannelMap, Quantity, StoredRun } from '@/core/documents/run';
import { shownUnit, type MeasureName, type UnitPack } from '@/core/units/measures';
import { fromSI, type Unit } from '@/core/units/units';

const MEASURE: Partial<Record<Quantity, MeasureName>> = {
  rpm: 'rpm',
  power: 'power',
  torque: 'torque',
  'further power': 'power',
  'further torque': 'torque',
  'manifold pressure': 'plenum',
  boost: 'plenum',
  barometer: 'barometer',
  'inlet air': 'temperature',
  coolant: 'temperature',
  oil: 'temperature',
  'air mass flow': 'massFlow',
  speed: 'roadSpeed',
  distance: 'altitude',
  altitude: 'altitude',
};

const QUANTITY_WORDS: Partial<Record<Quantity, string>> = { rpm: 'engine speed', afr: 'air-fuel ratio', speed: 'road speed' };
export const quantityName = (q: Quantity): string => QUANTITY_WORDS[q] ?? q;

export interface ShownChannel {
  readonly label: string;
  readonly unit: string;
  readonly decimals: number;
  /** From SI (share: percent) to what is shown. */
  readonly show: (si: number) => number;
}

/** How a channel's figures are shown: known quantities in the pack's unit, others as they stood in the file. */
export function shownQuantity(quantity: Quantity, pack: UnitPack): ShownChannel {
  if (quantity === 'throttle' || quantity === 'pedal') return { label: quantity, unit: '%', decimals: 0, show: (v) => v };
  if (quantity === 'cylinder air') return { label: quantity, unit: 'mg', decimals: 0, show: (v) => v * 1e6 };
  const measure = MEASURE[quantity];
  if (!measure) return { label: quantityName(quantity), unit: '', decimals: quantity === 'lambda' ? 2 : 1, show: (v) => v };
  const { unit, decimals }: { unit: Unit; decimals: number } = shownUnit(measure, pack);
  return { label: quantityName(quantity), unit: unit.label, decimals, show: (v) => fromSI(v, unit) };
}

export function shownChannel(run: StoredRun, map: ChannelMap, pack: UnitPack): ShownChannel {
  const column = run.columns[map.column];
  if (map.quantity !== 'other' && map.quantity !== 'time' && isSettled(map)) return shownQuantity(map.quantity, pack);
  return { label: column?.name ?? `column ${map.column + 1}`, unit: column?.unit ?? '', decimals: 2, show: (v) => v };
}
