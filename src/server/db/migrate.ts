import { Migrator, type Kysely, type Migration } from 'kysely';
import type { Database } from './tables';
import { first } from './migrations/001-first';
import { workshop } from './migrations/002-workshop';
import { runSheet } from './migrations/003-run-sheet';
import { logs } from './migrations/004-logs';
import { record } from './migrations/005-record';
import { api } from './migrations/007-api';
import { packedSamples } from './migrations/008-packed-samples';
import { owners } from './migrations/009-owners';
import { sessions } from './migrations/010-sessions';
import { attempts } from './migrations/011-attempts';
import { work } from './migrations/012-work';
import { lastRuns } from './migrations/013-last-runs';
import { headings } from './migrations/014-headings';
import { guessedHumidity } from './migrations/015-guessed-humidity';
import { keptSums } from './migrations/016-kept-sums';
import { partsOfFiles } from './migrations/006-parts-of-files';

/** A static list, so that the built app and the scripts run the same ones in the same order. Migrations only go forward. */
const MIGRATIONS: Record<string, Migration> = {
  '001-first': first,
  '002-workshop': workshop,
  '003-run-sheet': runSheet,
  '004-logs': logs,
  '005-record': record,
  '006-parts-of-files': partsOfFiles,
  '007-api': api,
  '008-packed-samples': packedSamples,
  '009-owners': owners,
  '010-sessions': sessions,
  '011-attempts': attempts,
  '012-work': work,
  '013-last-runs': lastRuns,
  '014-headings': headings,
  '015-guessed-humidity': guessedHumidity,
  '016-kept-sums': keptSums,
};

/** What a database is brought up by, in order. */
export const MIGRATION_NAMES: readonly string[] = Object.keys(MIGRATIONS);

/** Brings a database to the newest form, or to that of `until`; resolves with the names of the migrations that ran. */
export async function migrate(db: Kysely<Database>, until?: string): Promise<string[]> {
  const migrator = new Migrator({ db, provider: { getMigrations: () => Promise.resolve(MIGRATIONS) } });
  const { error, results } = await (until === undefined ? migrator.migrateToLatest() : migrator.migrateTo(until));
  if (error) throw error instanceof Error ? error : new Error(JSON.stringify(error));
  return (results ?? []).map((r) => r.migrationName);
}
