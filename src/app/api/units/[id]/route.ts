import { z } from 'zod';
import { withoutBounds } from '@/core/documents/kept';
import { unitDoc } from '@/core/documents/unit';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readUnit, saveUnit, setRetired } from '@/server/units';

const save = z.object({ version: z.number().int().min(1), doc: withoutBounds(unitDoc) });
const shelve = z.object({ retired: z.boolean() });

export const GET = route<{ id: string }>(async (_req, { id }) => Response.json(await readUnit(db(), id)));

export const PUT = route<{ id: string }>(async (req, { id }) => {
  const { version, doc } = await body(req, save);
  const saved = await db()
    .transaction()
    .execute((trx) => saveUnit(trx, id, version, doc));
  return Response.json(saved);
});

/** Takes the unit off the shelf, or puts it back. */
export const PATCH = route<{ id: string }>(async (req, { id }) => {
  const { retired } = await body(req, shelve);
  await db()
    .transaction()
    .execute((trx) => setRetired(trx, id, retired));
  return Response.json({ retired });
});
