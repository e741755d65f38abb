import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { finishedJobs } from '@/server/similar';

/** What this shop's finished jobs say of their units. */
export const GET = route(async () => Response.json(await finishedJobs(db())));
