'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import type { ShopSettings } from '@/core/documents/shop';
import { NO_SETTINGS } from '@/core/documents/blank';
import type { JobFacts } from '@/core/verdict/facts';
import { verdictReport, type VerdictReport } from '@/core/verdict/report';
import { useJob, useRuns, useShelf } from '@/features/job/provider';
import { send } from '@/ui/post';

/** The verdict of the open job: what was measured comes from the server anew after every save, the rest moves as it is typed. */
export function useReport(first: JobFacts | null = null): { report: VerdictReport | null; wrong: string | null } {
  const id = useJob((s) => s.id);
  const version = useJob((s) => s.version);
  const { runs } = useRuns();
  const doc = useJob((s) => s.doc);
  const units = useShelf();
  const [facts, setFacts] = useState<JobFacts | null>(first);
  const [wrong, setWrong] = useState<string | null>(null);
  const stands = useRef(first === null ? null : { version, runs });
  useEffect(() => {
    // What came with the page is as new as the page.
    if (stands.current?.version === version && stands.current.runs === runs) return;
    stands.current = null;
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
export function useShop(first: ShopSettings | null = null): ShopSettings {
  const [shop, setShop] = useState<ShopSettings>(first ?? NO_SETTINGS);
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
