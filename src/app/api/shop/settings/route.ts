import { shopSettingsDoc } from '@/core/documents/shop';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readShop, saveShop } from '@/server/shop';

export const GET = route(async () => Response.json(await readShop(db())));

export const PUT = route(async (req) => {
  const settings = await body(req, shopSettingsDoc);
  const saved = await db()
    .transaction()
    .execute((trx) => saveShop(trx, settings));
  return Response.json(saved);
});
