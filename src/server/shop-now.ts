import 'server-only';
import { cache } from 'react';
import type { ShopSettings } from '@/core/documents/shop';
import { NO_SETTINGS } from '@/core/documents/blank';
import { db } from './db/client';
import { readShop } from './shop';

/** The shop's settings for one page, asked for once; the usual ones while the database is away, so that the frame stands. */
export const shopNow = cache((): Promise<ShopSettings> => readShop(db()).catch(() => NO_SETTINGS));
