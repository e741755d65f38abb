import { sql } from 'kysely';
import { db } from '@/server/db/client';

export const dynamic = 'force-dynamic';

/** Whether the app is up, and whether its database is. */
export async function GET(): Promise<Response> {
  const database = await sql`SELECT 1`.execute(db()).then(
    () => true,
    () => false,
  );
  return Response.json({ app: 'vanner', database });
}
