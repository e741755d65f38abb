'use client';

import { useEffect, useState } from 'react';
import type { ShopHistory } from '@/core/inference/shop-history';
import { send } from '@/ui/post';
import { useJob } from './provider';

/** The shop's own history without this job's part in it; null until the server has answered, or where it does not. */
export function useShopHistory(): ShopHistory | null {
  const id = useJob((s) => s.id);
  const [history, setHistory] = useState<ShopHistory | null>(null);
  useEffect(() => {
    let current = true;
    send<ShopHistory>('GET', `/api/shop/history?job=${id}`)
      .then((h) => current && setHistory(h))
      // Without it the assumptions stand, and say so.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, [id]);
  return history;
}
