import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import { connect, type Db } from '@/server/db/client';
import { migrate } from '@/server/db/migrate';

/** A fresh database of its own on the tests' cluster, migrated (as far as `until`), and how to drop it. */
export async function freshDatabase(until?: string): Promise<{ db: Db; url: string; drop: () => Promise<void> }> {
  const server = process.env['TEST_DATABASE_URL'];
  if (!server) throw new Error('TEST_DATABASE_URL is not set: run the database tests through npm test.');
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  const admin = async (query: string): Promise<void> => {
    const client = new Client({ connectionString: server });
    await client.connect();
    await client.query(query);
    await client.end();
  };
  await admin(`CREATE DATABASE ${name}`);
  const url = new URL(server);
  url.pathname = `/${name}`;
  const db = connect(url.href, 4);
  await migrate(db, until);
  return {
    db,
    url: url.href,
    drop: async () => {
      await db.destroy();
      await admin(`DROP DATABASE ${name} WITH (FORCE)`);
    },
  };
}
