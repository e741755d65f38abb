import { z } from 'zod';
import { KEY_SCOPES, listKeys, makeKey } from '@/server/api-keys';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';

const named = z.object({
  name: z.string().trim().min(1, 'Give the key a name: what will use it?').max(60),
  scope: z.enum(KEY_SCOPES).default('write'),
  jobId: z.uuid().nullable().default(null),
});

export const GET = route(async () => Response.json(await listKeys(db())));

/** Makes a key; its text is in this answer and nowhere else. */
export const POST = route(async (req) => {
  const { name, scope, jobId } = await body(req, named);
  return Response.json(await makeKey(db(), name, scope, jobId), { status: 201 });
});
