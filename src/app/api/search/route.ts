import { z } from 'zod';
import { db } from '@/server/db/client';
import { query, route } from '@/server/http';
import { search } from '@/server/search';

const wanted = z.object({ q: z.string().max(200, 'A search has 200 letters at most.') });

export const GET = route(async (req) => Response.json(await search(db(), query(req, wanted).q)));
