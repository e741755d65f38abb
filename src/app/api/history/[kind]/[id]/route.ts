import { z } from 'zod';
import { db } from '@/server/db/client';
import { ServerProblem } from '@/server/errors';
import { listVersions, restoreVersion } from '@/server/history';
import { body, route } from '@/server/http';
import { TRASHABLE, type Trashable } from '@/server/trash';

type Of = { kind: string; id: string };
const wanted = z.object({ version: z.number().int().min(1), at: z.number().int().min(1) });

function known(kind: string): Trashable {
  const found = TRASHABLE.find((k) => k === kind);
  if (!found) throw new ServerProblem(404, 'not_found', 'There is no history of such a thing.');
  return found;
}

export const GET = route<Of>(async (_req, { kind, id }) => Response.json(await listVersions(db(), known(kind), id)));

/** Saves an older version as the newest, over the version it was looked at from. */
export const POST = route<Of>(async (req, { kind, id }) => {
  const { version, at } = await body(req, wanted);
  const versions = await db()
    .transaction()
    .execute(async (trx) => {
      await restoreVersion(trx, known(kind), id, version, at);
      return listVersions(trx, known(kind), id);
    });
  return Response.json(versions);
});
