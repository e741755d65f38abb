'use client';

import { usePathname, useSearchParams } from 'next/navigation';
import { useEffect } from 'react';

/** A thing may come onto its page this long after the page, ms. */
const WAIT_ms = 8000;
const LOOK_EVERY_ms = 120;
const SHOWN_ms = 2500;

/** Brings the very thing that was searched for into view, opens what it lies in, and outlines it for a moment. */
export function Found() {
  const path = usePathname();
  const wanted = useSearchParams().get('found');
  useEffect(() => {
    if (wanted === null || wanted === '') return;
    const until = Date.now() + WAIT_ms;
    let hide: ReturnType<typeof setTimeout> | undefined;
    const look = setInterval(() => {
      const at = document.querySelector<HTMLElement>(`[data-found="${CSS.escape(wanted)}"]`);
      if (at === null && Date.now() < until) return;
      clearInterval(look);
      if (at === null) return;
      for (let el: HTMLElement | null = at; el; el = el.parentElement) if (el instanceof HTMLDetailsElement) el.open = true;
      at.scrollIntoView({ block: 'center' });
      at.tabIndex = -1;
      at.focus({ preventScroll: true });
      at.classList.add('found');
      hide = setTimeout(() => at.classList.remove('found'), SHOWN_ms);
    }, LOOK_EVERY_ms);
    return () => {
      clearInterval(look);
      clearTimeout(hide);
    };
  }, [path, wanted]);
  return null;
}
