import { z } from 'zod';
import { listKeys, makeKey } from '@/server/api-keys';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';

const named = z.object({ name: z.string().trim().min(1, 'Give the key a name: what will use it?').max(60) });

export const GET = route(async () => Response.json(await listKeys(db())));

/** Makes a key; its text is in this answer and nowhere else. */
export const POST = route(async (req) => Response.json(await makeKey(db(), (await body(req, named)).name), { status: 201 }));
