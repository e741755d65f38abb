import { NO_DEFAULTS, shopDefaultsDoc, type ShopDefaults } from '@/core/documents/job';
import type { Db, Trx } from './db/client';

export interface Shop {
  readonly name: string;
}

/** The shop's own words about itself; a nameless one until somebody has said. */
export async function readShop(db: Db): Promise<Shop> {
  const row = await db.selectFrom('meta').select('value').where('key', '=', 'shop').executeTakeFirst();
  const name = (row?.value as { name?: unknown } | undefined)?.name;
  return { name: typeof name === 'string' ? name : '' };
}

export async function nameShop(trx: Trx, name: string): Promise<void> {
  const value = JSON.stringify({ name });
  await trx
    .insertInto('meta')
    .values({ key: 'shop', value })
    .onConflict((c) => c.column('key').doUpdateSet({ value }))
    .execute();
}

/** The limits new jobs of this shop start from. */
export async function readShopDefaults(db: Db | Trx): Promise<ShopDefaults> {
  const row = await db.selectFrom('meta').select('value').where('key', '=', 'defaults').executeTakeFirst();
  return row ? shopDefaultsDoc.parse(row.value) : NO_DEFAULTS;
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
