import { z } from 'zod';
import { unitDoc } from '@/core/documents/unit';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { addUnits, duplicateUnit, listUnits } from '@/server/units';

const MOST_AT_ONCE = 500;
const request = z.union([z.object({ duplicateOf: z.uuid() }), z.object({ units: z.array(unitDoc).min(1).max(MOST_AT_ONCE) })]);

export const GET = route(async () => Response.json(await listUnits(db())));

/** Puts units on the shelf, all or none. */
export const POST = route(async (req) => {
  const wanted = await body(req, request);
  const added = await db()
    .transaction()
    .execute(async (trx) => ('duplicateOf' in wanted ? [await duplicateUnit(trx, wanted.duplicateOf)] : addUnits(trx, wanted.units)));
  return Response.json(added, { status: 201 });
});
