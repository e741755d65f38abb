import { Migrator, type Kysely, type Migration } from 'kysely';
import type { Database } from './tables';
import { first } from './migrations/001-first';

/** A static list, so that the built app and the scripts run the same ones in the same order. Migrations only go forward. */
const MIGRATIONS: Record<string, Migration> = { '001-first': first };

/** Brings a database to the newest form; resolves with the names of the migrations that ran. */
export async function migrate(db: Kysely<Database>): Promise<string[]> {
  const migrator = new Migrator({ db, provider: { getMigrations: () => Promise.resolve(MIGRATIONS) } });
  const { error, results } = await migrator.migrateToLatest();
  if (error) throw error instanceof Error ? error : new Error(JSON.stringify(error));
  return (results ?? []).map((r) => r.migrationName);
}
