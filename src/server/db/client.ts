import { Kysely, PostgresDialect, type Transaction } from 'kysely';
import { Pool } from 'pg';
import { noteQuery, watchPool } from '../watch';
import type { Database } from './tables';

export type Db = Kysely<Database>;
export type Trx = Transaction<Database>;

/** What the process shares, whichever bundle of the server asks for it. */
const holder = globalThis as { vannerDb?: Db; vannerPools?: WeakMap<object, Pool> };
const pools = (): WeakMap<object, Pool> => (holder.vannerPools ??= new WeakMap());

/** The pool under a client, for what its query builder has no word for. */
export function poolOf(db: Db): Pool {
  const pool = pools().get(db);
  if (!pool) throw new Error('A transaction has one connection and no pool.');
  return pool;
}

/** A pool on a database. One that is away says so at once; the wait is for a connection while all are in use. */
export function connect(url: string, max = 10): Db {
  const pool = new Pool({
    connectionString: url,
    max,
    connectionTimeoutMillis: 10_000,
    idleTimeoutMillis: 10_000,
    application_name: 'vanner',
  });
  // A dropped idle connection is news for the pool, not the end of the process.
  pool.on('error', () => {});
  // Nor is one that drops while it is at work: its query fails, and says so to whoever asked.
  pool.on('connect', (client) => client.on('error', () => {}));
  watchPool(pool);
  const made = new Kysely<Database>({
    dialect: new PostgresDialect({ pool }),
    log: (event) => noteQuery(event.queryDurationMillis, event.query.sql),
  });
  pools().set(made, pool);
  return made;
}

/** The process's client, made on first use so that a build needs no database. */
export function db(): Db {
  if (!holder.vannerDb) {
    const url = process.env['DATABASE_URL'];
    if (!url) throw new Error('DATABASE_URL is not set: start Vanner with npm start or npm run dev.');
    holder.vannerDb = connect(url);
  }
  return holder.vannerDb;
}
