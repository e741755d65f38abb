import { unitDoc, type StoredUnit, type UnitDoc } from '@/core/documents/unit';
import type { Db, Trx } from './db/client';

const stored = (row: { id: string; version: number; doc: unknown }): StoredUnit => ({
  id: row.id,
  version: row.version,
  doc: unitDoc.parse(row.doc),
});

/** Every unit on the shelf, in the order they were put there. */
export async function listUnits(db: Db | Trx): Promise<StoredUnit[]> {
  const rows = await db.selectFrom('unit').select(['id', 'version', 'doc']).orderBy('created_at').orderBy('id').execute();
  return rows.map(stored);
}

export async function addUnit(db: Db | Trx, doc: UnitDoc): Promise<StoredUnit> {
  const row = await db
    .insertInto('unit')
    .values({ doc: JSON.stringify(unitDoc.parse(doc)) })
    .returning(['id', 'version', 'doc'])
    .executeTakeFirstOrThrow();
  return stored(row);
}
