import { cutText } from '@/core/cut-text';
import { unitDoc, type StoredUnit, type UnitDoc } from '@/core/documents/unit';
import type { Trx } from './db/client';
import { versionedTable } from './versioned';

/** Throttle bodies on the shelf. Taken off, they stay for the jobs that speak of them. */
export const {
  list: listUnits,
  read: readUnit,
  add: addUnit,
  save: saveUnit,
  setRetired,
} = versionedTable<UnitDoc>('unit', unitDoc, 'throttle');

/** Puts several on the shelf, all or none. */
export async function addUnits(trx: Trx, docs: readonly UnitDoc[]): Promise<StoredUnit[]> {
  const added: StoredUnit[] = [];
  for (const doc of docs) added.push(await addUnit(trx, doc));
  return added;
}

export async function duplicateUnit(trx: Trx, id: string): Promise<StoredUnit> {
  const { doc } = await readUnit(trx, id);
  // Another piece of the same make: its bench figures are the first one's, not its own.
  return addUnit(trx, { ...doc, name: cutText(`${doc.name} (copy)`, 80), bench: [], photo: null });
}
