'use client';

import { useEffect, useMemo, useState } from 'react';
import { NO_SETTINGS, type ShopSettings } from '@/core/documents/shop';
import type { JobFacts } from '@/core/verdict/facts';
import { verdictReport, type VerdictReport } from '@/core/verdict/report';
import { useJob, useRuns, useShelf } from '@/features/job/provider';
import { send } from '@/ui/post';

/** The verdict of the open job: what was measured comes from the server anew after every save, the rest moves as it is typed. */
export function useReport(): { report: VerdictReport | null; wrong: string | null } {
  const id = useJob((s) => s.id);
  const version = useJob((s) => s.version);
  const { runs } = useRuns();
  const doc = useJob((s) => s.doc);
  const units = useShelf();
  const [facts, setFacts] = useState<JobFacts | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    send<JobFacts>('GET', `/api/jobs/${id}/facts`)
      .then((f) => {
        if (!current) return;
        setFacts(f);
        setWrong(null);
      })
      .catch((e: Error) => current && setWrong(e.message));
    return () => {
      current = false;
    };
  }, [id, version, runs]);
  const report = useMemo(() => (facts ? verdictReport(doc, units, facts) : null), [doc, units, facts]);
  return { report, wrong };
}

/** What the shop has settled; nothing until the server has answered. */
export function useShop(): ShopSettings {
  const [shop, setShop] = useState<ShopSettings>(NO_SETTINGS);
  useEffect(() => {
    let current = true;
    send<ShopSettings>('GET', '/api/shop/settings')
      .then((s) => current && setShop(s))
      // A name and a sum can be typed without it.
      .catch(() => {});
    return () => {
      current = false;
    };
  }, []);
  return shop;
}
