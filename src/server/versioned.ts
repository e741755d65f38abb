import type { z } from 'zod';
import { readKept } from '@/core/documents/kept';
import { acceptedChange } from './accept';
import type { Db, Trx } from './db/client';
import { notFound, stale } from './errors';
import { isUuid } from './ids';
import { personNow } from './who';

/** A document as it is kept: with its id, and the version a save must name. */
export interface Versioned<D> {
  readonly id: string;
  readonly version: number;
  readonly doc: D;
}

const COLUMNS = ['id', 'version', 'doc'] as const;

/** Documents of one table that are put aside, never deleted: how each is listed, read, added and saved. */
export function versionedTable<D>(table: 'unit' | 'tested_part', schema: z.ZodType<D>, what: string) {
  const stored = (row: { id: string; version: number; doc: unknown }): Versioned<D> => ({
    id: row.id,
    version: row.version,
    doc: readKept(schema, row.doc),
  });
  const read = async (db: Db | Trx, id: string): Promise<Versioned<D>> => {
    const row = isUuid(id) ? await db.selectFrom(table).select(COLUMNS).where('id', '=', id).executeTakeFirst() : undefined;
    if (!row) throw notFound(what);
    return stored(row);
  };
  return {
    read,
    /** What is in use, in the order it came, and those among `also` that were put aside since. */
    async list(db: Db | Trx, also: readonly string[] = []): Promise<Versioned<D>[]> {
      const kept = also.filter(isUuid);
      const rows = await db
        .selectFrom(table)
        .select(COLUMNS)
        .where((e) => (kept.length === 0 ? e('retired_at', 'is', null) : e.or([e('retired_at', 'is', null), e('id', 'in', kept)])))
        .orderBy('created_at')
        .orderBy('id')
        .execute();
      return rows.map(stored);
    },
    async add(db: Db | Trx, doc: D): Promise<Versioned<D>> {
      const row = await db
        .insertInto(table)
        .values({ doc: JSON.stringify(schema.parse(doc)), saved_by: personNow() })
        .returning(COLUMNS)
        .executeTakeFirstOrThrow();
      return stored(row);
    },
    /** Saves if it is still at `version`; a newer one comes back with the refusal. */
    async save(trx: Trx, id: string, version: number, doc: D): Promise<Versioned<D>> {
      const before = await read(trx, id);
      if (before.version !== version) throw stale(before);
      const row = isUuid(id)
        ? await trx
            .updateTable(table)
            .set({
              doc: JSON.stringify(acceptedChange(schema, before.doc, doc)),
              version: version + 1,
              saved_by: personNow(),
              saved_at: new Date(),
            })
            .where('id', '=', id)
            .where('version', '=', version)
            .returning(COLUMNS)
            .executeTakeFirst()
        : undefined;
      if (!row) throw stale(await read(trx, id));
      return stored(row);
    },
    async setRetired(trx: Trx, id: string, retired: boolean): Promise<void> {
      await read(trx, id);
      await trx
        .updateTable(table)
        .set({ retired_at: retired ? new Date() : null })
        .where('id', '=', id)
        .execute();
    },
  };
}
