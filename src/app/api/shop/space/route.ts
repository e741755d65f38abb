import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { readSpace } from '@/server/space';

/** What this shop's record takes of its database. */
export const GET = route(async () => Response.json(await readSpace(db())));
