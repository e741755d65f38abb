import { readKept } from '@/core/documents/kept';
import { shopDefaultsDoc, type ShopDefaults } from '@/core/documents/job';
import { NO_DEFAULTS, NO_SETTINGS } from '@/core/documents/blank';
import { shopSettingsDoc, type ShopSettings } from '@/core/documents/shop';
import { shopRulesDoc, type ShopRule } from '@/core/documents/shop-rules';
import type { Db, Trx } from './db/client';

/** What the shop has settled for itself; a nameless one until somebody has said. */
export async function readShop(db: Db | Trx): Promise<ShopSettings> {
  const row = await db.selectFrom('meta').select('value').where('key', '=', 'shop').executeTakeFirst();
  return row ? readKept(shopSettingsDoc, row.value) : NO_SETTINGS;
}

export async function saveShop(trx: Trx, settings: ShopSettings): Promise<ShopSettings> {
  const parsed = shopSettingsDoc.parse(settings);
  const value = JSON.stringify(parsed);
  await trx
    .insertInto('meta')
    .values({ key: 'shop', value })
    .onConflict((c) => c.column('key').doUpdateSet({ value }))
    .execute();
  return parsed;
}

/** The limits new jobs of this shop start from. */
export async function readShopDefaults(db: Db | Trx): Promise<ShopDefaults> {
  const row = await db.selectFrom('meta').select('value').where('key', '=', 'defaults').executeTakeFirst();
  return row ? readKept(shopDefaultsDoc, row.value) : NO_DEFAULTS;
}

export async function saveShopDefaults(trx: Trx, defaults: ShopDefaults): Promise<ShopDefaults> {
  const parsed = shopDefaultsDoc.parse(defaults);
  const value = JSON.stringify(parsed);
  await trx
    .insertInto('meta')
    .values({ key: 'defaults', value })
    .onConflict((c) => c.column('key').doUpdateSet({ value }))
    .execute();
  return parsed;
}

/** Checks of fit that this shop added to the usual ones. */
export async function readShopRules(db: Db | Trx): Promise<ShopRule[]> {
  const row = await db.selectFrom('meta').select('value').where('key', '=', 'fit rules').executeTakeFirst();
  return row ? readKept(shopRulesDoc, (row.value as { rules: unknown }).rules) : [];
}

export async function saveShopRules(trx: Trx, rules: readonly ShopRule[]): Promise<ShopRule[]> {
  const parsed = shopRulesDoc.parse(rules);
  const value = JSON.stringify({ rules: parsed });
  await trx
    .insertInto('meta')
    .values({ key: 'fit rules', value })
    .onConflict((c) => c.column('key').doUpdateSet({ value }))
    .execute();
  return parsed;
}
