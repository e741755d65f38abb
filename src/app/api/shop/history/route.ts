import { db } from '@/server/db/client';
import { route } from '@/server/http';
import { shopHistory } from '@/server/shop-history';

/** What this shop's own studies say of runs, refits and days, rig by rig; `job`: without that job's own. */
export const GET = route(async (req) => Response.json(await shopHistory(db(), new URL(req.url).searchParams.get('job'))));
