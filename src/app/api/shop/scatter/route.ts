import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { shopScatter } from '@/server/jobs';

/** How far this shop's own repeated runs scatter, pooled over its jobs; null where none has been repeated. */
export const GET = route(async () => Response.json(await shopScatter(db())));
