'use client';

import { useSyncExternalStore } from 'react';
import { formatQuantity } from '@/core/units/quantity';
import { useJob, useShelf } from './provider';
import { usePrefs } from '@/ui/theme/prefs';
import { msg } from './messages';

const never = (): (() => void) => () => {};

/** A text as it may stand in a style sheet's string. */
const cssText = (text: string): string => `"${text.replace(/["\\<\n]/g, ' ')}"`;

/** On paper: whose shop, which job, which car and throttle, when; on every page its number and the job's. */
export function PrintHead() {
  const { pack, shopName, dates } = usePrefs();
  const number = useJob((s) => s.number);
  const name = useJob((s) => s.doc.name);
  const engine = useJob((s) => s.doc.car.engine);
  const chosen = useJob((s) => s.doc.pick.chosen);
  const unit = useShelf().find((u) => u.id === chosen);
  const today = useSyncExternalStore(
    never,
    () => dates.day(new Date()),
    () => '',
  );
  const foot = [shopName, `No. ${number}`, name, today].filter((t) => t !== '').join(' · ');
  return (
    <div className="print-only print-head">
      <style>{`@page { @bottom-left { content: ${cssText(foot)}; font-size: 9pt; } @bottom-right { content: counter(page) " of " counter(pages); font-size: 9pt; } }`}</style>
      <strong>{shopName === '' ? 'Vanner' : shopName}</strong>
      <span>
        {msg.no} {number} · {name} · {formatQuantity(engine.displacement_m3, 'displacement', pack, 1)}, {engine.cylinders} {msg.cylinders}
      </span>
      <span>
        {unit ? unit.doc.name : 'no throttle body chosen'} · <span suppressHydrationWarning>{today}</span>
      </span>
    </div>
  );
}
