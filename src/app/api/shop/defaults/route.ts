import { shopDefaultsDoc } from '@/core/documents/job';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readShopDefaults, saveShopDefaults } from '@/server/shop';

export const GET = route(async () => Response.json(await readShopDefaults(db())));

/** The limits new jobs start from. */
export const PUT = route(async (req) => {
  const defaults = await body(req, shopDefaultsDoc);
  const saved = await db()
    .transaction()
    .execute((trx) => saveShopDefaults(trx, defaults));
  return Response.json(saved);
});
