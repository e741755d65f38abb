import type { DocumentChange } from '@/core/documents/changes';
import type { UnitPack } from '@/core/units/measures';
import { formatQuantity } from '@/core/units/quantity';

const LONGEST = 60;

/** A value out of a document as a reader sees it, in their units. */
export function valueText(value: unknown, change: DocumentChange, pack: UnitPack): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (typeof value === 'number') return change.measure ? formatQuantity(value, change.measure, pack) : String(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value))
    return value.every((v) => typeof v === 'string') ? value.join(', ').slice(0, LONGEST) || 'none' : `${value.length} of them`;
  if (typeof value === 'object') return 'something';
  return `“${String(value).slice(0, LONGEST)}”`;
}
