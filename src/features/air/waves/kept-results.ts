import { deleteDB, openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { WaveResult } from '@/core/waves/result';

/** What a curve needs of a result; pictures are large and computed anew. */
export type CurvePoint = Omit<WaveResult, 'curves' | 'picture'>;

interface Schema extends DBSchema {
  points: { key: string; value: CurvePoint };
}

const NAME = 'vanner-waves-';
/** A map is some three hundred; what is beyond this is let go all at once. */
const MOST = 10_000;

/**
 * Points of curves and maps in this browser's own database, by everything that went in, so that a page that is opened again has
 * them at once. They are of one release of the model: another one begins with none. A browser that keeps nothing computes anew.
 */
export class KeptResults {
  private readonly db: Promise<IDBPDatabase<Schema> | null>;

  constructor(release: string) {
    this.db = KeptResults.open(`${NAME}${release}`).catch(() => null);
  }

  private static async open(name: string): Promise<IDBPDatabase<Schema>> {
    const db = await openDB<Schema>(name, 1, { upgrade: (made) => void made.createObjectStore('points') });
    if ((await db.count('points')) > MOST) await db.clear('points');
    // Of former releases nothing is read any more.
    const all = (await (indexedDB as { databases?: () => Promise<{ name?: string }[]> }).databases?.()) ?? [];
    for (const { name: other } of all) if (other?.startsWith(NAME) && other !== name) void deleteDB(other);
    return db;
  }

  /** Those that are kept, each in the place of its key; null: it is not. */
  async load(keys: readonly string[]): Promise<(CurvePoint | null)[]> {
    const db = await this.db;
    if (!db) return keys.map(() => null);
    const { store } = db.transaction('points');
    return Promise.all(keys.map(async (k) => (await store.get(k)) ?? null));
  }

  async put(key: string, { curves: _, picture: __, ...point }: WaveResult): Promise<void> {
    await (await this.db)?.put('points', point, key).catch(() => undefined);
  }

  async close(): Promise<void> {
    (await this.db)?.close();
  }
}
