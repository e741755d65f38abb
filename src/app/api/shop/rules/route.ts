import { shopRulesDoc } from '@/core/documents/shop-rules';
import { db } from '@/server/db/client';
import { body, route } from '@/server/http';
import { readShopRules, saveShopRules } from '@/server/shop';

export const GET = route(async () => Response.json(await readShopRules(db())));

export const PUT = route(async (req) => {
  const rules = await body(req, shopRulesDoc);
  return Response.json(
    await db()
      .transaction()
      .execute((trx) => saveShopRules(trx, rules)),
  );
});
